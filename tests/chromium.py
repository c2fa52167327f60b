"""Debian's Chromium for tests and pictures: the one without windows where it is installed, which takes half of the work."""

from __future__ import annotations

import shutil


def chromium() -> str:
    """Where it is.

    Raises
    ------
    RuntimeError
        When there is none.
    """
    found = shutil.which("chromium-headless-shell") or shutil.which("chromium")
    if found is None:
        raise RuntimeError("no chromium on this machine; ./limpet test installs Debian's")
    return found
