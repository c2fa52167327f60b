"""Nobody gets in who should not: names, passwords, tries, sign-up, the demo, the door."""

from __future__ import annotations

import asyncio
import json
import os
import secrets
import subprocess
import sys
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta

import pytest
from django.contrib.auth.models import User
from django.test import Client
from django.utils import timezone

from server.accounts.devices import COOKIE
from server.accounts.models import Account, RateCount
from server.accounts.names import folded, skeleton
from server.accounts.rates import Rate
from server.doorway import FREE_BYTES, JSON_BYTES, Doorway
from tests.server.conftest import Api

GOOD = "peat-track-42-ferry"


def sign_up(api, name, password=GOOD):
    return api.post("/accounts", {"username": name, "password": password})


@pytest.mark.parametrize(
    ("one", "other", "alike"),
    [
        ("demo", "Démo", True),
        ("demo", "DEMO", True),
        ("demo", "dеmo", True),  # Cyrillic е
        ("demo", "dem0", True),
        ("demo", "ｄｅｍｏ", True),  # full width
        ("maren", "rnaren", True),
        ("marn", "mam", True),
        ("straße", "STRASSE", True),
        ("ines", "lnes", True),
        ("ines", "tobias", False),
    ],
)
def test_look_alikes_have_one_skeleton(one, other, alike):
    assert (skeleton(one) == skeleton(other)) is alike


def test_a_name_is_the_same_however_it_is_typed_and_no_other(nobody, db):
    assert sign_up(nobody, "Maren").status_code == 200
    for twin in ("maren", "MAREN", "Máren", "mаren", "ｍａｒｅｎ"):
        refused = sign_up(Api(Client(), None), twin)
        assert refused.status_code == 422
        assert "is taken" in refused.json()["fields"]["username"]
    assert User.objects.count() == Account.objects.count() == 1
    for typed in ("maren", "MAREN", " Maren "):
        body = {"username": typed, "password": GOOD}
        assert Api(Client(), None).post("/session", body).status_code == 200
    # The database takes á for a; signing in does not.
    body = {"username": "Máren", "password": GOOD}
    assert Api(Client(), None).post("/session", body).status_code == 403
    assert folded("Maren") == "maren"


@pytest.mark.parametrize(
    "password", ["73910462", " " * 8, "abababab", "password", "maren-99", "short"]
)
def test_a_weak_password_is_refused(nobody, db, password):
    refused = sign_up(nobody, "maren-99", password)
    assert refused.status_code == 422
    assert "password" in refused.json()["fields"]
    assert not User.objects.exists()


WRONG = {"username": "maren", "password": "not-it-at-all"}


def guessed(times, address="10.0.0.{}", client=None):
    """So many wrong passwords, each from an address of its own or all from one; the answers' codes."""
    return [
        (client or Client())
        .post("/api/session", WRONG, "application/json", REMOTE_ADDR=address.format(k))
        .status_code
        for k in range(times)
    ]


def entered(name="MAREN", address="10.0.1.1", client=None):
    body = {"username": name, "password": GOOD}
    return (client or Client()).post("/api/session", body, "application/json", REMOTE_ADDR=address)


def test_guessing_at_one_account_is_stopped_whoever_guesses(nobody, db, settings):
    sign_up(nobody, "maren")
    codes = guessed(settings.WRONG_PASSWORDS_ELSEWHERE + 2)
    assert codes == [403] * settings.WRONG_PASSWORDS_ELSEWHERE + [429, 429]
    right = entered()
    assert right.status_code == 429
    assert "Wait ten minutes" in right.json()["message"]


def test_who_guesses_from_one_address_locks_nobody_out_elsewhere(nobody, db, settings):
    sign_up(nobody, "maren")
    codes = guessed(settings.AXES_FAILURE_LIMIT + 1, "10.0.0.7")
    assert codes[0] == 403
    assert codes[-1] == 429
    assert entered(address="10.0.0.7").status_code == 429
    assert entered(address="10.0.1.1").status_code == 200


