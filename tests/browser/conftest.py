"""The real application: its own server process, the real database, Debian's Chromium."""

from __future__ import annotations

import fcntl
import os
import re
import subprocess
import sys
from collections import deque
from collections.abc import Generator, Iterator, Sequence
from contextlib import contextmanager, suppress
from pathlib import Path
from socket import socket
from typing import Any
from urllib.parse import quote
from uuid import uuid4
from weakref import WeakKeyDictionary

import MySQLdb
import pytest
from playwright.sync_api import (
    Browser,
    BrowserContext,
    Error,
    Locator,
    Page,
    expect,
    sync_playwright,
)

from launch.sockets import listen
from tests.browser.contexts import Contexts
from tests.browser.roadside import BENCH, PHONE_HOW, phone_of
from tests.chromium import chromium
from tests.serving import port_of, serve

ROOT = Path(__file__).resolve().parents[2]
#: What the driver leaves out by itself, for the last list of features counts; and what the browser's own
#: window would load with every page, at a second of processor each: suggestions under its address bar.
LEFT_OUT = [
    "AvoidUnnecessaryBeforeUnloadCheckSync",
    "DestroyProfileOnBrowserClose",
    "HttpsUpgrades",
    "HttpsFirstBalancedModeAutoEnable",
    "LensOverlay",
    "MediaRouter",
    "PaintHolding",
    "ThirdPartyStoragePartitioning",
    "AvoidCorsURLLoaderRestartOnRedirect",
    "OptimizationHints",
    "NetworkTimeServiceQuerying",
    "AimEnabled",
    "PreconnectToSearch",
    "WebUIOmniboxPopup",
    "WebUIOmniboxAimPopup",
    "WebUIOmniboxFullPopup",
]
CHROMIUM = [
    f"--disable-features={','.join(LEFT_OUT)}",
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]


# How long a slow machine may take before an expectation has failed; a fast one waits for nothing.
#: How long is waited for what comes [ms]: a wait that is long enough on a slow day costs nothing on others.
PATIENCE_MS = 60_000
expect.set_options(timeout=PATIENCE_MS)


@contextmanager
def connected() -> Iterator[Any]:
    """A cursor of the tests' database server."""
    connection = MySQLdb.connect(
        host="127.0.0.1",
        port=int(os.environ["LIMPET_DB_PORT"]),
        user="limpet",
        password=os.environ["LIMPET_DB_PASSWORD"],
        autocommit=True,
    )
    with connection.cursor() as cursor:
        yield cursor
    connection.close()


def fresh_database(cursor: Any, name: str) -> None:
    """An empty database of a name."""
    cursor.execute(f"DROP DATABASE IF EXISTS {name}")
    cursor.execute(f"CREATE DATABASE {name} CHARACTER SET utf8mb4")


def demo_database(name: str) -> None:
    """A database with the demo in it. The first process of a test run makes it, the others copy it."""
    with (ROOT / ".run" / "browser-template.lock").open("w") as lock, connected() as cursor:
        fcntl.flock(lock, fcntl.LOCK_EX)
        cursor.execute("SHOW DATABASES LIKE 'limpet_test_template%'")
        there = [row[0] for row in cursor.fetchall()]
        template = f"limpet_test_template_{os.environ.get('PYTEST_XDIST_TESTRUNUID', os.getpid())}"
        if template not in there:
            for old in there:
                cursor.execute(f"DROP DATABASE {old}")
            fresh_database(cursor, template)
            environment = {**os.environ, "LIMPET_DB_NAME": template}
            for command in (["migrate", "--verbosity=0"], ["load_demo"]):
                subprocess.run(
                    [sys.executable, "-m", "server.manage", *command],
                    cwd=ROOT, env=environment, check=True, stdout=subprocess.DEVNULL,
                )  # fmt: skip
        fresh_database(cursor, name)
        copy_database(cursor, template, name)


def copy_database(cursor: Any, source: str, into: str) -> None:
    """All tables of a database, with their keys and rows, into an empty one."""
    cursor.execute(f"SHOW TABLES FROM {source}")
    tables = [row[0] for row in cursor.fetchall()]
    cursor.execute(f"USE {into}")
    cursor.execute("SET foreign_key_checks = 0")
    for table in tables:
        cursor.execute(f"SHOW CREATE TABLE {source}.{table}")
        cursor.execute(cursor.fetchone()[1])
        cursor.execute(f"INSERT INTO {table} SELECT * FROM {source}.{table}")
    cursor.execute("SET foreign_key_checks = 1")


def database_name() -> str:
    """Tests run in several processes, each with an application and a database of its own."""
    return f"limpet_test_browser_{os.environ.get('PYTEST_XDIST_WORKER', 'alone')}"


@contextmanager
def served(name: str = "", lan: Sequence[socket] = (), **more: str) -> Iterator[str]:
    """The application on a port of its own with a fresh database and the demo; its address.

    `more` goes into its environment; `lan` is a pair of sockets on which it serves the network as well.
    """
    name = name or database_name()
    demo_database(name)
    with listen("127.0.0.1") as page:
        server = serve(page, lan, demo=True, **{"LIMPET_DB_NAME": name, **more})
        try:
            yield f"http://127.0.0.1:{port_of(page)}"
        finally:
            server.terminate()
            server.wait(timeout=20)
            assert server.stdout is not None
            server.stdout.close()


