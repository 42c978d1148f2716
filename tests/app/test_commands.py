"""The commands and scripts people start it with."""

import json
import os
import shutil
import signal
import subprocess
import sys
import tempfile
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from urllib.request import urlopen
from uuid import uuid4

import pytest
from starlette.testclient import TestClient
from typer.testing import CliRunner

from tests.conftest import HOST, PASSWORD, bed, settings_for, typed_bed, wait_for_answer
from ulmatic import cli
from ulmatic.app import create_app
from ulmatic.platform.cluster import free_port
from ulmatic.platform.settings import settings

ROOT = Path(__file__).parents[2]


@pytest.fixture
def run(database_url, monkeypatch):
    monkeypatch.setenv("ULMATIC_DATABASE_URL", database_url)
    settings.cache_clear()
    yield lambda *words, **more: CliRunner().invoke(cli.cli, list(words), **more)
    settings.cache_clear()


@pytest.mark.usefixtures("database_url")
def test_a_password_can_be_set_from_the_terminal(run, owner, monkeypatch):
    email = owner.client.get("/api/v1/session").json()["user"]["email"]
    monkeypatch.setattr("getpass.getpass", lambda _: "words from the terminal")
    assert run("reset-password", email).exit_code == 0
    assert owner.client.get("/api/v1/session").json()["user"] is None
    entry = {"email": email, "password": "words from the terminal"}
    assert owner.client.post("/api/v1/session", json=entry).status_code == 200
    assert run("reset-password", "nobody@example.org").exit_code == 1


def test_an_easily_guessed_password_is_refused_on_the_terminal_too(run, owner, monkeypatch):
    email = owner.client.get("/api/v1/session").json()["user"]["email"]
    monkeypatch.setattr("getpass.getpass", lambda _: "password12345")
    refused = run("reset-password", email)
    assert (refused.exit_code, "easy to guess" in refused.output) == (2, True)
    assert owner.client.get("/api/v1/session").json()["user"] is not None


def test_migrating_at_once_and_again_is_no_harm(run):
    with ThreadPoolExecutor(3) as pool:
        codes = [future.result() for future in [pool.submit(_migrated) for _ in range(3)]]
    assert codes == [0, 0, 0]
    assert run("migrate").exit_code == 0
    assert "users" in run("purge").output


def _migrated() -> int:
    command = [sys.executable, "-m", "ulmatic", "migrate"]
    environment = {**os.environ, "PYTHONPATH": "src", "ULMATIC_DATABASE_URL": settings().database_url}
    return subprocess.run(command, cwd=ROOT, env=environment, check=False).returncode


def test_the_openapi_document_is_printed_and_names_every_problem(run):
    document = json.loads(run("openapi").stdout)
    for path, item in document["paths"].items():
        for method, operation in item.items():
            assert {"400", "401", "403", "404", "422", "429", "503"} <= set(operation["responses"]), (method, path)


def test_the_demo_script_brings_the_demo_up(tmp_path):
    port = free_port()
    home = Path(tempfile.mkdtemp(prefix="ulmatic-demo-"))
    environment = {**os.environ, "ULMATIC_PORT": str(port), "ULMATIC_DATA": str(home)}
    environment.pop("ULMATIC_DATABASE_URL", None)
    with (tmp_path / "said").open("w") as output:
        demo = subprocess.Popen(
            ["scripts/demo"], cwd=ROOT, env=environment, stdout=output, stderr=output, start_new_session=True
        )
    try:
        for address in (f"{port}/readyz", f"{port + 1}/chips/v1/offers", f"{port + 4}/"):
            wait_for_answer(f"http://127.0.0.1:{address}")
        assert json.load(urlopen(f"http://127.0.0.1:{port}/api/v1/session"))["demo"] is True
        assert f"http://127.0.0.1:{port}" in (tmp_path / "said").read_text()
        offers = json.load(urlopen(f"http://127.0.0.1:{port + 1}/chips/v1/offers"))
        assert offers["simulated"] is True
        assert b"simulated" in urlopen(f"http://127.0.0.1:{port + 4}/").read()
    finally:
        os.killpg(demo.pid, signal.SIGTERM)
        demo.wait()
        stop = [sys.executable, "-m", "ulmatic", "stop-database"]
        subprocess.run(stop, cwd=ROOT, env={**environment, "PYTHONPATH": "src"}, check=True)
        shutil.rmtree(home)


def at_once(*calls):
    with ThreadPoolExecutor(len(calls)) as pool:
        return sorted(future.result().status_code for future in [pool.submit(call) for call in calls])


def test_the_same_plot_sent_twice_at_once_is_kept_once(owner):
    entry = bed()
    statuses = at_once(*[lambda: owner.client.post(f"{owner.site}/plots", json=entry)] * 4)
    assert set(statuses) <= {201, 409}
    assert len(owner.client.get(owner.site).json()["plots"]) == 1


def test_of_two_changes_at_once_one_is_told_to_look_again(owner):
    address = f"{owner.site}/plots/{owner.add_plot()['plot']['id']}"
    change = lambda name: owner.client.put(address, json=typed_bed(name=name), headers={"If-Match": '"1"'})  # noqa: E731
    assert at_once(lambda: change("One"), lambda: change("Two")) == [200, 412]


def test_of_two_owners_leaving_at_once_one_stays(owner, new_person):
    other = new_person().joins(owner, "owner")
    people = [person.client.get("/api/v1/session").json()["user"]["id"] for person in (owner, other)]
    members = f"/api/v1/workspaces/{owner.workspace_id}/members"
    leave = [
        lambda person=person, who=who: person.client.delete(f"{members}/{who}")
        for person, who in zip((owner, other), people, strict=True)
    ]
    assert at_once(*leave) == [204, 409]


def test_an_invitation_taken_twice_at_once_makes_one_member(owner, new_person):
    address = f"/api/v1/workspaces/{owner.workspace_id}"
    token = owner.client.post(f"{address}/invitations", json={"role": "crew"}).json()["token"]
    takers = [new_person(), new_person()]
    statuses = at_once(
        *[
            lambda taker=taker: taker.client.post("/api/v1/invitation/acceptance", json={"token": token})
            for taker in takers
        ]
    )
    assert statuses == [200, 404]
    assert len(owner.client.get(f"{address}/members").json()) == 2


def test_an_address_signed_up_twice_at_once_has_one_account(app):
    who = {"name": "Kim", "email": f"{uuid4().hex}@example.org", "password": PASSWORD}
    client = TestClient(app, base_url=HOST, headers={"Origin": HOST})
    assert at_once(*[lambda: client.post("/api/v1/accounts", json=who)] * 2) == [201, 409]


def test_a_public_origin_is_the_only_one(database_url):
    app = create_app(settings_for(database_url, public_origin="https://mulch.example", secure_cookies=True))
    client = TestClient(app, base_url=HOST)
    guess = {"email": "a@b.cd", "password": "x"}
    assert client.post("/api/v1/session", json=guess, headers={"Origin": HOST}).status_code == 403
    assert client.post("/api/v1/session", json=guess, headers={"Origin": "https://mulch.example"}).status_code == 401
    who = {"name": "Kim", "email": f"{uuid4().hex}@example.org", "password": PASSWORD}
    answer = client.post("/api/v1/accounts", json=who, headers={"Origin": "https://mulch.example"})
    assert "secure" in answer.headers["set-cookie"].lower()