def test_a_device_that_signed_in_before_is_let_through_and_counted_by_itself(
    db, settings, monkeypatch
):
    own = Client()
    sign_up(Api(own, None), "maren")
    guessed(settings.WRONG_PASSWORDS_ELSEWHERE + 1)
    guessed(settings.AXES_FAILURE_LIMIT + 1, "10.0.1.1")
    name = COOKIE + settings.COOKIE_SUFFIX
    # Of another name the cookie says nothing, and one that was made up says nothing at all.
    cookie = own.cookies[name]
    assert cookie["httponly"]
    assert "maren" not in cookie.value
    forged = Client()
    forged.cookies[name] = cookie.value[:-2] + "xx"
    assert entered(client=forged).status_code == 429
    assert entered(client=own).status_code == 200
    codes = guessed(settings.AXES_FAILURE_LIMIT + 1, client=own)
    assert codes == [403] * settings.AXES_FAILURE_LIMIT + [429]
    assert entered(address="10.0.2.1", client=own).status_code == 429
    # Counts go with the time.
    later = timezone.now() + timedelta(minutes=11)
    monkeypatch.setattr("server.accounts.rates.timezone.now", lambda: later)
    assert entered(address="10.0.2.1", client=own).status_code == 200


def test_who_tries_from_a_riders_own_address_does_not_hold_up_the_riders_device(db, settings):
    own = Client()
    sign_up(Api(own, None), "maren")
    most = settings.SIGN_INS_PER_ADDRESS[0]
    codes = guessed(most + 1, "10.0.0.9")
    assert codes[-1] == 429
    assert entered(address="10.0.0.9").status_code == 429
    assert entered(address="10.0.0.9", client=own).status_code == 200
    # The device has a rate of its own.
    codes = [entered(address="10.0.0.9", client=own).status_code for _ in range(most)]
    assert codes == [200] * (most - 1) + [429]
    # Nor does one rider's device hold up another's.
    other = Client()
    sign_up(Api(other, None), "tobias")
    assert entered("tobias", "10.0.0.9", other).status_code == 200
    # And what is no name is counted for the address.
    assert (
        own.post("/api/session", [1], "application/json", REMOTE_ADDR="10.0.0.9").status_code == 429
    )


def test_a_made_up_forwarded_address_lifts_no_rate(db, settings):
    def tried(k, **more):
        body = {"code": f"AAAA{k:04d}"}
        return Client().post("/api/session/phone", body, "application/json", **more).status_code

    codes = [tried(k, HTTP_X_FORWARDED_FOR=f"203.0.113.{k}") for k in range(22)]
    assert codes == [403] * 20 + [429, 429]
    # Behind a proxy of one's own its last word counts, whatever was said before it.
    settings.PROXIES = 1
    said = [tried(k, HTTP_X_FORWARDED_FOR=f"198.51.100.{k}, 203.0.113.9") for k in range(22)]
    assert said == [403] * 20 + [429, 429]
    assert tried(1, HTTP_X_FORWARDED_FOR="203.0.113.10") == 403


def test_a_session_that_is_somebody_elses_guesses_at_no_password(nobody, db, settings):
    sign_up(nobody, "maren")
    most, _ = settings.PASSWORDS_PER_ACCOUNT
    codes = [
        nobody.client.put(
            "/api/password", {"current": f"guess-{k}", "wanted": "another-42-way"},
            "application/json", REMOTE_ADDR=f"10.0.0.{k}",
        ).status_code
        for k in range(most + 1)
    ]  # fmt: skip
    assert codes == [422] * most + [429]
    # Signing out elsewhere asks for the same password, and counts with it.
    assert nobody.post("/password/elsewhere", {"current": GOOD}).status_code == 429


def test_the_demo_is_opened_only_so_often_from_an_address(db, settings):
    Account.objects.filter(owner=User.objects.create(username="skerrow")).update(is_demo=True)
    most, _ = settings.DEMOS_PER_ADDRESS
    key = Rate("demo", 1, 1).key("127.0.0.1")
    RateCount.objects.create(key=key, since=timezone.now(), count=most - 1)
    codes = [Client().post("/api/session/demo").status_code for _ in range(2)]
    assert codes == [200, 429]


def test_one_address_may_try_only_so_often(db):
    codes = [
        Client()
        .post("/api/session", {"username": f"n{k}", "password": "x" * 9}, "application/json")
        .status_code
        for k in range(22)
    ]
    assert codes[:20] == [403] * 20
    assert codes[20:] == [429, 429]