@pytest.fixture(scope="session")
def address():
    """Where the application answers, the demo loaded."""
    with served() as found:
        yield found


@pytest.fixture(scope="session")
def driver():
    """Playwright itself: there is one in a process."""
    with sync_playwright() as playwright:
        yield playwright


@pytest.fixture(scope="session")
def browser(driver):
    started = driver.chromium.launch(executable_path=chromium(), args=CHROMIUM)
    yield started
    started.close()


@pytest.fixture(scope="session")
def contexts(browser: Browser, address: str) -> Contexts:
    """Contexts at the application, lent to one test after the other."""
    return Contexts(browser, address)


@contextmanager
def faultless(context: BrowserContext) -> Iterator[Page]:
    """A page in a context; an error in its console fails the test."""
    opened = context.new_page()
    opened.set_default_timeout(PATIENCE_MS)
    errors: list[str] = []
    opened.on("pageerror", lambda error: errors.append(str(error)))
    said = SAID[opened] = deque(maxlen=20)
    opened.on("console", lambda message: said.append(f"{message.type}: {message.text}"[:300]))
    yield opened
    assert errors == []


#: What each page's console said last.
SAID: WeakKeyDictionary[Page, deque[str]] = WeakKeyDictionary()


@pytest.hookimpl(wrapper=True)
def pytest_runtest_makereport(item: pytest.Item) -> Generator[None, pytest.TestReport, Any]:
    """Of a test that failed: what stood on its page, and what the console had said."""
    report = yield
    if report.when == "call" and report.failed:
        for page in getattr(item, "funcargs", {}).values():
            if isinstance(page, Page):
                with suppress(Error):
                    stood = [page.url, *SAID.get(page, ()), page.inner_text("body")[:1500]]
                    report.sections.append(("what stood there", "\n".join(stood)))
    return report


@pytest.fixture
def page(contexts: Contexts) -> Iterator[Page]:
    """A fresh visitor at the bench."""
    with contexts.lent(viewport=BENCH) as context, faultless(context) as opened:
        yield opened


def sign_in(page: Page) -> Page:
    """Sign in as the demo's rider, as its button does; nothing is opened yet."""
    # A connection that was kept from before may be ended by the server just as it is used again.
    token = page.request.get("/api/session", max_retries=3).json()["csrf_token"]
    assert page.request.post("/api/session/demo", headers={"X-CSRFToken": token}).ok
    return page


def open_test(page: Page, title: str) -> None:
    """A test by its title, whatever else stands in the logbook by now."""
    page.goto(f"/logbook?q={quote(title)}")
    page.get_by_role("link", name=re.compile(title)).first.click()
    page.get_by_role("heading", name="How sure, and why").wait_for()


def at_logbook(page: Page) -> Page:
    """Open the logbook and wait for it."""
    page.goto("/logbook")
    page.get_by_role("heading", name="tests").wait_for()
    return page


def enter_demo(page: Page) -> Page:
    """The demo's rider in the logbook."""
    return at_logbook(sign_in(page))


@pytest.fixture
def demo(page: Page):
    """The demo rider, signed in; the test opens its place itself."""
    return sign_in(page)


@pytest.fixture
def newcomer(page: Page) -> Page:
    """A rider of their own: what is brought in teaches nobody else's vehicle."""
    page.goto("/")
    page.get_by_role("button", name="Create an account").click()
    page.get_by_label("Name").fill(f"new-{uuid4().hex[:10]}")
    page.get_by_role("textbox", name="Password").fill("a-long-enough-password-7")
    page.get_by_role("button", name="Create and sign in").click()
    page.get_by_role("heading", name="No tests yet.").wait_for()
    return page


@pytest.fixture
def rider(contexts: Contexts) -> Iterator[Page]:
    """The demo's rider with a phone."""
    with contexts.lent(**PHONE_HOW) as context, faultless(context) as page:
        yield sign_in(page)


@pytest.fixture
def walking(browser: Browser, address: str) -> Iterator[Page]:
    """The same with a phone of its own: one that was told a place never quite forgets it."""
    context = phone_of(browser, address)
    with faultless(context) as page:
        yield sign_in(page)
    context.close()


@pytest.fixture
def installed(browser: Browser, address: str) -> Iterator[Page]:
    """The same with the application kept on the phone."""
    context = phone_of(browser, address, service_workers="allow")
    with faultless(context) as page:
        at_logbook(sign_in(page))
        # For good, before anything is tried without signal.
        page.evaluate("async () => { await navigator.serviceWorker.ready }")
        yield page
    context.close()


def unfold(page: Page | Locator, *folded: str) -> None:
    """Open fields that are folded behind what they come to, by how that begins."""
    for begins in folded:
        page.locator("summary").filter(has_text=re.compile(f"^{begins}")).click()
