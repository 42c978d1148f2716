"""Unchanged answers, stray keys, bodies, proxies, measures, the workshop, and errands that are left."""

import asyncio
import json
import os
import random
import shutil
import subprocess
import sys
import time
from collections import Counter
from datetime import timedelta
from itertools import pairwise
from types import SimpleNamespace
from typing import Any
from uuid import UUID, uuid4

import httpx2
import psycopg
import pytest
from pydantic import TypeAdapter
from starlette.responses import PlainTextResponse
from starlette.testclient import TestClient

from tests.conftest import (
    BINARY,
    CLOCK,
    HOST,
    STARTS_WITHIN_S,
    bed,
    described_api,
    settings_for,
    typed_bed,
    wait_for_answer,
)
from ulmatic.accounts.models import User
from ulmatic.accounts.scope import is_member
from ulmatic.accounts.service import found_workspace
from ulmatic.app import create_app
from ulmatic.core.log import LogEntry
from ulmatic.core.recipe import RecipeEdits
from ulmatic.core.schedule.rules import Rule
from ulmatic.core.supply.suppliers import SupplierTerms
from ulmatic.core.survey import CutOut, Shape, SiteConditions
from ulmatic.errands.service import Errands
from ulmatic.platform import readiness
from ulmatic.platform.bodies import Bodies
from ulmatic.platform.cluster import free_port
from ulmatic.platform.database import engine_for, sessions_for
from ulmatic.platform.problems import Problem
from ulmatic.platform.workshop import Workshop
from ulmatic.records.errands import ErrandRow

PAGES = ("", "/orders", "/moving", "/seasons", "/years", "/nitrogen", "/stock", "/log", "/workings")


@pytest.mark.parametrize("page", PAGES)
def test_a_page_that_did_not_change_is_not_sent_again_and_one_that_did_is(owner, page):
    plot = owner.add_plot()["plot"]
    first = owner.client.get(f"{owner.site}{page}")
    tag = {"If-None-Match": f'"other", W/{first.headers["ETag"]}'}
    second = owner.client.get(f"{owner.site}{page}", headers=tag)
    assert (second.status_code, second.content, second.headers["ETag"]) == (304, b"", first.headers["ETag"])
    assert second.headers["Cache-Control"] == "private, no-cache"
    changed = owner.client.put(
        f"{owner.site}/plots/{plot['id']}", json=typed_bed(wanted_mm="90 mm"), headers={"If-Match": '"1"'}
    )
    assert changed.status_code == 200
    assert owner.client.get(f"{owner.site}{page}", headers=tag).status_code == 200


def test_who_may_not_see_a_page_learns_nothing_by_its_tag(owner, stranger, new_person):
    tag = {"If-None-Match": owner.client.get(owner.site).headers["ETag"]}
    assert stranger.client.get(owner.site, headers=tag).status_code == 401
    assert new_person().client.get(owner.site, headers=tag).status_code == 404


AS_TYPED = ("Of a kind, with the fields of that kind as they are typed", "Fields as they are typed")
"""What is described by `/kinds` or the forms, and read by these."""
READ_AS = (LogEntry, Rule, SupplierTerms, Shape, CutOut, SiteConditions, RecipeEdits)


def loose(schema: dict, schemas: dict, seen: set) -> list[str]:
    """Return the names of what takes keys that are not asked for."""
    if schema.get("additionalProperties") is True and schema.get("title") in AS_TYPED:
        return []
    if "$ref" in schema:
        name = schema["$ref"].rsplit("/", 1)[1]
        if name in seen:
            return []
        seen.add(name)
        return loose(schemas[name] | {"title": name}, schemas, seen)
    parts = [*schema.get("anyOf", []), *schema.get("oneOf", []), *schema.get("allOf", [])]
    parts += list(schema.get("properties", {}).values())
    parts += [part for part in (schema.get("items"), schema.get("additionalProperties")) if isinstance(part, dict)]
    named = "properties" in schema and schema.get("additionalProperties") is not False
    return [schema.get("title", "?")] * named + [name for part in parts for name in loose(part, schemas, seen)]