def test_sign_up_can_be_closed(nobody, db, settings):
    settings.SIGN_UP_OPEN = False
    assert nobody.get("/session").json()["sign_up_open"] is False
    assert sign_up(nobody, "maren").status_code == 403
    assert not User.objects.exists()


def test_a_changed_password_signs_out_everywhere_else(nobody, db):
    sign_up(nobody, "maren")
    other = Api(Client(), None)
    other.post("/session", {"username": "maren", "password": GOOD})
    wrong = nobody.put("/password", {"current": "wrong", "wanted": "another-42-way"})
    assert "is not your password" in wrong.json()["fields"]["current"]
    weak = nobody.put("/password", {"current": GOOD, "wanted": "12345678"})
    assert weak.status_code == 422
    assert other.get("/vehicles").status_code == 200
    assert nobody.put("/password", {"current": GOOD, "wanted": "another-42-way"}).status_code == 200
    assert nobody.get("/vehicles").status_code == 200
    assert other.get("/vehicles").status_code == 401
    other.post("/session", {"username": "maren", "password": "another-42-way"})
    assert nobody.post("/password/elsewhere", {"current": "another-42-way"}).status_code == 200
    assert nobody.get("/vehicles").status_code == 200
    assert other.get("/vehicles").status_code == 401


def test_the_demo_is_offered_on_loopback_only_unless_asked_for(nobody, db, settings):
    user = User.objects.create(username="skerrow")
    Account.objects.filter(owner=user).update(is_demo=True)
    settings.DEMO_OFFERED = False
    assert nobody.get("/session").json()["demo_offered"] is False
    assert nobody.post("/session/demo").status_code == 404


def test_only_the_demo_sees_the_made_up_weather(nobody, ines, settings):
    from standins import weather

    server, address = weather.serve()
    settings.DEMO_WEATHER_URL, settings.WEATHER_URL = address, ""
    try:
        asked = "/weather?place=Skerrow&date=2026-05-14"
        assert ines.get(asked).status_code == 503
        assert ines.get("/session").json()["weather"] == "none"
        Account.objects.filter(owner=ines.user).update(is_demo=True)
        found = ines.get(asked).json()
        assert "made up" in found["source"]
        assert ines.get("/session").json()["weather"] == "made_up"
    finally:
        server.shutdown()
        server.server_close()


def settings_with(**environment):
    code = (
        "import json; from django.conf import settings as s; "
        "print(json.dumps([s.SIGN_UP_OPEN, s.DEMO_OFFERED, s.ADMIN_OPEN, "
        "bool(getattr(s, 'SESSION_COOKIE_SECURE', False)), getattr(s, 'SECURE_HSTS_SECONDS', 0)]))"
    )
    done = subprocess.run(
        [sys.executable, "-c", code], env={**os.environ, **environment},
        capture_output=True, text=True, check=True,
    )  # fmt: skip
    return json.loads(done.stdout)


def test_what_is_open_follows_from_where_it_is_reached():
    assert settings_with() == [True, True, False, False, 0]
    assert settings_with(LIMPET_HOSTS="limpet.example") == [False, False, False, False, 0]
    asked = settings_with(
        LIMPET_HOSTS="limpet.example", LIMPET_SIGN_UP="open", LIMPET_DEMO="1", LIMPET_ADMIN="1",
        LIMPET_SCHEME="https",
    )  # fmt: skip
    assert asked == [True, True, True, True, 31_536_000]


def test_the_page_is_told_where_pictures_of_the_ground_come_from(ines, settings):
    assert ines.get("/session").json()["tiles"] == ""
    settings.TILES_URL, settings.TILES_CREDIT = "https://tiles.example/{z}/{x}/{y}.png", "Surveyors"
    told = ines.get("/session").json()
    assert (told["tiles"], told["tiles_credit"]) == (settings.TILES_URL, settings.TILES_CREDIT)


def connections_with(address: str) -> subprocess.CompletedProcess[str]:
    """Where the page may fetch from, with an address of tiles in the environment."""
    code = (
        "import server.settings as s; print(s.CONTENT_SECURITY_POLICY['DIRECTIVES']['connect-src'])"
    )
    return subprocess.run(
        [sys.executable, "-c", code], env={**os.environ, "LIMPET_TILES": address},
        capture_output=True, text=True, check=False,
    )  # fmt: skip


