"""One test's visitor leaves nothing behind for the next one's."""

from __future__ import annotations

from tests.browser.conftest import sign_in
from tests.browser.contexts import Contexts

LEAVE = """async () => {
  localStorage.setItem('left', 'behind');
  await new Promise((done, failed) => {
    const open = indexedDB.open('left-behind');
    open.onupgradeneeded = () => open.result.createObjectStore('rows');
    open.onsuccess = () => { open.result.close(); done(); };
    open.onerror = failed;
  });
}"""
LEFT = """async () => ({
  kept: Object.keys(localStorage),
  stores: (await indexedDB.databases()).map((one) => one.name),
})"""


def test_what_a_visitor_leaves_behind_is_gone_for_the_next(contexts: Contexts):
    how = {"viewport": {"width": 700, "height": 500}}
    with contexts.lent(**how) as first:
        page = sign_in(first.new_page())
        page.goto("/method")
        page.evaluate(LEAVE)
        assert "left" in page.evaluate(LEFT)["kept"]
        first.route("**/api/session", lambda route: route.abort())
        first.set_offline(True)
    with contexts.lent(**how) as second:
        assert second is first
        page = second.new_page()
        page.goto("/")
        page.get_by_role("button", name="Open the demo").wait_for()
        found = page.evaluate(LEFT)
        assert "left" not in found["kept"]
        assert "left-behind" not in found["stores"]
        # Two at a time are two.
        with contexts.lent(**how) as third:
            assert third is not second
    with contexts.lent(**how) as fourth:
        fourth.new_page().clock.install()
        fourth.pages[0].goto("/")
    with contexts.lent(**how) as fifth:
        # A clock that was set stays in a context: it is given to nobody else.
        assert fifth is not fourth
