"""axe-core finds nothing to complain about: every view and dialog, wide and phone, light and dark."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import enter_demo
from tests.browser.test_walk import BENCH, PHONE, PLACES, hrefs_of

AXE = (Path(__file__).resolve().parents[2] / "web/node_modules/axe-core/axe.min.js").read_text()
RULES = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"]
#: What is fine is not listed, and no selectors are made up: half of the time.
OPTIONS = json.dumps({"runOnly": RULES, "resultTypes": ["violations"], "selectors": False})


def violations(page: Page) -> list[str]:
    """What axe finds, each with where it is."""
    page.evaluate(AXE)
    found = page.evaluate(f"axe.run(document, {OPTIONS})")
    return [
        f"{page.url} {rule['id']}: {node['html'][:160]} {node['failureSummary'][:200]}"
        for rule in found["violations"]
        for node in rule["nodes"]
    ]


@pytest.mark.parametrize("size", [BENCH, PHONE], ids=["bench", "phone"])
@pytest.mark.parametrize("scheme", ["light", "dark"])
def test_axe_finds_nothing_in_any_place(browser, address, size, scheme):
    context = browser.new_context(
        viewport=size, base_url=address, locale="en-GB", color_scheme=scheme,
        reduced_motion="reduce",
    )  # fmt: skip
    page = context.new_page()
    page.goto("/")
    page.get_by_role("button", name="Open the demo").wait_for()
    found = violations(page)
    enter_demo(page)
    hrefs = hrefs_of(page)
    kept_plan = page.request.get("/api/plans").json()
    waiting = next(plan["id"] for plan in kept_plan if plan["test_id"] is None)
    with_traces = next(h for h in hrefs if "/tests/" in h)
    for path in [*PLACES, with_traces, hrefs[-1], f"/plan/{waiting}"]:
        page.goto(path)
        page.locator("main h1").first.wait_for()
        page.wait_for_load_state("networkidle")
        expect(page.locator("[aria-busy=true]")).to_have_count(0)
        found += violations(page)
    for path, button in (
        ("/kit/vehicles", "Change Dunlin"),
        ("/kit/routes", "Change Quay loop"),
        ("/kit/routes", "Open Lighthouse road"),
        ("/logbook", "Import"),
    ):
        page.goto(path)
        page.get_by_role("button", name=button, exact=True).click()
        page.get_by_role("dialog").wait_for()
        found += violations(page)
    context.close()
    assert found == []
