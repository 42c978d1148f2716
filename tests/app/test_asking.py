"""Asking outside services, against a server on a real socket that is slow, wrong or gone; and series as text."""

import base64
import threading
from http.server import BaseHTTPRequestHandler, HTTPServer

import httpx2
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ulmatic.platform import asking
from ulmatic.platform.series import packed, packed_rows


@pytest.fixture
def server(monkeypatch):
    """Answers with the statuses in `server.statuses`, one after the other."""
    monkeypatch.setattr(asking, "PAUSE_S", 0.001)

    class Handler(BaseHTTPRequestHandler):
        def do_GET(self):
            status = made.statuses.pop(0)
            made.asked += 1
            self.send_response(status)
            self.send_header("Content-Length", "0")
            self.end_headers()

        def log_message(self, *_):
            """Keep quiet."""

    made = HTTPServer(("127.0.0.1", 0), Handler)
    made.statuses, made.asked = [], 0
    threading.Thread(target=made.serve_forever, daemon=True).start()
    yield made
    made.shutdown()
    made.server_close()


def ask(server, fits=lambda status: status == 200):
    address = f"http://127.0.0.1:{server.server_port}"
    with httpx2.Client(base_url=address, timeout=2) as client:
        return asking.ask(client, "test", "GET", "/", fits=fits)


def test_trouble_that_passes_is_not_noticed(server):
    server.statuses = [503, 500, 200]
    assert ask(server).status_code == 200
    assert server.asked == 3


def test_trouble_that_stays_ends_in_nothing_after_a_few_tries(server):
    server.statuses = [503] * 10
    assert ask(server) is None
    assert server.asked == asking.TRIES


def test_what_fits_is_an_answer_whatever_its_status(server):
    server.statuses = [404]
    assert ask(server, fits=lambda status: status < 500).status_code == 404


def test_nobody_there_is_nothing_and_no_error(server):
    server.shutdown()
    server.server_close()
    assert ask(server) is None


@given(st.lists(st.floats(-3000, 3000), min_size=1, max_size=40), st.sampled_from([1, 10, 100]), st.booleans())
def test_series_come_back_as_they_were_to_the_part(values, parts, positive):
    least = 0.0 if positive else -3276.8
    text = packed(np.array(values), parts, least)
    back = np.frombuffer(base64.b64decode(text), "<i2") / parts
    expected = np.clip(values, max(least, -32_768 / parts), 32_767 / parts)
    assert back == pytest.approx(expected, abs=0.5 / parts + 1e-9)
    rows = np.array([values, values[::-1]])
    assert packed_rows(rows, parts, least) == [packed(row, parts, least) for row in rows]
