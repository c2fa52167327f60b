"""The edges of the server: the admin's door, the page's cache, uploads too large."""

import importlib
import json
import sys
from pathlib import Path

import pytest
from django.contrib.auth.models import User
from django.urls import clear_url_caches

from server import urls

DESCRIPTION = Path(__file__).resolve().parents[2] / "server/openapi.json"


def test_the_admin_is_there_only_when_asked_for(client, db):
    # Without it the address is the page's, like any other that nobody knows.
    assert b'<div id="root">' in client.get("/nothing").content
    assert not any("admin" in str(pattern.pattern) for pattern in urls.urlpatterns[:-1])


@pytest.fixture
def with_admin(settings):
    settings.ADMIN_OPEN = True
    importlib.reload(urls)
    clear_url_caches()
    yield
    settings.ADMIN_OPEN = False
    importlib.reload(urls)
    clear_url_caches()


def test_the_admin_is_for_staff(client, db, with_admin):
    assert client.get("/admin/").status_code == 302
    User.objects.create_superuser("maren", password="a-long-enough-password")
    client.force_login(User.objects.get())
    assert b"Range tests" in client.get("/admin/").content.replace(b"range tests", b"Range tests")
    assert client.get("/admin/logbook/rangetest/").status_code == 200


def test_the_page_is_asked_for_anew_and_sets_the_forms_token(client, db):
    answer = client.get("/logbook")
    assert answer["Cache-Control"] == "no-cache"
    assert any(name.startswith("limpet_csrf") for name in answer.cookies)


def test_scripts_and_fonts_come_from_here(client, db):
    page = client.get("/").content.decode()
    assert "/assets/index-" in page
    assert "http://" not in page
    assert "https://" not in page


@pytest.mark.parametrize("path", ["/", "/index.html", "/ride/start"])
def test_the_page_comes_with_its_policy_wherever_it_is_asked_for(client, db, path):
    answer = client.get(path)
    assert answer.status_code == 200
    assert answer["X-Frame-Options"] == "DENY"
    assert "script-src 'self'" in answer["Content-Security-Policy"]
    assert client.get(path, headers={"Host": "evil.example"}).status_code == 400


def test_what_installs_the_page_says_what_it_is(client, db):
    assert client.get("/manifest.webmanifest")["Content-Type"] == "application/manifest+json"


@pytest.mark.parametrize("path", ["/api/nothing", "/api/tests/none/of/these", "/static/nothing.js"])
def test_what_is_not_there_is_said_in_the_one_shape(client, db, path):
    answer = client.get(path)
    assert answer.status_code == 404
    assert answer["Content-Type"].startswith("application/json")
    assert answer.json()["code"] == "not_found"


@pytest.mark.parametrize("path", ["/", "/index.html", "/api/session"])
def test_a_foreign_host_leaves_no_trace_in_the_log(client, db, capfd, path):
    print("what was captured", file=sys.stderr)
    assert client.get(path, headers={"Host": "evil.example"}).status_code == 400
    assert capfd.readouterr().err == "what was captured\n"


def test_every_operation_says_what_it_answers_with():
    """A download too: it is a file of a kind."""
    operations = [
        (path, method, operation["responses"])
        for path, methods in json.loads(DESCRIPTION.read_text())["paths"].items()
        for method, operation in methods.items()
    ]
    assert len(operations) > 90
    for path, method, responses in operations:
        assert any(code.startswith("2") for code in responses), (method, path)


@pytest.mark.parametrize("path", ["/api/tests", "/api/vehicles", "/api/packs", "/api/riders"])
def test_a_host_of_another_name_is_refused(client, db, path):
    assert client.get(path, headers={"Host": "evil.example"}).status_code == 400
