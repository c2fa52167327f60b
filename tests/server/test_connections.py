"""Under the real server: a thousand requests leave no connection behind, and lists stay small."""

from __future__ import annotations

import asyncio
import json
import os
from concurrent.futures import ThreadPoolExecutor
from contextlib import ExitStack
from http.client import HTTPConnection
from pathlib import Path
from socket import create_connection

import MySQLdb
import pytest
from django.conf import settings

from launch.sockets import listen
from server import doorway
from tests.serving import port_of, serve

ROOT = Path(__file__).resolve().parents[2]


def admin():
    return MySQLdb.connect(
        host="127.0.0.1", port=int(os.environ["LIMPET_DB_PORT"]), user="limpet",
        password=os.environ["LIMPET_DB_PASSWORD"],
    )  # fmt: skip


@pytest.fixture(scope="module")
def served():
    """The application as `./limpet start` runs it, on a database of its own."""
    name = f"limpet_test_served_{os.environ.get('PYTEST_XDIST_WORKER', 'alone')}"
    connection = admin()
    with connection.cursor() as cursor:
        cursor.execute(f"DROP DATABASE IF EXISTS {name}")
        cursor.execute(f"CREATE DATABASE {name} CHARACTER SET utf8mb4")
    with listen("127.0.0.1") as page:
        server = serve(page, LIMPET_DB_NAME=name)
        yield port_of(page), name, connection
    server.terminate()
    server.wait(timeout=20)
    server.stdout.close()
    with connection.cursor() as cursor:
        cursor.execute(f"DROP DATABASE {name}")
    connection.close()


def connections(connection, name):
    with connection.cursor() as cursor:
        cursor.execute("SELECT COUNT(*) FROM information_schema.processlist WHERE db = %s", [name])
        return cursor.fetchone()[0]


def test_a_thousand_requests_leave_no_more_connections_than_there_are_threads(served):
    port, name, connection = served

    def ask(count):
        client = HTTPConnection("127.0.0.1", port)
        codes = set()
        for _ in range(count):
            client.request("GET", "/api/session")
            answer = client.getresponse()
            answer.read()
            codes.add(answer.status)
        client.close()
        return codes

    with ThreadPoolExecutor(50) as pool:
        assert set().union(*pool.map(ask, [20] * 50)) == {200}
    # One for each thread, the worker's own, and at most what is on its way to be closed.
    assert connections(connection, name) <= settings.THREADS + 3


def test_a_body_that_is_too_large_is_refused_while_it_is_still_being_sent(served):
    port, _, _ = served
    client = HTTPConnection("127.0.0.1", port)
    client.putrequest("POST", "/api/tests/import")
    client.putheader("Content-Type", "multipart/form-data; boundary=x")
    client.putheader("Content-Length", str(200 * 2**20))
    client.endheaders()
    # Not a byte of the body has been sent, and the answer is there.
    answer = client.getresponse()
    assert answer.status == 401
    assert json.load(answer)["code"] == "signed_out"
    client.close()


def test_bodies_that_are_never_finished_keep_nobody_waiting(served):
    """Each took a thread of those that answer: as many as there are threads, and nobody was answered any more."""
    port, _, _ = served
    client = HTTPConnection("127.0.0.1", port, timeout=30)
    head = f"POST /api/session HTTP/1.1\r\nHost: 127.0.0.1:{port}\r\n"
    head += "Content-Type: application/json\r\nContent-Length: 100\r\n\r\n"
    json_ = {"Content-Type": "application/json"}
    with ExitStack() as open_:
        for _ in range(settings.THREADS + 2):
            half = open_.enter_context(create_connection(("127.0.0.1", port)))
            half.sendall(head.encode() + b'{"username": "in')
        client.request("POST", "/api/session", body=b"{}", headers=json_)
        # No token: it is read, and refused for that.
        assert client.getresponse().status in (403, 422)
    client.close()


def test_a_process_reads_so_many_large_bodies_at_once(monkeypatch):
    class Slow:
        """Stands inside of the door, and is never done before it is told to."""

        def __init__(self):
            self.may = asyncio.Event()

        async def __call__(self, scope, receive, send):
            await self.may.wait()
            await send({"type": "http.response.start", "status": 204, "headers": []})
            await send({"type": "http.response.body"})

    async def asked(door, answers):
        async def send(message):
            answers.append(message.get("status"))

        headers = [(b"content-length", str(doorway.FREE_BYTES + 1).encode()), (b"cookie", b"x=y")]
        scope = {"type": "http", "method": "PUT", "path": "/api/tests/x", "headers": headers}
        await door(scope, None, send)

    async def all_of_them():
        inside, answers, beyond = Slow(), [], []
        door = doorway.Doorway(inside)
        waiting = [asyncio.create_task(asked(door, answers)) for _ in range(doorway.MOST_STREAMED)]
        await asyncio.sleep(0)
        while door._streamed < doorway.MOST_STREAMED:
            await asyncio.sleep(0)
        await asked(door, beyond)
        inside.may.set()
        await asyncio.gather(*waiting)
        await asked(door, answers)
        return beyond, answers

    async def signed_in(cookie):
        return True

    monkeypatch.setattr(doorway, "_signed_in", signed_in)
    # In a thread of its own: where browser tests ran before, this one has a running loop already.
    with ThreadPoolExecutor(1) as aside:
        beyond, answers = aside.submit(asyncio.run, all_of_them()).result()
    assert beyond[0] == 503
    assert answers.count(204) == doorway.MOST_STREAMED + 1


def test_scripts_go_out_compressed_and_the_first_load_is_small(served):
    import re

    port, _, _ = served
    client = HTTPConnection("127.0.0.1", port)

    def fetched(path, how="br"):
        client.request("GET", path, headers={"Accept-Encoding": how})
        answer = client.getresponse()
        body = answer.read()
        return answer, body

    page = fetched("/")[1].decode()
    wanted = re.findall(r'(?:src|href)="(/assets/[^"]+)"', page)
    assert any(path.endswith(".js") for path in wanted)
    total = len(page)
    for path in wanted:
        answer, body = fetched(path)
        # What is under a kilobyte gains nothing by it.
        if len(body) > 1024:
            assert answer.getheader("Content-Encoding") == "br", path
            assert fetched(path, "gzip")[0].getheader("Content-Encoding") == "gzip", path
        assert "immutable" in answer.getheader("Cache-Control")
        total += len(body)
    fonts = sorted((ROOT / "web/dist/assets").glob("*-latin-????????.woff2"))
    assert len(fonts) == 2
    total += sum(font.stat().st_size for font in fonts)
    assert total <= 300_000
    client.close()


def test_the_librarys_styles_are_there_for_all_that_the_page_is_made_of():
    import re

    styles = ROOT / "web/node_modules/@mantine/core/styles"
    taken = (ROOT / "web/src/theme/library.css").read_text()
    scripts = "".join(
        path.read_text(encoding="utf-8") for path in (ROOT / "web/dist/assets").glob("*.js")
    )
    missing = [
        path.name
        for path in styles.glob("*.css")
        if not path.name.endswith(".layer.css") and f"/{path.name}" not in taken
        # A component's classes stand in its script as they stand in its style.
        if any(name in scripts for name in re.findall(r"\.(m_[0-9a-f]+)", path.read_text()))
    ]
    assert missing == []
