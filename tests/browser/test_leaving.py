"""A shared phone keeps nothing of whoever signed out; a link signs nobody in unasked."""

from __future__ import annotations

import re
from typing import Any

from playwright.sync_api import Page, expect

from tests.browser.conftest import sign_in
from tests.browser.roadside import all_sent, kept_here, note, over, press, start_ride

#: All that a device keeps, by name: both storages, every row of every database, addresses of kept answers.
DUMP = """async () => {
  const kept = { local: { ...localStorage }, session: { ...sessionStorage }, rows: {}, answers: [] };
  for (const { name } of await indexedDB.databases()) {
    const db = await new Promise((done) => {
      const asked = indexedDB.open(name);
      asked.onsuccess = () => done(asked.result);
    });
    for (const table of db.objectStoreNames) {
      const rows = await new Promise((done) => {
        const asked = db.transaction(table).objectStore(table).getAll();
        asked.onsuccess = () => done(asked.result);
      });
      kept.rows[`${name}/${table}`] = rows.map((row) => JSON.stringify(row));
    }
    db.close();
  }
  for (const name of await caches.keys())
    for (const { url } of await (await caches.open(name)).keys()) kept.answers.push(url);
  return kept;
}"""


def sign_out(page: Page) -> None:
    page.goto("/logbook")
    page.get_by_role("button", name="More", exact=True).click()
    page.get_by_role("menuitem", name="Sign out").click()


def filled(kept: dict[str, Any]) -> set[str]:
    """Names of what is there."""
    rows = {name for name, rows in kept["rows"].items() if rows}
    return rows | {f"local/{name}" for name in kept["local"]} | {f"session/{name}" for name in kept["session"]}  # fmt: skip


def test_after_signing_out_a_shared_phone_tells_nothing_and_keeps_what_was_not_sent(walking: Page):
    phone = walking
    where = start_ride(phone, "To the secret pier")
    test_id = where.rsplit("/", 1)[-1]
    note(phone, Volts="415", Trip_meter="0")
    all_sent(phone)
    # Noted while the server does not answer; typed and not stored, twice; and where it is.
    phone.route("**/entries/**", lambda route: route.abort())
    note(phone, Volts="402", Trip_meter="2.2")
    kept_here(phone, "acts", "(row) => row.kind === 'entry'")
    phone.get_by_role("button", name=re.compile("^Entry")).click()
    press(phone, "39")
    phone.go_back()
    phone.context.grant_permissions(["geolocation"])
    phone.context.set_geolocation({"latitude": 57.25, "longitude": -7.4, "accuracy": 5})
    phone.get_by_role("button", name="Menu").click()
    over(phone).get_by_role("switch", name="Record my track").click()
    phone.go_back()
    kept_here(phone, "points", "(row) => row.latitude_deg === 57.25")
    phone.evaluate("() => sessionStorage.setItem('limpet-draft-plan', '{\"title\":\"the secret pier\"}')")  # fmt: skip

    before = phone.evaluate(DUMP)
    assert "limpet-roadside/points" in filled(before)
    assert any(name.startswith("local/limpet-draft-") for name in filled(before))
    sign_out(phone)
    asked = phone.get_by_role("dialog", name="Sign out?")
    expect(asked).to_contain_text("not been sent yet")
    asked.get_by_role("button", name=re.compile("^Keep ")).click()
    expect(phone.get_by_role("button", name="Open the demo")).to_be_visible()

    after = phone.evaluate(DUMP)
    # By key: what is sealed, and nothing else.
    assert filled(after) <= {"limpet-roadside/sealed", "local/limpet-color-scheme"}
    assert len(after["rows"]["limpet-roadside/sealed"]) == 1
    for secret in ("secret", "57.25", test_id, "402"):
        assert secret not in str(after), secret
    assert not any("/api/" in address for address in after["answers"])
    # Back again, it is theirs and goes.
    phone.unroute("**/entries/**")
    sign_in(phone)
    phone.goto(where)
    all_sent(phone)
    stored = phone.request.get(f"/api/tests/{test_id}", max_retries=3).json()["entries"]
    assert [entry["voltage_rest_v"] for entry in stored] == [41.5, 40.2]
    streams = phone.request.get(f"/api/tests/{test_id}/streams", max_retries=3).json()
    assert [stream["rows"] >= 1 for stream in streams] == [True]


def test_what_was_not_sent_may_be_thrown_away_by_a_word(rider: Page):
    where = start_ride(rider, "Thrown away")
    note(rider, Volts="415", Trip_meter="0")
    all_sent(rider)
    rider.route("**/entries/**", lambda route: route.abort())
    note(rider, Volts="402", Trip_meter="2.2")
    kept_here(rider, "acts", "(row) => row.kind === 'entry'")
    sign_out(rider)
    rider.get_by_role("button", name=re.compile("^Throw ")).click()
    expect(rider.get_by_role("button", name="Open the demo")).to_be_visible()
    assert filled(rider.evaluate(DUMP)) <= {"local/limpet-color-scheme"}
    rider.unroute("**/entries/**")
    sign_in(rider)
    rider.goto(where)
    expect(rider.get_by_role("button", name=re.compile("^Last: start"))).to_be_visible()