def test_the_page_fetches_ground_only_from_where_somebody_named_it():
    assert connections_with("").stdout.strip() == "[\"'self'\"]"
    named = connections_with("https://tiles.example:8443/{z}/{x}/{y}.png").stdout.strip()
    assert named == "[\"'self'\", 'https://tiles.example:8443']"
    for half in (
        "tiles.example/{z}/{x}/{y}.png",
        "https://tiles.example/",
        "https://tiles.example/{z}/{x}",
    ):
        refused = connections_with(half)
        assert refused.returncode != 0
        assert "LIMPET_TILES must be a whole address with {z}, {x} and {y} in it" in refused.stderr


def test_the_production_settings_pass_djangos_own_check():
    # The tests' own switch for the browser's loop is none of production's.
    outside = {k: v for k, v in os.environ.items() if k != "DJANGO_ALLOW_ASYNC_UNSAFE"}
    done = subprocess.run(
        [sys.executable, "-m", "server.manage", "check", "--deploy", "--fail-level", "WARNING"],
        env={
            **outside,
            "LIMPET_HOSTS": "limpet.example",
            "LIMPET_SCHEME": "https",
            # As `launch` makes one.
            "LIMPET_SECRET_KEY": secrets.token_urlsafe(48),
        },
        capture_output=True, text=True, check=False,
    )  # fmt: skip
    assert done.returncode == 0, done.stderr


def test_every_answer_carries_the_policy_that_allows_no_foreign_script(client, db):
    policy = client.get("/")["Content-Security-Policy"]
    assert "script-src 'self'" in policy
    assert "unsafe-inline" not in policy.split("script-src")[1].split(";")[0]
    assert "frame-ancestors 'none'" in policy
    page = client.get("/").content.decode()
    assert "<script>" not in page


class Door:
    """The doorway around an application that notes what reached it."""

    def __init__(self):
        self.read = 0
        self.reached = False

    async def inside(self, scope, receive, send):
        self.reached = True
        while True:
            message = await receive()
            self.read += len(message.get("body", b""))
            if not message.get("more_body"):
                break
        await send({"type": "http.response.start", "status": 200, "headers": []})
        await send({"type": "http.response.body", "body": b""})

    def knock(self, path="/api/plans/preview", chunks=(b"{}",), length=None, method="POST"):
        chunked = [] if chunks is None else [(b"transfer-encoding", b"chunked")]
        headers = chunked if length is None else [(b"content-length", str(length).encode())]
        scope = {"type": "http", "method": method, "path": path, "headers": headers}
        left = list(chunks or [b""])
        sent = []

        async def receive():
            body = left.pop(0)
            return {"type": "http.request", "body": body, "more_body": bool(left)}

        async def send(message):
            sent.append(message)

        # In a thread of its own: a browser's driver may keep an event loop in this one.
        with ThreadPoolExecutor(1) as aside:
            aside.submit(asyncio.run, Doorway(self.inside)(scope, receive, send)).result()
        return sent[0]["status"], json.loads(sent[1]["body"] or b"{}")


@pytest.mark.parametrize(
    ("request_", "status", "reached"),
    [
        ({"length": 2}, 200, True),
        ({"length": JSON_BYTES + 1}, 413, False),
        ({"length": 10**30}, 413, False),
        ({"length": FREE_BYTES + 1}, 401, False),
        ({"path": "/api/tests/import", "length": 200 * 2**20}, 401, False),
        ({"path": "/api/tests/import", "length": 600 * 2**20}, 413, False),
        ({"length": "-5"}, 400, False),
        ({"length": None}, 401, False),
        ({"length": None, "chunks": None, "method": "DELETE"}, 200, True),
        ({"length": None, "method": "GET"}, 200, True),
        ({"length": 10, "chunks": [b"x" * FREE_BYTES, b"xx"]}, 413, False),
    ],
)
def test_what_is_too_much_or_nobodys_is_refused_before_it_is_read(db, request_, status, reached):
    door = Door()
    code, body = door.knock(**request_)
    assert (code, door.reached) == (status, reached)
    if status != 200:
        assert set(body) == {"code", "message", "fields", "faults"}
