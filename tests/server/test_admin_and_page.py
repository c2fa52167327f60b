"""The edges of the server: the admin's door, the page's cache, uploads too large."""

import importlib

import pytest
from django.contrib.auth.models import User
from django.urls import clear_url_caches

from server import urls


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


@pytest.mark.parametrize("path", ["/api/tests", "/api/vehicles", "/api/packs", "/api/riders"])
def test_a_host_of_another_name_is_refused(client, db, path):
    assert client.get(path, headers={"Host": "evil.example"}).status_code == 400
