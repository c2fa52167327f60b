import pytest
from django.contrib.auth.models import User
from django.test import Client

from server.accounts.models import Account
from server.accounts.services import store


def test_nobody_is_signed_in_at_first_and_the_demo_is_offered_only_when_loaded(nobody):
    session = nobody.get("/session").json()
    assert (session["username"], session["demo_offered"]) == (None, False)
    assert nobody.post("/session/demo").status_code == 404
    # The name makes nobody the demo: the mark does.
    user = User.objects.create(username="demo")
    assert nobody.get("/session").json()["demo_offered"] is False
    assert nobody.post("/session/demo").status_code == 404
    Account.objects.filter(owner=user).update(is_demo=True)
    assert nobody.get("/session").json()["demo_offered"] is True


def test_one_button_signs_in_as_the_demo_rider(nobody):
    user = User(username="skerrow")
    user.set_unusable_password()
    store(user, is_demo=True)
    session = nobody.post("/session/demo").json()
    assert (session["username"], session["demo"]) == ("skerrow", True)
    assert nobody.get("/tests").json()["items"] == []


def test_a_password_signs_in_and_signing_out_ends_it(nobody):
    body = {"username": "maren", "password": "peat-track-42"}
    assert nobody.post("/accounts", body).json()["username"] == "maren"
    assert nobody.delete("/session").json()["username"] is None
    assert nobody.get("/tests").status_code == 401
    refused = nobody.post("/session", {**body, "password": "wrong"})
    assert refused.status_code == 403
    assert refused.json()["message"].startswith("That name and password do not match")
    assert nobody.post("/session", body).json()["username"] == "maren"


@pytest.mark.parametrize(
    ("body", "field", "words"),
    [
        ({"username": "ines", "password": "peat-track-42"}, "username", "is taken"),
        ({"username": "new", "password": "short"}, "password", "too short"),
        ({"username": "a b!", "password": "peat-track-42"}, "username", "valid"),
        ({"username": "", "password": "peat-track-42"}, "username", "is empty"),
    ],
)
def test_a_faulty_account_is_refused_beside_its_field(nobody, ines, body, field, words):
    before = User.objects.count()
    answer = nobody.post("/accounts", body)
    assert answer.status_code == 422
    assert words in answer.json()["fields"][field]
    assert User.objects.count() == before


def test_signing_in_needs_the_pages_token(db):
    client = Client(enforce_csrf_checks=True)
    body = {"username": "maren", "password": "peat-track-42"}
    assert client.post("/api/accounts", body, content_type="application/json").status_code == 403
    token = client.get("/api/session").json()["csrf_token"]
    answer = client.post(
        "/api/accounts", body, content_type="application/json", headers={"X-CSRFToken": token}
    )
    assert answer.status_code == 200
    assert client.put("/api/units", {}, content_type="application/json").status_code == 403


def test_units_are_kept(ines):
    wanted = {"distance": "km", "mass": "st", "temperature": "°F", "pressure": "bar"}
    assert ines.put("/units", wanted).status_code == 200
    assert ines.get("/session").json()["units"] == wanted
    assert ines.put("/units", {**wanted, "distance": "furlong"}).status_code == 422
    assert ines.get("/session").json()["units"] == wanted
