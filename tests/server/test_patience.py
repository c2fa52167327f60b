"""Whoever opens connections and says nothing keeps nobody else out."""

from __future__ import annotations

import asyncio
import socket
import threading
from contextlib import ExitStack

import pytest
import uvicorn

from launch.sockets import listen
from server import patience
from server.serve import _config

#: So long the server of these tests waits for a head and for more of a body [s], and so long the tests do.
SHORT_S, LONGER_S, LIMIT_S = 0.3, 3.0, 60.0
#: MiB of an answer that no buffer between two sockets holds.
LONG = 64
HEAD = b"POST / HTTP/1.1\r\nHost: 127.0.0.1\r\n"


class Answers:
    """An application that answers once it is told to, with how much it was sent."""

    def __init__(self):
        self.asked, self.may, self.done = threading.Event(), asyncio.Event(), threading.Event()

    async def __call__(self, scope, receive, send):
        self.asked.set()
        await self.may.wait()
        count, more = 0, True
        while more:
            message = await receive()
            if message["type"] == "http.disconnect":
                return
            count += len(message["body"])
            more = message["more_body"]
        await send({"type": "http.response.start", "status": 200, "headers": []})
        for _ in range(LONG if scope["path"] == "/long" else 0):
            await send({"type": "http.response.body", "body": bytes(2**20), "more_body": True})
        await send({"type": "http.response.body", "body": str(count).encode()})
        self.done.set()


class Served(uvicorn.Server):
    """A server that says when it is up."""

    def __init__(self, config):
        super().__init__(config)
        self.up = threading.Event()

    async def startup(self, sockets=None):
        await super().startup(sockets)
        self.up.set()


@pytest.fixture
def answers(monkeypatch):
    """The application, served with little patience, and where it is."""
    monkeypatch.setattr(patience, "HEAD_S", SHORT_S)
    monkeypatch.setattr(patience, "BODY_S", LONGER_S)
    application = Answers()
    with listen("127.0.0.1") as here:
        server = Served(_config(application))
        thread = threading.Thread(target=lambda: asyncio.run(server.serve([here])))
        thread.start()
        assert server.up.wait(LIMIT_S)
        application.loop_set = lambda: server.servers[0].get_loop().call_soon_threadsafe(application.may.set)  # fmt: skip
        yield application, here.getsockname()
        application.loop_set()
        server.should_exit = True
        thread.join()


@pytest.fixture
def calls(answers):
    """Open a connection, and say something."""
    with ExitStack() as open_:

        def call(said=b""):
            made = open_.enter_context(socket.create_connection(answers[1], timeout=LIMIT_S))
            made.sendall(said)
            return made

        yield call


def hung_up(made):
    """Wait until the server has ended a connection; what it said before."""
    said = bytearray()
    while True:
        try:
            more = made.recv(2**16)
        except ConnectionResetError:
            return said
        if not more:
            return said
        said += more


@pytest.mark.parametrize("said", [b"", b"POST /", HEAD, HEAD + b"Content-Length: 9\r\n\r\nhalf"])
def test_who_goes_silent_is_hung_up_on(calls, said):
    assert hung_up(calls(said)) == b""


def test_a_head_that_trickles_gets_no_more_time_for_it(calls):
    made = calls(b"GET / HTTP/1.1\r\n")
    made.settimeout(0.02)
    for k in range(int(LIMIT_S / 0.02)):
        try:
            made.sendall(f"X-{k}: 1\r\n".encode())
            if made.recv(1) == b"":
                break
        except TimeoutError:
            continue
        except (ConnectionResetError, BrokenPipeError):
            break
    else:
        raise AssertionError("it is listened to for ever")


def test_who_waits_for_an_answer_waits_as_long_as_it_takes(answers, calls):
    application, _ = answers
    made = calls(HEAD + b"Content-Length: 4\r\n\r\nbody")
    assert application.asked.wait(LIMIT_S)
    # Longer than a silent caller is borne with.
    assert hung_up(calls()) == b""
    assert hung_up(calls()) == b""
    application.loop_set()
    assert made.recv(4096).startswith(b"HTTP/1.1 200")


def test_a_body_that_goes_on_is_listened_to(answers, calls):
    application, _ = answers
    application.loop_set()
    rounds = int(1.2 * LONGER_S / SHORT_S)
    made = calls(HEAD + f"Content-Length: {rounds}\r\n\r\n".encode())
    for _ in range(rounds):
        # Each of these takes a tenth of the patience with a body, by the server's own clock.
        assert hung_up(calls()) == b""
        made.sendall(b"x")
    assert made.recv(4096).startswith(b"HTTP/1.1 200")


def test_who_takes_nothing_of_an_answer_is_hung_up_on(answers, calls):
    application, _ = answers
    application.loop_set()
    silent = calls(b"GET /long HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n")
    assert application.done.wait(LIMIT_S), "it is waited for"
    assert len(hung_up(silent)) < LONG * 2**20
    application.done.clear()
    reads = calls(b"GET /long HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\n\r\n")
    assert len(hung_up(reads)) > LONG * 2**20


def test_one_address_of_the_network_holds_so_many_and_no_more(monkeypatch, calls):
    monkeypatch.setattr(patience, "HEAD_S", LIMIT_S)
    monkeypatch.setattr(patience, "MOST_OF_ONE", 3)
    monkeypatch.setattr(patience, "_is_here", lambda address: False)
    held = [calls() for _ in range(3)]
    assert hung_up(calls()) == b""
    for one in held:
        one.settimeout(SHORT_S)
        with pytest.raises(TimeoutError):
            one.recv(1)
