"""A newer version of the page waits until its rider takes it, and never comes by itself."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from http.client import HTTPConnection
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from threading import Thread

from playwright.sync_api import Browser, expect

from tests.browser.conftest import enter_demo, faultless
from tests.browser.roadside import BENCH

#: What a version later adds to the worker's script.
LATER = b"\n// A version later."
#: By these a browser asks whether what it has is still as it was.
ASKED_BACK = ("If-None-Match", "If-Modified-Since")
#: Whether one waits, and whether the page is served by one.
STATE = """async () => {
  const registration = await navigator.serviceWorker.getRegistration();
  return { waits: registration.waiting !== null, has: navigator.serviceWorker.controller !== null };
}"""


@contextmanager
def between(address: str, later: list[bytes]) -> Iterator[str]:
    """The application through a door of its own, at which a later version of the worker comes out."""
    host = address.removeprefix("http://")

    class Door(BaseHTTPRequestHandler):
        def _through(self) -> None:
            beyond = HTTPConnection(host)
            body = self.rfile.read(int(self.headers.get("Content-Length", 0)))
            # What is added must be part of the text: neither behind a compressed one, nor "as you have it".
            sent = {name: value for name, value in self.headers.items() if name not in ASKED_BACK}
            beyond.request(self.command, self.path, body, {**sent, "Accept-Encoding": "identity"})
            answer = beyond.getresponse()
            said = answer.read() + (later[0] if self.path == "/sw.js" and later else b"")
            self.send_response(answer.status)
            for name, value in answer.getheaders():
                if name.lower() not in ("content-length", "transfer-encoding", "connection"):
                    self.send_header(name, value)
            self.send_header("Content-Length", str(len(said)))
            self.end_headers()
            self.wfile.write(said)
            beyond.close()

        do_GET = do_POST = do_PUT = do_DELETE = _through

        def log_message(self, *said: object) -> None:
            """What goes through is told elsewhere."""

    with ThreadingHTTPServer(("127.0.0.1", 0), Door) as door:
        Thread(target=door.serve_forever, daemon=True).start()
        yield f"http://127.0.0.1:{door.server_port}"
        door.shutdown()


def test_a_newer_version_waits_until_it_is_taken(browser: Browser, address: str):
    later: list[bytes] = []
    with between(address, later) as door:
        context = browser.new_context(base_url=door, viewport=BENCH, locale="en-GB")
        with faultless(context) as page:
            enter_demo(page)
            page.evaluate("async () => { await navigator.serviceWorker.ready }")
            # The first worker takes over with the next page.
            page.reload()
            page.wait_for_function("() => navigator.serviceWorker.controller !== null")
            page.wait_for_load_state("networkidle")
            later.append(LATER)
            page.evaluate(
                "async () => { await (await navigator.serviceWorker.getRegistration()).update() }"
            )
            word = page.get_by_text("A new version of Limpet is ready.")
            expect(word).to_be_visible()
            assert page.evaluate(STATE) == {"waits": True, "has": True}
            page.evaluate("window.before = true")
            page.get_by_role("button", name="Update now").click()
            # The page is opened again by the newer one, which waits no more.
            page.wait_for_function("() => window.before === undefined")
            page.get_by_role("heading", name="tests").wait_for()
            expect(word).to_be_hidden()
            assert page.evaluate(STATE)["waits"] is False
        context.close()
