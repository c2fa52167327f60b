"""Where `./limpet start --lan` serves, and what it refuses to."""

from __future__ import annotations

import socket
from contextlib import ExitStack

import pytest

from launch.commands import main
from launch.network import lan_environment, own_address
from launch.say import Trouble
from launch.sockets import FIRST_LAN_PORT, listen, page_socket, two_sockets


def test_a_private_address_is_taken_at_its_word():
    assert own_address("192.168.1.20") == "192.168.1.20"


@pytest.mark.parametrize(
    ("wanted", "said"),
    [("8.8.8.8", "not one of a private network"), ("my laptop", "give an address such as")],
)
def test_no_other_address_is_served(wanted, said):
    with pytest.raises(Trouble, match=said):
        own_address(wanted)


def test_two_neighbouring_ports_are_found_past_those_that_are_taken():
    first, beside = two_sockets("127.0.0.2")
    with first, beside:
        port = first.getsockname()[1]
        assert port >= FIRST_LAN_PORT
        assert beside.getsockname()[1] == port + 1
        third, fourth = two_sockets("127.0.0.2")
        with third, fourth:
            assert third.getsockname()[1] > port + 1


def test_a_port_is_nobody_elses_from_the_first_moment_on():
    """Found missing: two starts at once looked for a port, and bound it minutes later."""
    with page_socket(None) as one, page_socket(None) as two:
        assert one.getsockname()[1] != two.getsockname()[1]
        with pytest.raises(Trouble, match="is in use; choose another with --port"):
            page_socket(one.getsockname()[1])
        with pytest.raises(OSError, match="in use"):
            listen("127.0.0.1", two.getsockname()[1])


def test_callers_wait_at_a_port_whose_server_is_not_there_yet():
    with ExitStack() as open_, page_socket(None) as bound:
        for _ in range(60):
            open_.enter_context(socket.create_connection(bound.getsockname(), timeout=5))


def test_an_address_of_another_machine_is_said():
    with pytest.raises(Trouble, match="not an address of this machine"):
        two_sockets("192.0.2.7")


def test_what_the_server_is_told(tmp_path):
    known = lan_environment("192.168.1.20", 8643, tmp_path, sign_up=False)
    assert known["LIMPET_LAN_ORIGIN"] == "https://192.168.1.20:8643"
    assert known["LIMPET_LAN_DOORSTEP"] == "http://192.168.1.20:8644/"
    assert "LIMPET_LAN_SIGN_UP" not in known
    assert (
        lan_environment("192.168.1.20", 8643, tmp_path, sign_up=True)["LIMPET_LAN_SIGN_UP"] == "1"
    )


def test_an_address_without_a_network_is_a_slip(capsys):
    assert main(["start", "--address", "192.168.1.20"]) == 1
    assert "--address goes with --lan" in capsys.readouterr().err
