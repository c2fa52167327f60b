"""Where `./limpet start --lan` serves, and what it refuses to."""

from __future__ import annotations

import socket

import pytest

from launch.commands import main
from launch.network import FIRST_PORT, lan_environment, own_address, two_ports
from launch.say import Trouble


def test_a_private_address_is_taken_at_its_word():
    assert own_address("192.168.1.20") == "192.168.1.20"


@pytest.mark.parametrize(
    ("wanted", "said"),
    [("8.8.8.8", "not one of a private network"), ("my laptop", "give an address such as")],
)
def test_no_other_address_is_served(wanted, said):
    with pytest.raises(Trouble, match=said):
        own_address(wanted)


def test_two_neighbouring_ports_are_found_past_one_that_is_taken():
    first = two_ports("127.0.0.2")
    assert first >= FIRST_PORT
    with socket.socket() as taken:
        taken.bind(("127.0.0.2", first + 1))
        taken.listen()
        assert two_ports("127.0.0.2") == first + 2


def test_an_address_of_another_machine_is_said():
    with pytest.raises(Trouble, match="not an address of this machine"):
        two_ports("192.0.2.7")


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
