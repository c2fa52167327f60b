"""The local network: this machine's address on it, and what a server there needs to know."""

from __future__ import annotations

import socket
from ipaddress import ip_address, ip_network
from pathlib import Path

from launch.say import Trouble

#: An address of documentation (RFC 5737): asking which way it lies sends nothing.
_ELSEWHERE = ("192.0.2.1", 9)


#: What the authority may vouch for, as `server.lan.authority.PRIVATE`: a test holds the two together. The
#: launcher runs before anything is installed, and imports nothing of the server's.
PRIVATE = (
    "10.0.0.0/8", "172.16.0.0/12", "192.168.0.0/16", "169.254.0.0/16", "127.0.0.0/8", "fc00::/7",
)  # fmt: skip


def may_be_signed(address: str) -> bool:
    """Whether a certificate can be made for an address; other private ones (RFC 6598, tests) get none.

    Raises
    ------
    ValueError
        When it is no address.
    """
    found = ip_address(address)
    networks = map(ip_network, PRIVATE)
    return any(found in network for network in networks if network.version == found.version)


def own_address(wanted: str | None) -> str:
    """The address at which others on the network reach this machine.

    Raises
    ------
    Trouble
        Without a network, or for an address that is not a private one of this machine's.
    """
    if wanted is not None:
        try:
            private = may_be_signed(wanted)
        except ValueError as cause:
            raise Trouble(f"--address is {wanted}; give an address such as 192.168.1.20") from cause
        if not private:
            raise Trouble(
                f"--address {wanted} is not one of a private network. For the internet put a proxy of "
                "your own before Limpet (README, Use it on your phone)."
            )
        return wanted
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as probe:
        try:
            probe.connect(_ELSEWHERE)
            found = str(probe.getsockname()[0])
        except OSError:
            found = "127.0.0.1"
    if found.startswith("127."):
        raise Trouble(
            "This machine is on no network just now. Join one, or name its address with --address."
        )
    if not may_be_signed(found):
        raise Trouble(
            f"This machine's address is {found}, which is open to the internet: --lan is for a network at "
            "home. Name a private address with --address."
        )
    return found


def lan_environment(address: str, port: int, folder: Path, *, sign_up: bool) -> dict[str, str]:
    """What the server reads of the network that it is to serve."""
    found = {
        "LIMPET_LAN": address,
        "LIMPET_LAN_ORIGIN": f"https://{address}:{port}",
        "LIMPET_LAN_DOORSTEP": f"http://{address}:{port + 1}/",
        "LIMPET_LAN_FOLDER": str(folder),
    }
    return found | ({"LIMPET_LAN_SIGN_UP": "1"} if sign_up else {})