def test_no_body_takes_a_key_that_is_not_asked_for(owner):
    document = described_api()
    for path, item in document["paths"].items():
        for method, operation in item.items():
            for content in operation.get("requestBody", {}).get("content", {}).values():
                assert loose(content["schema"], document["components"]["schemas"], set()) == [], (method, path)
    typed: Any
    for typed in READ_AS:
        described = TypeAdapter(typed).json_schema()
        schemas = described.get("$defs", {})
        assert loose(described, schemas, set()) == [], typed
    stray = bed(shape={"kind": "rectangle", "length_m": "6 m", "width_m": "2 m", "colour": "red"}, remember="this")
    answer = owner.client.post(f"{owner.site}/plots", json=stray)
    assert answer.status_code == 422
    assert {error["field"] for error in answer.json()["errors"]} == {"shape.colour", "remember"}


def test_a_body_that_comes_too_slowly_is_given_up_and_nothing_large_is_read_of_strangers(app):
    async def echo(scope, receive, send):
        body = (await receive())["body"]
        await PlainTextResponse(str(len(body)))(scope, receive, send)

    async def send_to(size: int, cookie: str = "", pause: float = 0.0) -> int | str:
        count = 0

        async def receive():
            nonlocal count
            count += 1
            await asyncio.sleep(pause)
            return {"type": "http.request", "body": b"x" * size, "more_body": False}

        answers = []

        async def send(message):
            answers.append(message)

        headers = [(b"content-length", str(size).encode()), (b"cookie", cookie.encode())]
        scope = {"type": "http", "method": "POST", "path": "/", "headers": headers, "query_string": b"", "app": app}
        bodies = Bodies(echo, is_member, slowest_s=0.05)
        try:
            await bodies(scope, receive, send)
        except Problem as problem:
            return f"{problem.status} after {count}"
        assert bodies.held == 0
        return answers[0]["status"]

    assert asyncio.run(send_to(19_000)) == 200
    assert asyncio.run(send_to(21_000)) == "401 after 0"
    assert asyncio.run(send_to(21_000, "ulmatic_session=nobody")) == "401 after 0"
    assert asyncio.run(send_to(900, pause=5)) == "408 after 1"
    assert asyncio.run(send_to(6_000_000)) == "413 after 0"


def test_a_proxy_is_believed_only_where_it_is_configured(database_url):
    """Strangers that name an address of their own for each attempt are counted by the one they come from."""
    statuses = {}
    for proxies in ("", "127.0.0.1"):
        port = free_port()
        environment = {
            **os.environ,
            "PYTHONPATH": "src",
            "ULMATIC_DATABASE_URL": database_url,
            "ULMATIC_PROXIES": proxies,
            "ULMATIC_ATTEMPTS": "4 per hour",
        }
        command = [sys.executable, "-m", "ulmatic", "serve", "--port", str(port)]
        server = subprocess.Popen(command, env=environment, stderr=subprocess.DEVNULL)
        address = f"http://127.0.0.1:{port}"
        try:
            wait_for_answer(f"{address}/healthz")
            tries = [
                httpx2.post(
                    f"{address}/api/v1/invitation",
                    json={"token": "none"},
                    headers={"Origin": address, "X-Forwarded-For": f"{proxies or 'x'}{uuid4().hex[:8]}"},
                ).status_code
                for _ in range(13)
            ]
        finally:
            server.terminate()
            server.wait()
        statuses[proxies] = tries
    assert statuses[""] == [404] * 12 + [429]
    assert statuses["127.0.0.1"] == [404] * 13


def test_measures_are_for_who_brings_the_token(database_url):
    client = TestClient(create_app(settings_for(database_url, metrics_token="watch")), base_url=HOST)
    assert client.get("/metrics").status_code == 404
    assert client.get("/metrics", headers={"Authorization": "Bearer wrong"}).status_code == 404
    client.get("/api/v1/uses")
    measures = client.get("/metrics", headers={"Authorization": "Bearer watch"}).text
    assert 'route="/api/v1/uses",status="200"' in measures
    assert "ulmatic_connections" in measures
    assert 'ulmatic_waiting{lane="work"}' in measures
    closed = TestClient(create_app(settings_for(database_url)), base_url=HOST)
    assert closed.get("/metrics", headers={"Authorization": "Bearer "}).status_code == 404


def test_the_log_says_on_whose_side_it_went_wrong(database_url, capfd):
    settings = settings_for(database_url.replace("127.0.0.1:", "127.0.0.1:1"))
    TestClient(create_app(settings), base_url=HOST).get("/readyz")
    lines = [json.loads(line) for line in capfd.readouterr().err.splitlines() if line.startswith("{")]
    (request,) = [line for line in lines if line["event"] == "request"]
    (cause,) = [line for line in lines if line["event"] == "database_unavailable"]
    assert (request["status"], request["fault"], request["request_id"]) == (503, "database", cause["request_id"])
    assert cause["words"]


