"""The door of the server: how much may come in, and from whom, before any of it is read."""

from __future__ import annotations

import json
from collections.abc import Awaitable, Callable, MutableMapping
from http.cookies import CookieError, SimpleCookie
from typing import Any

from asgiref.sync import sync_to_async
from django.conf import settings
from django.contrib.auth import SESSION_KEY
from django.contrib.sessions.backends.db import SessionStore
from django.db import connection
from django.db.utils import DatabaseError

Scope = MutableMapping[str, Any]
Message = MutableMapping[str, Any]
Receive = Callable[[], Awaitable[Message]]
Send = Callable[[Message], Awaitable[None]]
App = Callable[[Scope, Receive, Send], Awaitable[None]]

#: A body up to this size is read before it is asked who sends it: signing in is one of them.
FREE_BYTES = 64 * 2**10
#: What may come in where, beyond the JSON of a form.
MOST_BYTES = {
    "/api/tests/import": settings.MOST_UPLOAD_BYTES,
    "/api/imports": settings.MOST_UPLOAD_BYTES,
    "/api/routes/import": 66 * 2**20,
}
#: Larger bodies that one process reads at once, each in a thread of those that answer.
MOST_STREAMED = max(settings.THREADS // 2, 1)
_BUSY = "Limpet is reading other uploads just now. Try again in a moment."
JSON_BYTES = settings.DATA_UPLOAD_MAX_MEMORY_SIZE
_READING = frozenset({"GET", "HEAD", "OPTIONS"})


class _TooMuch(Exception):
    """A body without a stated length went past what may come in."""


class Doorway:
    """Refuses at the door what would be refused inside, so that it is not read first."""

    def __init__(self, inside: App) -> None:
        self.inside = inside
        self._streamed = 0

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http" or scope["method"] in _READING:
            await self.inside(scope, receive, send)
            return
        most = MOST_BYTES.get(scope["path"], JSON_BYTES)
        headers = {name.lower(): value for name, value in scope["headers"]}
        stated = headers.get(b"content-length")
        if stated is not None and not stated.isdigit():
            await _refuse(send, 400, "bad_request", "The length of the body is no number.")
            return
        chunked = b"transfer-encoding" in headers
        # Neither stated nor in chunks: there is no body at all, as with most removals.
        length = int(stated[:20]) if stated is not None else None if chunked else 0
        if length is not None and length > most:
            await _refuse(send, 413, "too_large", _too_large(most))
            return
        is_free = length is not None and length <= FREE_BYTES
        if not is_free and not await _signed_in(headers.get(b"cookie", b"")):
            message = "You are not signed in. Sign in and try again."
            await _refuse(send, 401, "signed_out", message)
            return
        if is_free:
            # Whoever is slow to send it keeps no thread waiting.
            try:
                body = await _whole(receive)
            except _TooMuch:
                await _refuse(send, 413, "too_large", _too_large(FREE_BYTES))
                return
            if body is not None:
                await self.inside(scope, _told(body, receive), send)
            return
        if self._streamed >= MOST_STREAMED:
            await _refuse(send, 503, "busy", _BUSY)
            return
        self._streamed += 1
        try:
            await self._counted(scope, receive, send, most)
        finally:
            self._streamed -= 1

    async def _counted(self, scope: Scope, receive: Receive, send: Send, most: int) -> None:
        taken = 0
        answered = False

        async def counted() -> Message:
            nonlocal taken
            message = await receive()
            taken += len(message.get("body", b""))
            if taken > most:
                raise _TooMuch
            return message

        async def sent(message: Message) -> None:
            nonlocal answered
            answered = True
            await send(message)

        try:
            await self.inside(scope, counted, sent)
        except _TooMuch:
            if not answered:
                await _refuse(send, 413, "too_large", _too_large(most))


async def _whole(receive: Receive) -> bytes | None:
    """A body that says it is small, once all of it is there; None when its sender has gone."""
    body = bytearray()
    while True:
        message = await receive()
        if message["type"] == "http.disconnect":
            return None
        body += message.get("body", b"")
        if len(body) > FREE_BYTES:
            raise _TooMuch
        if not message.get("more_body", False):
            return bytes(body)


def _told(body: bytes, receive: Receive) -> Receive:
    """A body that is there, told again; what is heard after it is what the sender does."""
    there: list[Message] = [{"type": "http.request", "body": body, "more_body": False}]

    async def told() -> Message:
        return there.pop() if there else await receive()

    return told


def _too_large(most: int) -> str:
    size = f"{most >> 20} MiB" if most >= 2**20 else f"{most >> 10} KiB"
    return f"That is over {size}. Send less at once: thin out a log, or import a zip."


async def _signed_in(cookie: bytes) -> bool:
    try:
        jar = SimpleCookie(cookie.decode("latin-1"))
    except CookieError:
        return False
    found = jar.get(settings.SESSION_COOKIE_NAME)
    return found is not None and await _has_user(found.value)


@sync_to_async(thread_sensitive=False)
def _has_user(session_key: str) -> bool:
    try:
        return SESSION_KEY in SessionStore(session_key=session_key)
    except DatabaseError:
        # Inside it is told that the database does not answer.
        return True
    finally:
        connection.close()


async def _refuse(send: Send, status: int, code: str, message: str) -> None:
    body = json.dumps({"code": code, "message": message, "fields": {}, "faults": []}).encode()
    headers = [
        (b"content-type", b"application/json"),
        (b"content-length", str(len(body)).encode()),
        # The rest of the body is not read: the connection cannot be used again.
        (b"connection", b"close"),
    ]
    await send({"type": "http.response.start", "status": status, "headers": headers})
    await send({"type": "http.response.body", "body": body})
