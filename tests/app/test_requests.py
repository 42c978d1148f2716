"""What goes with every answer: ids, headers, one log line."""

import json
import os
import re
import subprocess
import sys

import pytest


@pytest.mark.parametrize("path", ["/healthz", "/api/v1/session", "/api/v1/nothing", "/w/none/sites"])
def test_every_answer_has_an_id_and_keeps_the_browser_strict(stranger, path):
    headers = stranger.client.get(path).headers
    assert re.fullmatch(r"[0-9a-f]{16}", headers["x-request-id"])
    assert headers["x-content-type-options"] == "nosniff"
    assert headers["x-frame-options"] == "DENY"
    policy = headers["content-security-policy"]
    assert "default-src 'self'" in policy
    assert "'unsafe-eval'" not in policy
    assert not re.search(r"https?://", policy)
    if path.startswith("/api"):
        assert headers["cache-control"] == "no-store"


SIGN_IN = """
from starlette.testclient import TestClient
from ulmatic.app import create_app
headers = {"Origin": "http://localhost"}
client = TestClient(create_app(), base_url="http://localhost", headers=headers, client=("alone", 50_000))
entry = {"email": "somebody@example.org", "password": "a secret that is not logged"}
print(client.post("/api/v1/session", json=entry).headers["x-request-id"])
"""


def test_each_request_is_one_line_of_json_without_secrets(database_url):
    environment = {**os.environ, "PYTHONPATH": "src", "ULMATIC_DATABASE_URL": database_url}
    run = subprocess.run([sys.executable, "-c", SIGN_IN], env=environment, capture_output=True, text=True, check=True)
    (line,) = [json.loads(text) for text in run.stderr.splitlines() if run.stdout.strip() in text]
    assert (line["method"], line["path"], line["status"]) == ("POST", "/api/v1/session", 401)
    assert "secret" not in run.stderr
    assert "somebody" not in run.stderr


def test_the_pages_ask_nothing_of_other_hosts(stranger):
    page = stranger.client.get("/").text
    assert not re.search(r"""(src|href)=["'](https?:)?//""", page)
    for asset in re.findall(r'(?:src|href)="(/assets/[^"]+)"', page):
        answer = stranger.client.get(asset)
        assert answer.status_code == 200
        assert answer.headers["Cache-Control"] == "public, max-age=31536000, immutable", "its name is of its content"
        assert not re.search(r"url\((['\"]?)https?:", answer.text)
        assert "@import url(http" not in answer.text


def test_problems_follow_rfc_9457(stranger):
    problem = stranger.client.post("/api/v1/session", json={}).json()
    assert {"type", "title", "status", "detail", "errors", "request_id"} <= set(problem)
    assert problem["detail"] == "2 entries need correction."
    assert problem["errors"] == [
        {"field": "email", "detail": "This is needed."},
        {"field": "password", "detail": "This is needed."},
    ]
