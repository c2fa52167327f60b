"""An address as a square code, for a camera."""

from __future__ import annotations

import io

import segno


def square(text: str) -> str:
    """As SVG, dark on light with its quiet margin, whatever the theme around it."""
    made = segno.make(text, error="m")
    return str(made.svg_inline(scale=6, border=4, dark="#000", light="#fff"))


def square_for_terminal(text: str) -> str:
    """As half blocks of a terminal."""
    found = io.StringIO()
    segno.make(text, error="l").terminal(found, compact=True)
    return found.getvalue()
