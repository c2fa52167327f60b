"""Certificates of this installation's own, cookies over TLS, and a phone that signs in by a code."""

from __future__ import annotations

import ssl
import stat
from datetime import UTC, datetime, timedelta
from ipaddress import ip_address

import pytest
from cryptography import x509
from cryptography.hazmat.primitives import hashes
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.hazmat.primitives.serialization import load_pem_private_key
from django.utils import timezone

from server.accounts.models import PhoneCode
from server.lan.authority import certificates, is_private
from server.lan.square import square, square_for_terminal

NOW = datetime(2026, 5, 14, tzinfo=UTC)


def loaded(path):
    return x509.load_pem_x509_certificate(path.read_bytes())


def test_the_authority_is_made_once_and_the_servers_certificate_for_its_address(tmp_path):
    first = certificates(tmp_path / "lan", "192.168.1.20", NOW)
    authority, server = first.authority.read_bytes(), first.certificate.read_bytes()
    again = certificates(tmp_path / "lan", "192.168.1.20", NOW + timedelta(days=100))
    assert (again.authority.read_bytes(), again.certificate.read_bytes()) == (authority, server)
    moved = certificates(tmp_path / "lan", "10.0.0.7", NOW)
    assert moved.authority.read_bytes() == authority
    names = loaded(moved.certificate).extensions.get_extension_for_class(
        x509.SubjectAlternativeName
    )
    assert ip_address("10.0.0.7") in names.value.get_values_for_type(x509.IPAddress)
    loaded(moved.certificate).verify_directly_issued_by(loaded(moved.authority))


def test_a_certificate_that_is_nearly_too_old_or_another_authoritys_is_made_anew(tmp_path):
    folder = tmp_path / "lan"
    old = certificates(folder, "192.168.1.20", NOW).certificate.read_bytes()
    later = certificates(folder, "192.168.1.20", NOW + timedelta(days=365))
    assert later.certificate.read_bytes() != old
    assert loaded(later.certificate).not_valid_after_utc > NOW + timedelta(days=700)
    # Phones take no server's certificate that lives over 398 days.
    lives = loaded(later.certificate)
    assert lives.not_valid_after_utc - lives.not_valid_before_utc < timedelta(days=398)
    (folder / "authority.key").unlink()
    other = certificates(folder, "192.168.1.20", NOW)
    loaded(other.certificate).verify_directly_issued_by(loaded(other.authority))


def test_keys_are_for_their_owner_alone(tmp_path):
    certificates(tmp_path / "lan", "192.168.1.20", NOW)
    assert stat.S_IMODE((tmp_path / "lan").stat().st_mode) == 0o700
    for name in ("authority.key", "server.key"):
        assert stat.S_IMODE((tmp_path / "lan" / name).stat().st_mode) == 0o600


@pytest.mark.parametrize("address", ["8.8.8.8", "172.32.0.1", "home", "", "2001:db8::1"])
def test_nothing_outside_private_networks_is_vouched_for(tmp_path, address):
    assert not is_private(address)
    with pytest.raises(ValueError, match="no address of a private network"):
        certificates(tmp_path, address, NOW)


def test_whoever_has_the_authoritys_key_speaks_for_no_site_on_the_internet(tmp_path):
    """RFC 5280 section 4.2.1.10, as OpenSSL and the library's own verifier hold to it."""
    files = certificates(tmp_path, "192.168.1.20", NOW)
    issuer = loaded(files.authority)
    limits = issuer.extensions.get_extension_for_class(x509.NameConstraints)
    assert limits.critical
    signer = load_pem_private_key((tmp_path / "authority.key").read_bytes(), None)
    key = ec.generate_private_key(ec.SECP256R1())
    forged = (
        x509.CertificateBuilder()
        .subject_name(x509.Name([]))
        .issuer_name(issuer.subject)
        .public_key(key.public_key())
        .serial_number(7)
        .not_valid_before(NOW)
        .not_valid_after(NOW + timedelta(days=10))
        .add_extension(
            x509.SubjectAlternativeName([x509.IPAddress(ip_address("8.8.8.8"))]), critical=True
        )
        .add_extension(
            x509.AuthorityKeyIdentifier.from_issuer_public_key(issuer.public_key()), critical=False
        )
        .sign(signer, hashes.SHA256())
    )
    store = x509.verification.Store([issuer])
    for address, certificate in (("192.168.1.20", loaded(files.certificate)), ("8.8.8.8", forged)):
        verifier = (
            x509.verification.PolicyBuilder()
            .store(store)
            .time(NOW + timedelta(days=1))
            .build_server_verifier(x509.IPAddress(ip_address(address)))
        )
        if certificate is forged:
            with pytest.raises(x509.verification.VerificationError):
                verifier.verify(certificate, [])
        else:
            assert verifier.verify(certificate, [])


