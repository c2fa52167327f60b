from uuid import uuid4

import pytest

from server.kit.models import Pack, Rider

PACK = {"name": "Eider-9", "chemistry": "nmc", "series": 13, "rated_ah": "14 Ah"}


def test_typed_units_are_stored_in_the_cores(ines):
    vehicle = ines.put(
        f"/vehicles/{uuid4()}", {"name": "Dunlin", "kind": "trike", "mass_kg": "200 lb"}
    ).json()
    assert vehicle["mass_kg"] == pytest.approx(90.718474)
    pack = ines.put(
        f"/packs/{uuid4()}", {**PACK, "full_v": "54,6 V", "cutoff_v": "39000 mV"}
    ).json()
    assert (pack["full_v"], pack["cutoff_v"], pack["rated_ah"]) == (54.6, 39.0, 14.0)


def test_sent_twice_it_is_there_once_and_sent_changed_it_is_changed(ines):
    path = f"/riders/{uuid4()}"
    for _ in range(2):
        assert ines.put(path, {"name": "Maren", "mass_kg": 72}).status_code == 200
    assert Rider.objects.count() == 1
    ines.put(path, {"name": "Maren", "mass_kg": "11 st"})
    assert Rider.objects.get().mass_kg == pytest.approx(69.85, abs=0.01)


@pytest.mark.parametrize(
    ("body", "field", "words"),
    [
        ({**PACK, "name": ""}, "name", "is empty"),
        ({**PACK, "series": 0}, "series", "is 0, expected at least 1"),
        ({**PACK, "chemistry": "gold"}, "chemistry", "expected one of nmc"),
        (
            {**PACK, "rated_ah": "14 V"},
            "rated_ah",
            "'V' is not a unit of charge; write it like 9.4 Ah",
        ),
        ({**PACK, "rated_ah": "-2"}, "rated_ah", "takes 0.05 to 2,000 Ah"),
        ({**PACK, "full_v": "546"}, "full_v", "13 cells of nmc in series cannot have"),
        ({**PACK, "full_v": 50, "cutoff_v": 51}, "cutoff_v", "not below full_v"),
        ({**PACK, "colour": "grey"}, "colour", "is not a field here"),
    ],
)
def test_a_faulty_pack_is_refused_beside_its_field(ines, body, field, words):
    answer = ines.put(f"/packs/{uuid4()}", body)
    assert answer.status_code == 422
    assert words in answer.json()["fields"][field]
    assert not Pack.objects.exists()


def test_a_name_is_in_an_account_once(ines, tobias):
    body = {"name": "Turnstone", "kind": "kick_scooter"}
    assert ines.put(f"/vehicles/{uuid4()}", body).status_code == 200
    answer = ines.put(f"/vehicles/{uuid4()}", body)
    assert "is in your kit already" in answer.json()["fields"]["name"]
    assert tobias.put(f"/vehicles/{uuid4()}", body).status_code == 200


@pytest.mark.parametrize("shelf", ["vehicles", "packs", "riders"])
def test_kit_belongs_to_its_account(ines, tobias, nobody, kit, shelf):
    item_id = kit[f"{shelf[:-1]}_id"]
    assert len(ines.get(f"/{shelf}").json()) == 1
    assert tobias.get(f"/{shelf}").json() == []
    assert nobody.get(f"/{shelf}").status_code == 401
    assert tobias.delete(f"/{shelf}/{item_id}").status_code == 404
    assert nobody.delete(f"/{shelf}/{item_id}").status_code == 401
    body = {**PACK, "kind": "moped"}
    body = {
        k: v
        for k, v in body.items()
        if k in {"vehicles": ("name", "kind"), "packs": tuple(PACK), "riders": ("name",)}[shelf]
    }
    assert tobias.put(f"/{shelf}/{item_id}", body).status_code == 409
    assert len(ines.get(f"/{shelf}").json()) == 1


def test_removed_kit_leaves_the_tests_that_used_it(ines, kit, ride):
    assert ines.delete(f"/vehicles/{kit['vehicle_id']}").status_code == 204
    assert ines.get("/vehicles").json() == []
    assert ines.get(f"/tests/{ride}").json()["vehicle_name"] == "Sandpiper"


def test_a_list_comes_by_the_page(ines):
    """Rows are passed over and cut off, in the list's own order; too many are refused."""
    for number in range(3):
        ines.put(f"/vehicles/{uuid4()}", {"name": f"Cart {number}", "kind": "trike"})
    assert [row["name"] for row in ines.get("/vehicles").json()] == ["Cart 0", "Cart 1", "Cart 2"]
    assert [row["name"] for row in ines.get("/vehicles?skip=1&most=1").json()] == ["Cart 1"]
    assert ines.get("/vehicles?skip=3").json() == []
    assert ines.get("/vehicles?most=1001").status_code == 422
    assert ines.get("/plans?skip=-1").status_code == 422