def test_a_full_disk_is_known(stranger, monkeypatch, capfd):
    assert issubclass(psycopg.errors.DiskFull, psycopg.OperationalError), "PostgreSQL’s own is answered as an outage"
    monkeypatch.setattr(shutil, "disk_usage", lambda _: SimpleNamespace(free=readiness.LEAST_FREE_BYTES - 1))
    answer = stranger.client.get("/readyz")
    assert (answer.status_code, answer.headers["Retry-After"]) == (503, "60")
    assert '"fault": "disk"' in capfd.readouterr().err
    assert stranger.client.get("/healthz").status_code == 200


def sleep_long() -> None:
    time.sleep(60)


def take_much() -> int:
    return len(bytearray(8_000_000_000))


def nothing() -> None:
    """Prepare nothing."""


def test_the_workshop_gives_up_what_takes_too_long_or_too_much_and_goes_on():
    workshop = Workshop(nothing, longest_s=0.5)
    for work in (sleep_long, take_much):
        with pytest.raises(Problem) as refused:
            workshop.do(work)
        assert refused.value.status == 422
    workshop.longest_s = STARTS_WITHIN_S
    assert workshop.do(os.getpid) != os.getpid()


def test_an_errand_that_a_process_left_is_taken_up_by_another(app, owner):
    with app.state.sessions.begin() as database:
        user = owner.client.get("/api/v1/session").json()["user"]["id"]
        long_ago = CLOCK.now() - timedelta(minutes=10)
        errand = ErrandRow(
            workspace_id=owner.workspace_id,
            id=uuid4(),
            kind="hear_offers",
            user_id=user,
            subject={},
            state="running",
            done=0,
            of=0,
            created_at=long_ago,
            started_at=long_ago,
        )
        database.add(errand)
    app.state.background.start()
    address = f"/api/v1/workspaces/{owner.workspace_id}/errands/{errand.id}"
    deadline = time.monotonic() + STARTS_WITHIN_S
    while (state := owner.client.get(address).json())["state"] == "running":
        assert time.monotonic() < deadline
    assert state["problem"]["detail"] == "No chip service is set up."


def test_an_import_tells_how_far_it_is_and_forgets_its_file(app, owner):
    table = "name,measured as,length,width,used for,wanted\n" + "Bed,rectangle,3,2,bank,75\n" * 41
    params = {"name": "a.csv", "import_id": str(uuid4())}
    errand = owner.awaits(owner.client.post(f"{owner.site}/imports", params=params, content=table, headers=BINARY))
    assert (errand["done"], errand["of"], len(errand["result"]["plots"])) == (40, 41, 41)
    with app.state.sessions() as database:
        assert database.get(ErrandRow, (owner.workspace_id, errand["id"])).content is None


def test_who_asks_for_one_errand_does_not_wait_for_the_many_of_others(new_database):
    """Of 60 drawn arrangements: while an errand of one workspace waits, no other has two begun."""
    sessions = sessions_for(engine_for(new_database()), clock=CLOCK)
    order: list[UUID] = []
    errands = Errands(sessions, {"trial": lambda _scope, row, _tell: order.append(row.workspace_id)}, set(), None)
    with sessions.begin() as database:
        owner = User(email="ida@example.org", name="Ida", password_hash="x")
        database.add(owner)
        database.flush()
        workspaces = [found_workspace(database, owner, f"Ground {number}").workspace_id for number in range(4)]
    draw = random.Random(2712)  # noqa: S311
    for _ in range(60):
        askers = [draw.choice(workspaces[: draw.randint(2, 4)]) for _ in range(draw.randint(3, 14))]
        with sessions.begin() as database:
            database.add_all(
                ErrandRow(
                    workspace_id=workspace,
                    id=uuid4(),
                    kind="trial",
                    user_id=owner.id,
                    subject={},
                    state="waiting",
                    done=0,
                    of=0,
                    created_at=CLOCK.now() - timedelta(seconds=100 - number),
                )
                for number, workspace in enumerate(askers)
            )
        order.clear()
        errands.do_waiting()
        assert Counter(order) == Counter(askers)
        for workspace in askers:
            turns = [place for place, begun in enumerate(order) if begun == workspace]
            for since, until in pairwise([-1, *turns]):
                others = Counter(order[since + 1 : until])
                assert all(count == 1 for count in others.values()), (askers, order)
