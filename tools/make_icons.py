"""Draw the application's icons from its mark: `python -m tools.make_icons`."""

from __future__ import annotations

from pathlib import Path

from playwright.sync_api import sync_playwright

from tests.chromium import chromium

PUBLIC = Path(__file__).resolve().parents[1] / "web/public"
#: Around the mark, so that a phone may cut the corners off.
MARGIN = 0.16


def main() -> None:
    mark = (PUBLIC / "mark.svg").read_text()
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path=chromium(), args=["--no-sandbox", "--disable-gpu"]
        )
        for size in (192, 512):
            page = browser.new_page(viewport={"width": size, "height": size})
            inner = round(size * (1 - 2 * MARGIN))
            page.set_content(
                f"<body style='margin:0;background:#F6F3EC;display:grid;place-items:center;height:100vh'>"
                f"<style>svg{{width:{inner}px;height:{inner}px}}</style>{mark}</body>"
            )
            page.screenshot(path=PUBLIC / f"icon-{size}.png")
        browser.close()


if __name__ == "__main__":
    main()
