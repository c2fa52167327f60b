"""How long the server waits for a caller who says nothing or takes nothing, and how many connections one may hold.

uvicorn takes so many connections at once and waits for ever for the first line of each: a few hundred that are
opened and left silent would keep everybody else out. It waits for ever, too, until what it answers is taken, and a
thread with it.
"""

from __future__ import annotations

import asyncio
from ipaddress import ip_address
from typing import cast

import h11
from django.conf import settings
from uvicorn.protocols.http.h11_impl import H11Protocol

#: The lines before a body are there within so long, however they trickle; of a body something is said, and of an
#: answer something taken, this often [s].
HEAD_S, BODY_S = 20.0, 60.0
#: Connections of one process that one address of the network may hold. A phone opens six.
MOST_OF_ONE = 100


def _is_here(address: str) -> bool:
    return ip_address(address).is_loopback


class Patient(H11Protocol):
    """HTTP as uvicorn speaks it, and an end to waiting."""

    _ends: asyncio.TimerHandle | None = None
    _for_a_head = False
    _takes_nothing: asyncio.TimerHandle | None = None

    def connection_made(self, transport: asyncio.BaseTransport) -> None:
        """Somebody calls; who holds too much is not answered."""
        super().connection_made(cast(asyncio.Transport, transport))
        if self._held_by_the_same() > MOST_OF_ONE:
            transport.close()
        else:
            self._wait_for_what_is_owed()

    def data_received(self, data: bytes) -> None:
        """Something was said."""
        super().data_received(data)
        self._wait_for_what_is_owed()

    def on_response_complete(self) -> None:
        """All is answered; the next request may follow."""
        super().on_response_complete()
        self._wait_for_what_is_owed()

    def connection_lost(self, exc: Exception | None) -> None:
        """The caller has gone."""
        self._wait_no_longer()
        self.resume_writing()
        super().connection_lost(exc)

    def pause_writing(self) -> None:
        """More was answered than is taken for the moment."""
        super().pause_writing()
        self._takes_nothing = self.loop.call_later(BODY_S, self.transport.abort)

    def resume_writing(self) -> None:
        """What was answered is being taken again."""
        if self._takes_nothing is not None:
            self._takes_nothing.cancel()
            self._takes_nothing = None
        super().resume_writing()

    def _held_by_the_same(self) -> int:
        """Connections of an address of the network; of this machine, and of proxies of one's own, none are counted."""
        if self.client is None or settings.PROXIES or _is_here(self.client[0]):
            return 0
        return sum(
            other.client is not None and other.client[0] == self.client[0]
            for other in self.connections
            if isinstance(other, H11Protocol)
        )

    def _wait_for_what_is_owed(self) -> None:
        owed = self.conn.their_state
        if owed is h11.IDLE and self._for_a_head and self._ends is not None:
            # A head that trickles gets no more time for it.
            return
        self._wait_no_longer()
        if owed in (h11.IDLE, h11.SEND_BODY):
            self._for_a_head = owed is h11.IDLE
            seconds = HEAD_S if self._for_a_head else BODY_S
            self._ends = self.loop.call_later(seconds, self.transport.close)

    def _wait_no_longer(self) -> None:
        if self._ends is not None:
            self._ends.cancel()
            self._ends = None
