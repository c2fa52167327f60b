"""Sockets that are bound before anything else is done, and handed to the server when it is ready to answer.

A port that is only looked at and bound minutes later may be somebody else's by then. A socket that outlives
the process behind it also keeps callers waiting, where one that went with it would turn them away.
"""

from __future__ import annotations

import errno
import socket

from launch.say import Trouble

#: Here the page is, or on the next port that is free.
FIRST_PORT, MOST_TRIED = 8600, 50
#: Served over TLS from here on, or the next that is free; the plain page beside it has the port after.
FIRST_LAN_PORT = 8643
#: Callers that may wait while the server starts, or is started again.
WAITING = 256


def listen(address: str, port: int = 0) -> socket.socket:
    """A socket that listens; nobody else gets its port while it is open.

    Parameters
    ----------
    port : 0 for any that is free

    Raises
    ------
    OSError
        When the port is taken, or the address is not this machine's.
    """
    made = socket.socket()
    try:
        # What is left of earlier callers (TIME_WAIT) does not keep a port; who listens on it does.
        made.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        made.bind((address, port))
        made.listen(WAITING)
    except OSError:
        made.close()
        raise
    return made


def page_socket(wanted: int | None) -> socket.socket:
    """The socket of the page on 127.0.0.1: on the port that was asked for, else on the first that is free.

    Raises
    ------
    Trouble
        For a port that there is not, or that is taken.
    """
    if wanted is not None:
        if not 1 <= wanted <= 65535:
            raise Trouble(f"--port is {wanted}; ports go from 1 to 65535")
        try:
            return listen("127.0.0.1", wanted)
        except PermissionError as cause:
            raise Trouble(
                f"port {wanted} needs rights that you don't have; choose one from 1024 on"
            ) from cause
        except OSError as cause:
            raise Trouble(
                f"port {wanted} of 127.0.0.1 is in use; choose another with --port"
            ) from cause
    for port in range(FIRST_PORT, FIRST_PORT + MOST_TRIED):
        try:
            return listen("127.0.0.1", port)
        except OSError:
            continue
    return listen("127.0.0.1")


def two_sockets(address: str) -> tuple[socket.socket, socket.socket]:
    """Two sockets on neighbouring ports of an address: for TLS, and for the plain page beside it.

    Raises
    ------
    Trouble
        When the address is not this machine's, or nothing is free.
    """
    for port in range(FIRST_LAN_PORT, FIRST_LAN_PORT + 2 * MOST_TRIED, 2):
        try:
            first = listen(address, port)
        except OSError as cause:
            if cause.errno == errno.EADDRNOTAVAIL:
                raise Trouble(f"{address} is not an address of this machine.") from cause
            continue
        try:
            return first, listen(address, port + 1)
        except OSError:
            first.close()
    raise Trouble(f"No port from {FIRST_LAN_PORT} on is free on {address}.")
