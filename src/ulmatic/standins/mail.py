"""A simulated mail server: takes letters by SMTP, delivers none, and shows them on a page of its own.

It stands in for the mail server of whoever runs Ulmatic, on loopback only. What it got is kept in memory, the last
first, and gone when it stops.
"""

import html
import re
from collections import deque
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from datetime import datetime
from email import message_from_bytes, policy
from email.message import EmailMessage
from typing import Any

from aiosmtpd.controller import Controller
from fastapi import FastAPI
from fastapi.responses import HTMLResponse

from ulmatic.platform.clock import MACHINE

MOST_LETTERS = 200
_PAGE = """<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<meta http-equiv="refresh" content="5"><title>Simulated mailbox</title>
<style>body{{font:1.1rem/1.5 system-ui,sans-serif;max-width:46rem;margin:2rem auto;padding:0 1rem;color:#222}}
article{{border-top:2px solid #333;padding:.8rem 0}}pre{{white-space:pre-wrap;font:inherit;margin:.4rem 0 0}}
.mark{{border:1px solid #333;padding:0 .4rem;font-weight:600}}</style>
<h1>Mailbox</h1><p><span class="mark">simulated</span> E-mails that Ulmatic sent. None of them left this machine.</p>
{letters}</html>"""


@dataclass(frozen=True)
class ReceivedLetter:
    """A letter as it came."""

    to: str
    subject: str
    text: str
    at: datetime


@dataclass
class Mailbox:
    """Takes letters and keeps the last of them."""

    letters: deque[ReceivedLetter] = field(default_factory=lambda: deque(maxlen=MOST_LETTERS))

    async def handle_DATA(self, _server: Any, _session: Any, envelope: Any) -> str:  # noqa: N802 - aiosmtpd's name
        """Take a letter."""
        message = message_from_bytes(envelope.content, policy=policy.default)
        assert isinstance(message, EmailMessage)  # noqa: S101 - the default policy makes these
        body = message.get_body(("plain",))
        self.letters.appendleft(
            ReceivedLetter(
                to=", ".join(envelope.rcpt_tos),
                subject=str(message["Subject"]),
                text=body.get_content() if body else "",
                at=MACHINE.now(),
            )
        )
        return "250 taken, not delivered"

    @contextmanager
    def listening(self, port: int) -> Iterator[None]:
        """Listen on loopback."""
        controller = Controller(self, hostname="127.0.0.1", port=port)
        controller.start()
        try:
            yield
        finally:
            controller.stop()


def create_page(mailbox: Mailbox) -> FastAPI:
    """Build the page that shows a mailbox."""
    app = FastAPI(title="Simulated mailbox", openapi_url=None, docs_url=None, redoc_url=None)

    @app.get("/")
    def letters() -> HTMLResponse:
        """Show what came, the last first."""
        articles = "".join(
            f"<article><strong>{html.escape(letter.subject)}</strong><br>to {html.escape(letter.to)}, "
            f"{letter.at:%H:%M} UTC<pre>{_linked(letter.text)}</pre></article>"
            for letter in list(mailbox.letters)
        )
        return HTMLResponse(_PAGE.format(letters=articles or "<p>No e-mails yet.</p>"))

    return app


def _linked(text: str) -> str:
    return re.sub(r"(https?://[^\s<]+)", r'<a href="\1">\1</a>', html.escape(text))