def test_the_fingerprint_is_that_of_the_certificate(tmp_path):
    files = certificates(tmp_path, "192.168.1.20", NOW)
    der = ssl.PEM_cert_to_DER_cert(files.authority.read_text())
    digest = hashes.Hash(hashes.SHA256())
    digest.update(der)
    assert files.fingerprint.replace(" ", "").lower() == digest.finalize().hex()


def test_a_square_code_is_drawn_for_both():
    assert square("https://192.168.1.20:8643/phone/in#ABCDEFGH").startswith("<svg")
    assert len(square_for_terminal("http://192.168.1.20:8644/").splitlines()) > 10


@pytest.fixture
def on_the_network(settings, tmp_path):
    settings.LAN_ADDRESS = "192.168.1.20"
    settings.LAN_ORIGIN = "https://192.168.1.20:8643"
    settings.LAN_DOORSTEP = "http://192.168.1.20:8644/"
    settings.LAN_FOLDER = tmp_path
    settings.ALLOWED_HOSTS = [*settings.ALLOWED_HOSTS, "192.168.1.20"]
    certificates(tmp_path, "192.168.1.20")


def from_a_phone(client, method, path, body=None):
    return getattr(client, method)(
        path,
        body or {},
        content_type="application/json",
        secure=True,
        HTTP_HOST="192.168.1.20:8643",
    )


def test_without_a_network_the_page_says_what_to_do(ines):
    found = ines.get("/phone").json()
    assert found["address"] == ""
    assert "./limpet start --lan" in found["missing"]
    assert ines.post("/phone/code").status_code == 409


def test_behind_a_proxy_the_code_leads_to_its_address(ines, settings):
    settings.PUBLIC_ORIGIN = "https://limpet.example"
    assert ines.get("/phone").json()["address"] == "https://limpet.example"
    assert ines.post("/phone/code").json()["address"].startswith("https://limpet.example/phone/in#")


def test_a_code_signs_a_phone_in_once(ines, nobody, on_the_network):
    shown = ines.post("/phone/code").json()
    assert shown["address"] == f"https://192.168.1.20:8643/phone/in#{shown['code']}"
    assert shown["code"] not in str(PhoneCode.objects.values_list())
    phone = nobody.client
    entered = from_a_phone(phone, "post", "/api/session/phone", {"code": shown["code"].lower()})
    assert entered.json()["username"] == "ines"
    assert all(cookie["secure"] for cookie in entered.cookies.values())
    phone.logout()
    again = from_a_phone(phone, "post", "/api/session/phone", {"code": shown["code"]})
    assert again.status_code == 403
    assert "new one" in again.json()["message"]


def test_a_code_grows_old_and_a_newer_one_voids_it(ines, nobody, on_the_network):
    first = ines.post("/phone/code").json()["code"]
    second = ines.post("/phone/code").json()["code"]
    assert from_a_phone(nobody.client, "post", "/api/session/phone", {"code": first}).status_code == 403  # fmt: skip
    PhoneCode.objects.update(valid_until=timezone.now())
    assert from_a_phone(nobody.client, "post", "/api/session/phone", {"code": second}).status_code == 403  # fmt: skip


def test_from_the_network_nobody_makes_accounts_or_opens_the_demo(nobody, settings, on_the_network):
    new = {"username": "noor", "password": "a-long-enough-one"}
    session = from_a_phone(nobody.client, "get", "/api/session").json()
    assert (session["sign_up_open"], session["demo_offered"]) == (False, False)
    assert from_a_phone(nobody.client, "post", "/api/accounts", new).status_code == 403
    assert from_a_phone(nobody.client, "post", "/api/session/demo").status_code == 404
    # On this machine all is as ever; and on the network where it was asked for.
    assert nobody.get("/session").json()["sign_up_open"] is True
    settings.LAN_SIGN_UP = True
    assert from_a_phone(nobody.client, "post", "/api/accounts", new).status_code == 200


def test_over_loopback_cookies_need_no_tls(ines):
    answer = ines.get("/session")
    assert not any(cookie["secure"] for cookie in answer.cookies.values())
