"""Letters by e-mail against the simulated mail server that ships, and what their links do."""

import re
import time
from uuid import uuid4

import pytest
from starlette.testclient import TestClient

from tests.conftest import HOST, PASSWORD, STARTS_WITHIN_S, settings_for
from ulmatic.accounts.letters import MOST_TRIES, Postman
from ulmatic.accounts.models import Letter, MailedToken, User
from ulmatic.app import create_app
from ulmatic.platform.cluster import free_port
from ulmatic.standins.mail import Mailbox, create_page

NEW = "seven other plain words then"


@pytest.fixture
def mailbox():
    return Mailbox()


@pytest.fixture
def mailing(database_url, mailbox):
    """The application with a mail server of its own."""
    port = free_port()
    with mailbox.listening(port):
        app = create_app(settings_for(database_url, smtp_url=f"smtp://127.0.0.1:{port}", public_origin=HOST))
        yield app
        app.state.background.stop()


def somebody(app) -> tuple[TestClient, str]:
    client = TestClient(app, base_url=HOST, headers={"Origin": HOST}, client=(uuid4().hex, 50_000))
    email = f"{uuid4().hex}@example.org"
    entry = {"name": "Kim", "email": email, "password": PASSWORD}
    assert client.post("/api/v1/accounts", json=entry).status_code == 201
    return client, email


def link_to(app, mailbox, email: str, page: str) -> str:
    """Wait for a letter; return the secret of its link."""
    app.state.background.start()
    deadline = time.monotonic() + STARTS_WITHIN_S
    while True:
        for letter in list(mailbox.letters):
            token = re.search(rf"{HOST}/{page}#(\S+)", letter.text)
            if letter.to == email and token:
                return token[1]
        assert time.monotonic() < deadline, "no letter came"
        time.sleep(0.02)


def test_an_address_is_confirmed_by_its_letter_and_nothing_waits_for_it(mailing, mailbox):
    client, email = somebody(mailing)
    assert client.get("/api/v1/session").json()["user"]["verified_at"] is None
    token = link_to(mailing, mailbox, email, "verify")
    assert client.post("/api/v1/account/verification", json={"token": token}).status_code == 204
    assert client.get("/api/v1/session").json()["user"]["verified_at"]
    assert client.post("/api/v1/account/verification", json={"token": token}).status_code == 404, "it works once"


def test_a_forgotten_password_is_renewed_and_every_device_signed_out(mailing, mailbox):
    client, email = somebody(mailing)
    guest = TestClient(mailing, base_url=HOST, headers={"Origin": HOST}, client=(uuid4().hex, 50_000))
    for address in (email.upper(), f"{uuid4().hex}@example.org"):
        assert guest.post("/api/v1/password-letters", json={"email": address}).status_code == 204
    token = link_to(mailing, mailbox, email, "new-password")
    weak = guest.post("/api/v1/passwords", json={"token": token, "password": "qwertyuiop"})
    assert (weak.status_code, weak.json()["errors"][0]["field"]) == (422, "password")
    renewed = guest.post("/api/v1/passwords", json={"token": token, "password": NEW})
    assert (renewed.status_code, renewed.json()["user"]["email"]) == (200, email)
    assert renewed.json()["user"]["verified_at"], "who reads the letter has the address"
    assert client.get("/api/v1/session").json()["user"] is None
    assert guest.post("/api/v1/passwords", json={"token": token, "password": NEW}).status_code == 404
    assert [letter.to for letter in mailbox.letters].count(email) == 2, "none to an unknown address"


def test_an_invitation_goes_to_whom_it_is_meant_for_alone(mailing, mailbox):
    owner, _ = somebody(mailing)
    guest, email = somebody(mailing)
    workspace = owner.get("/api/v1/session").json()["workspaces"][0]["id"]
    address = f"/api/v1/workspaces/{workspace}/invitations"
    invited = owner.post(address, json={"role": "crew", "email": email})
    assert invited.json()["token"] is None
    token = link_to(mailing, mailbox, email, "join")
    assert guest.post("/api/v1/invitation/acceptance", json={"token": token}).json()["role"] == "crew"
    refused = owner.post(address, json={"role": "crew", "email": "nobody"})
    assert (refused.status_code, refused.json()["errors"][0]["field"]) == (422, "email")


def test_no_secret_is_kept_or_logged(mailing, mailbox, capfd):
    client, email = somebody(mailing)
    token = link_to(mailing, mailbox, email, "verify")
    with mailing.state.sessions() as database:
        assert token not in str(database.query(MailedToken.token_hash).all())
        owner = database.query(User).filter_by(email=email).one()
        assert not database.query(Letter).filter_by(user_id=owner.id).all() or token
    client.post("/api/v1/account/verification", json={"token": token})
    output = capfd.readouterr()
    assert "/api/v1/account/verification" in output.err
    assert token not in output.err + output.out
    assert email not in output.err


def test_a_letter_that_cannot_be_sent_is_tried_again_and_given_up(app):
    _, email = somebody(app)
    postman = Postman(app.state.sessions, f"smtp://127.0.0.1:{free_port()}", "us@example.org", HOST)
    for tries in range(1, MOST_TRIES + 1):
        with app.state.sessions.begin() as database:
            (letter,) = database.query(Letter).filter_by(to=email).all()
            assert letter.tries == tries - 1
            database.query(Letter).filter(Letter.to != email).delete()
            letter.due_at = letter.due_at.replace(year=2020)
        postman.send_waiting()
    with app.state.sessions() as database:
        assert database.query(Letter).filter_by(to=email).all() == []


def test_the_mailbox_says_that_it_is_simulated(mailing, mailbox):
    page = TestClient(create_page(mailbox))
    assert "No e-mails yet" in page.get("/").text
    _, email = somebody(mailing)
    link_to(mailing, mailbox, email, "verify")
    html = page.get("/").text
    assert "simulated" in html
    assert f'<a href="{HOST}/verify#' in html
