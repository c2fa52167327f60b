"""Limpet on the local network, through a second address of this machine, TLS verified; the phone signed in."""

from __future__ import annotations

import json
import os
import socket
import ssl
import subprocess
import urllib.request
from pathlib import Path
from urllib.error import HTTPError, URLError

import pytest
from playwright.sync_api import Error, Page, expect

from launch.sockets import two_sockets
from tests.browser.conftest import CHROMIUM, database_name, enter_demo, served
from tests.chromium import chromium
from tests.serving import port_of

#: Another address of this machine than the one that everything else runs on.
NEIGHBOUR = "127.0.0.2"


@pytest.fixture(scope="module")
def lan(tmp_path_factory):
    """Where it answers on loopback, where over TLS, where the doorstep is, and the folder of keys."""
    sockets = two_sockets(NEIGHBOUR)
    port = port_of(sockets[0])
    folder = tmp_path_factory.mktemp("lan")
    origin, doorstep = f"https://{NEIGHBOUR}:{port}", f"http://{NEIGHBOUR}:{port + 1}/"
    environment = {
        "LIMPET_LAN": NEIGHBOUR,
        "LIMPET_LAN_ORIGIN": origin,
        "LIMPET_LAN_DOORSTEP": doorstep,
        "LIMPET_LAN_FOLDER": str(folder),
    }
    with served(f"{database_name()}_lan", lan=sockets, **environment) as address:
        yield address, origin, doorstep, folder
    for one in sockets:
        one.close()


def trusting(folder: Path) -> ssl.SSLContext:
    """As a phone that trusts the authority, and nobody else."""
    context = ssl.create_default_context(cafile=str(folder / "authority.crt"))
    context.verify_flags |= ssl.VERIFY_X509_STRICT
    return context


def ask(url: str, context: ssl.SSLContext | None = None, **more):
    with urllib.request.urlopen(urllib.request.Request(url, **more), context=context, timeout=20) as answer:  # fmt: skip
        return answer.status, answer.headers, answer.read()


def test_whoever_trusts_the_authority_reaches_limpet_and_nobody_else(lan):
    _, origin, doorstep, folder = lan
    _, _, certificate = ask(f"{doorstep}limpet.crt")
    assert certificate == (folder / "authority.crt").read_bytes()
    status, headers, body = ask(f"{origin}/api/session", trusting(folder))
    assert status == 200
    assert json.loads(body)["sign_up_open"] is False
    assert "secure" in headers["Set-Cookie"].lower()
    with pytest.raises(URLError, match="certificate verify failed"):
        ask(f"{origin}/api/session", ssl.create_default_context())
    port = int(origin.rsplit(":", 1)[-1])
    with (
        socket.create_connection((NEIGHBOUR, port), timeout=20) as raw,
        pytest.raises(ssl.SSLCertVerificationError, match="IP address mismatch"),
    ):
        trusting(folder).wrap_socket(raw, server_hostname="10.9.9.9")


def test_the_doorstep_hands_out_the_certificate_and_nothing_else(lan):
    _, origin, doorstep, _ = lan
    _, _, page = ask(doorstep)
    assert b"First the certificate" in page
    assert origin.encode() in page
    for path in ("api/session", "authority.key", "../server.key"):
        with pytest.raises(HTTPError, match="404"):
            ask(doorstep + path)


def test_a_host_that_was_not_named_is_refused(lan):
    _, origin, _, folder = lan
    with pytest.raises(HTTPError, match="400"):
        ask(f"{origin}/api/session", trusting(folder), headers={"Host": "evil.example"})


def test_the_laptop_shows_the_way_and_a_code_signs_the_phone_in(lan, page: Page, browser):
    address, origin, _, _ = lan
    page.goto(f"{address}/")
    page.get_by_role("button", name="Open the demo").click()
    page.get_by_role("heading", name="tests").wait_for()
    page.goto(f"{address}/phone")
    expect(page.get_by_role("img", name="Square code of http")).to_be_visible()
    page.get_by_role("button", name="Show a code").click()
    expect(page.get_by_role("img", name="Square code that signs a phone in")).to_be_visible()
    code = page.locator("b[class*=code]").inner_text()
    # That a browser verifies what it is shown here, the next test sees.
    phone = browser.new_context(
        viewport={"width": 390, "height": 844}, ignore_https_errors=True, base_url=origin
    )
    opened = phone.new_page()
    opened.goto(f"/phone/in#{code}")
    # Whoever follows a link is told whose account it opens, and nothing is done before one tap.
    expect(opened.get_by_role("heading", name="Sign in as demo?")).to_be_visible()
    expect(opened).to_have_url(f"{origin}/phone/in")
    assert opened.request.get("/api/session", max_retries=3).json()["username"] is None
    opened.get_by_role("button", name="Sign in as demo").click()
    expect(opened).to_have_url(f"{origin}/ride")
    assert opened.evaluate("window.isSecureContext") is True
    expect(opened.get_by_role("button", name="Start with")).to_be_visible()
    again = browser.new_context(ignore_https_errors=True, base_url=origin).new_page()
    again.goto(f"/phone/in#{code}")
    expect(again.get_by_text("That code was used already")).to_be_visible()
    again.context.close()
    phone.close()


def test_a_browser_that_was_given_the_authority_opens_it_and_no_other_does(lan, driver, tmp_path):
    _, origin, _, folder = lan
    store = tmp_path / ".pki/nssdb"
    store.mkdir(parents=True)
    of = ["-d", f"sql:{store}"]
    subprocess.run(["certutil", "-N", "--empty-password", *of], check=True)

    def opened(*, at: str) -> bool:
        phone = driver.chromium.launch(
            executable_path=chromium(),
            args=CHROMIUM,
            env={**os.environ, "HOME": str(tmp_path)},
        )
        page = phone.new_page()
        try:
            page.goto(at)
            return page.evaluate("window.isSecureContext && 'serviceWorker' in navigator")
        finally:
            phone.close()

    with pytest.raises(Error, match="ERR_CERT_AUTHORITY_INVALID"):
        opened(at=origin)
    authority = ["-i", str(folder / "authority.crt"), "-n", "Limpet", "-t", "C,,"]
    subprocess.run(["certutil", "-A", *authority, *of], check=True)
    assert opened(at=f"{origin}/phone/in") is True


def test_without_the_network_the_page_says_how(page: Page):
    enter_demo(page)
    page.goto("/phone")
    expect(page.get_by_role("alert")).to_contain_text("it serves this machine alone")
    expect(page.get_by_text("./limpet start --lan", exact=True)).to_be_visible()
    # The check asks the server anew, and says that nothing has changed.
    with page.expect_response("**/api/phone"):
        page.get_by_role("button", name="Check", exact=True).click()
    expect(page.get_by_role("status")).to_contain_text("still serves this machine alone")
    assert "LIMPET_LAN" not in os.environ
