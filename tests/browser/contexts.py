"""Browser contexts that tests use one after the other.

A fresh context compiles the whole application anew, two seconds of processor each time. One that was used
keeps what the browser has compiled; what a visitor leaves behind in it goes.
"""

from __future__ import annotations

import json
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

from playwright.sync_api import Browser, BrowserContext, Error

#: What a visitor leaves behind; the browser's cache of files is not among it.
LEFT_BEHIND = "cookies,indexeddb,local_storage,service_workers,cache_storage,file_systems"


class Contexts:
    """Contexts of one browser, at one address, by how they were made."""

    def __init__(self, browser: Browser, address: str) -> None:
        """No context yet."""
        self._browser, self._address = browser, address
        self._free: dict[str, list[BrowserContext]] = {}

    @contextmanager
    def lent(self, **how: Any) -> Iterator[BrowserContext]:
        """A context as after a first installation of the browser; `how` is of `new_context`."""
        free = self._free.setdefault(json.dumps(how, sort_keys=True), [])
        context = free.pop() if free else self._made(**how)
        try:
            yield context
        finally:
            if self._cleared(context):
                free.append(context)
            else:
                context.close()

    def _made(self, **how: Any) -> BrowserContext:
        # Keeping the application for use without signal is the roadside's, and tested there.
        usual: dict[str, Any] = {"locale": "en-GB", "service_workers": "block"}
        return self._browser.new_context(base_url=self._address, **{**usual, **how})

    def _cleared(self, context: BrowserContext) -> bool:
        """Whether it is as new: a clock that was set stays in a context for good."""
        try:
            if not all(page.evaluate(_OWN_CLOCK) for page in context.pages) or not context.pages:
                return False
            context.set_offline(False)
            context.unroute_all()
            context.clear_permissions()
            first, *others = context.pages
            for page in others:
                page.close()
            first.goto("about:blank")
            session = context.new_cdp_session(first)
            session.send(
                "Storage.clearDataForOrigin",
                {"origin": self._address, "storageTypes": LEFT_BEHIND},
            )
            context.clear_cookies()
            first.close()
        except Error:
            # A test may have closed it, or left it where nothing answers.
            return False
        return True


#: The driver's clock puts itself there, beside the functions that it stands for.
_OWN_CLOCK = "() => globalThis.__pwClock === undefined"
