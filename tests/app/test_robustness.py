"""Whatever is sent, the server answers with a problem and never with 500."""

import json
from typing import Any
from urllib.parse import quote

import pytest
import schemathesis
from hypothesis import HealthCheck, given
from hypothesis import settings as hypothesis_settings
from schemathesis.core.result import Ok
from starlette.testclient import TestClient

from tests.attack.conftest import LONG
from tests.conftest import HOST, bed, described_api, examples, settings_for
from ulmatic.app import create_app

_DOCUMENT = schemathesis.openapi.from_dict(described_api())
OPERATIONS: list[Any] = [outcome.ok() for outcome in _DOCUMENT.get_all_operations() if isinstance(outcome, Ok)]


@pytest.mark.parametrize("operation", OPERATIONS, ids=[operation.label for operation in OPERATIONS])
def test_nothing_sent_by_a_signed_in_owner_breaks_the_server(operation, owner):
    cookies = dict(owner.client.cookies)

    @hypothesis_settings(max_examples=examples(200) if LONG else 4, suppress_health_check=list(HealthCheck))
    @given(case=operation.as_strategy())
    def send(case):
        known = {"workspace_id": owner.workspace_id, "site_id": owner.site_id}
        path = {**(case.path_parameters or {})}
        path |= {name: value for name, value in known.items() if name in path}
        address = operation.path.format(**{name: quote(str(value), safe="") for name, value in path.items()})
        owner.client.cookies.update(cookies)
        body = {} if not operation.body else {"content": json.dumps(case.body, default=str)}
        headers = {"Content-Type": "application/json", "If-Match": '"1"'}
        answer = owner.client.request(operation.method.upper(), address, headers=headers, **body)
        assert answer.status_code < 500, answer.text

    send()


@pytest.mark.parametrize(
    ("content", "status"),
    [(b"{", 400), (b"\xff\xfe", 400), (b"[]", 422), (b"null", 422), (b'"x"', 422), (b"", 422), (b"[" * 100_000, 400)],
)
def test_bodies_that_are_no_entry(owner, content, status):
    answer = owner.client.post(f"{owner.site}/plots", content=content, headers={"Content-Type": "application/json"})
    assert answer.status_code == status
    assert answer.headers["content-type"] == "application/problem+json"
    assert answer.json()["request_id"] == answer.headers["x-request-id"]


@pytest.mark.parametrize(
    "value", [float("nan"), float("inf"), 10**400, True, None, [], {}, "1" * 10_000, "\ud800", "a\x00"]
)
def test_values_that_are_no_measurement(owner, value):
    wrong = json.dumps(bed(wanted_mm=value, shape={"kind": "rectangle", "length_m": value, "width_m": value}))
    answer = owner.client.post(f"{owner.site}/plots", content=wrong, headers={"Content-Type": "application/json"})
    assert answer.status_code == 422, answer.text
    assert {error["field"] for error in answer.json()["errors"]} == {"wanted_mm", "shape.length_m", "shape.width_m"}


def test_too_much_at_once_is_refused(owner):
    assert owner.client.post(f"{owner.site}/plots", content=b" " * 6_000_000).status_code == 413


def test_unknown_addresses_are_answered_in_kind(stranger):
    assert stranger.client.get("/api/v1/nothing").json()["status"] == 404
    assert stranger.client.get("/api/v1/workspaces/none/sites").status_code in (401, 422)
    page = stranger.client.get("/w/anything/sites")
    assert page.headers["content-type"].startswith("text/html")
    assert stranger.client.get("/../pyproject.toml").headers["content-type"].startswith("text/html")


@pytest.mark.parametrize("path", ["/%00", "/" + "a" * 5_000, "/assets/%00", "/w/" + "b" * 300 + "/%00"])
def test_addresses_that_no_file_has_are_refused_and_bear_the_headers(stranger, path):
    answer = stranger.client.get(path)
    assert answer.status_code in (400, 404)
    assert answer.headers["x-content-type-options"] == "nosniff"


@pytest.mark.parametrize("path", ["/", "/healthz", "/api/v1/session", "/api/v1/nothing"])
def test_head_is_get_without_a_body(stranger, path):
    head, get = stranger.client.head(path), stranger.client.get(path)
    assert (head.status_code, head.content) == (get.status_code, b"")
    assert head.headers["content-length"] == get.headers["content-length"]
    assert head.headers["content-type"] == get.headers["content-type"]


def test_an_origin_that_is_no_address_is_refused(stranger):
    answer = stranger.client.post("/api/v1/sessions", json={}, headers={"Origin": "http://[::1"})
    assert (answer.status_code, answer.headers["content-type"]) == (403, "application/problem+json")


def test_another_host_is_refused_with_the_same_headers(stranger):
    answer = stranger.client.get("/", headers={"Host": "elsewhere.example"})
    assert (answer.status_code, answer.headers["x-frame-options"]) == (400, "DENY")


def test_behind_tls_browsers_are_told_to_stay_there(database_url):
    for secure in (True, False):
        client = TestClient(create_app(settings_for(database_url, secure_cookies=secure)), base_url=HOST)
        assert ("strict-transport-security" in client.get("/healthz").headers) == secure
