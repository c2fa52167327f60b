"""The doorstep: a plain page on the local network that hands out the authority's certificate, nothing else.

A phone that does not trust this Limpet yet cannot ask it for the certificate over TLS. What it gets
here is compared with the fingerprint that the laptop shows.
"""

from __future__ import annotations

from collections.abc import Awaitable, Callable, MutableMapping
from html import escape
from typing import Any

from server.lan.authority import Certificates

App = Callable[
    [MutableMapping[str, Any], Callable[[], Awaitable[Any]], Callable[[Any], Awaitable[None]]],
    Awaitable[None],
]

_PAGE = """<!doctype html><html lang="en"><meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1"><title>Limpet: first the certificate</title>
<style>body{{font:18px/1.5 sans-serif;max-width:36rem;margin:1.5rem auto;padding:0 1rem;background:#f6f3ec;color:#16242b}}
a{{display:block;padding:1rem 0;font-weight:700;color:#0f6b6b}}code{{word-break:break-all}}</style>
<h1>First the certificate</h1>
<p>It lets this phone know your Limpet again, and nothing else: it vouches for addresses at home only.</p>
<a href="/limpet.crt">1. Get the certificate</a>
<p>2. Trust it in the phone's settings: on Android under Security, install a certificate, CA certificate; on an
iPhone install the profile, then switch it on under General, About, Certificate trust settings.</p>
<p>Its fingerprint must be the one that the laptop shows: <code>{fingerprint}</code></p>
<a href="{address}">3. Open Limpet</a></html>"""


def doorstep(files: Certificates, address: str) -> App:
    """The application of the plain page.

    Parameters
    ----------
    address : of Limpet itself, over TLS
    """
    page = _PAGE.format(fingerprint=escape(files.fingerprint), address=escape(address)).encode()
    certificate = files.authority.read_bytes()
    answers = {
        "/": (b"text/html; charset=utf-8", page),
        "/limpet.crt": (b"application/x-x509-ca-cert", certificate),
    }

    async def answer(
        scope: MutableMapping[str, Any],
        receive: Callable[[], Awaitable[Any]],
        send: Callable[[Any], Awaitable[None]],
    ) -> None:
        if scope["type"] != "http":
            return
        kind, body = answers.get(scope["path"], (b"text/plain; charset=utf-8", b""))
        status = 200 if body else 404
        headers = [(b"content-type", kind), (b"content-length", str(len(body)).encode())]
        await send({"type": "http.response.start", "status": status, "headers": headers})
        shown = b"" if scope["method"] == "HEAD" else body
        await send({"type": "http.response.body", "body": shown})

    return answer
