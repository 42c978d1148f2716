"""Asking outside services, against a server on a real socket that is slow, wrong or gone; and series as text."""

import base64
import threading
import time
from collections.abc import Callable, Iterable
from concurrent.futures import ThreadPoolExecutor
from contextlib import suppress
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ulmatic.platform import asking
from ulmatic.platform.series import packed, packed_rows


class Answering(ThreadingHTTPServer):
    """Answers with its statuses, one after the other, each with its body."""

    def __init__(self) -> None:
        super().__init__(("127.0.0.1", 0), Handler)
        self.statuses: list[int] = []
        self.asked = self.sent = 0
        self.body: Callable[[], Iterable[bytes]] = lambda: [b"{}"]
        self.over = threading.Event()


class Handler(BaseHTTPRequestHandler):
    server: Answering

    def do_GET(self):
        status = self.server.statuses.pop(0)
        self.server.asked += 1
        self.send_response(status)
        self.end_headers()
        with suppress(OSError):
            for part in self.server.body():
                self.wfile.write(part)
                self.server.sent += len(part)

    def log_message(self, *_):
        """Keep quiet."""


@pytest.fixture
def server(monkeypatch):
    monkeypatch.setattr(asking, "PAUSE_S", 0.001)
    server = Answering()
    threading.Thread(target=server.serve_forever, daemon=True).start()
    yield server
    server.over.set()
    server.shutdown()
    server.server_close()


def service(server, deadline_s=5.0):
    return asking.AskedService("test", f"http://127.0.0.1:{server.server_port}", deadline_s)


def ask(asking_client, fits=lambda status: status == 200):
    return asking_client.ask("GET", "/", fits=fits)


def test_trouble_that_passes_is_not_noticed(server):
    server.statuses = [503, 500, 200]
    answer = ask(service(server))
    assert (answer.status_code, answer.json()) == (200, {})
    assert server.asked == 3


def test_trouble_that_stays_ends_in_nothing_after_a_few_tries(server):
    server.statuses = [503] * 10
    assert ask(service(server)) is None
    assert server.asked == asking.TRIES


def test_what_fits_is_an_answer_whatever_its_status(server):
    server.statuses = [404]
    assert ask(service(server), fits=lambda status: status < 500).status_code == 404


def test_nobody_there_is_nothing_and_no_error(server):
    server.shutdown()
    server.server_close()
    assert ask(service(server)) is None


def test_a_service_that_drips_is_left_at_the_deadline_of_the_whole_exchange(server):
    """Each byte comes well before any time limit of a single read; the answer never ends."""

    def drip():
        while not server.over.wait(0.02):
            yield b" "

    server.statuses, server.body = [200] * 10, drip
    assert ask(service(server, deadline_s=0.3)) is None
    assert server.asked == 1, "no time is left for a second try"


def test_a_service_that_pours_is_not_swallowed(server):
    server.statuses = [200] * 10
    server.body = lambda: (b" " * 100_000 for _ in range(4_000))
    assert ask(service(server)) is None
    assert server.asked == asking.TRIES
    buffered = 8_000_000
    assert server.sent < asking.TRIES * (asking.MOST_BYTES + buffered), "of 1.2 GB"


def test_a_service_in_trouble_is_left_alone_and_then_tried_again(server, monkeypatch):
    server.statuses = [503] * (asking.TROUBLES * asking.TRIES) + [200]
    client = service(server)
    for _ in range(asking.TROUBLES):
        assert ask(client) is None
    before = server.asked
    assert ask(client) is None
    assert server.asked == before, "it is not asked"
    after_rest = time.monotonic() + asking.REST_S
    monkeypatch.setattr(time, "monotonic", lambda: after_rest)
    assert ask(client).status_code == 200


def test_only_a_few_requests_wait_for_a_service(server):
    waiting = threading.Semaphore(0)

    def answer_late():
        waiting.release()
        server.over.wait()
        yield b"{}"

    server.statuses, server.body = [200] * 10, answer_late
    client = service(server)
    with ThreadPoolExecutor() as people:
        held_up = [people.submit(ask, client) for _ in range(asking.MOST_WAITING)]
        for _ in held_up:
            waiting.acquire()
        assert ask(client) is None
        assert server.asked == asking.MOST_WAITING
        server.over.set()
        assert all(answer.result().status_code == 200 for answer in held_up)


@given(st.lists(st.floats(-3000, 3000), min_size=1, max_size=40), st.sampled_from([1, 10, 100]), st.booleans())
def test_series_come_back_as_they_were_to_the_part(values, parts, positive):
    least = 0.0 if positive else -3276.8
    text = packed(np.array(values), parts, least)
    restored = np.frombuffer(base64.b64decode(text), "<i2") / parts
    expected = np.clip(values, max(least, -32_768 / parts), 32_767 / parts)
    assert restored == pytest.approx(expected, abs=0.5 / parts + 1e-9)
    rows = np.array([values, values[::-1]])
    assert packed_rows(rows, parts, least) == [packed(row, parts, least) for row in rows]
