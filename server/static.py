"""Scripts, styles and fonts of the page, which WhiteNoise serves; not the page itself."""

from __future__ import annotations

from typing import Any

from whitenoise.middleware import WhiteNoiseMiddleware


class PageFiles(WhiteNoiseMiddleware):
    """The page goes by its view, with everything that the other middleware puts around it: its policy for
    scripts, and the look at the host's name."""

    def add_file_to_dictionary(self, url: str, path: str, *more: Any, **named: Any) -> None:
        """Leave the page's own file out."""
        if url != "/index.html":
            super().add_file_to_dictionary(url, path, *more, **named)
