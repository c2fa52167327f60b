"""Certificates of this installation's own, cookies over TLS, and a phone that signs in by a code."""

from __future__ import annotations

import ssl
import stat
from datetime import UTC, datetime, timedelta
from ipaddress import ip_address
from pathlib import Path

import pytest
from cryptography import x509
from cryptography.hazmat.primitives import hashes
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.hazmat.primitives.serialization import (
    Encoding,
    NoEncryption,
    PrivateFormat,
    load_pem_private_key,
)
from django.utils import timezone

from launch.network import may_be_signed
from server.accounts.models import PhoneCode
from server.lan import authority
from server.lan.authority import certificates, is_private
from server.lan.square import square, square_for_terminal

NOW = datetime(2026, 5, 14, tzinfo=UTC)
#: A handshake goes by the machine's own clock.
TODAY = datetime.now(UTC)


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


def signed_with(folder, name: x509.GeneralName) -> Path:
    """What a thief of the authority's key would make of any name: a certificate and its key."""
    issuer = loaded(folder / "authority.crt")
    signer = load_pem_private_key((folder / "authority.key").read_bytes(), None)
    key = ec.generate_private_key(ec.SECP256R1())
    forged = (
        x509.CertificateBuilder()
        .subject_name(x509.Name([]))
        .issuer_name(issuer.subject)
        .public_key(key.public_key())
        .serial_number(7)
        .not_valid_before(TODAY - timedelta(days=1))
        .not_valid_after(TODAY + timedelta(days=10))
        .add_extension(x509.SubjectAlternativeName([name]), critical=True)
        .add_extension(
            x509.AuthorityKeyIdentifier.from_issuer_public_key(issuer.public_key()), critical=False
        )
        .sign(signer, hashes.SHA256())
    )
    path = folder / "forged.pem"
    private = key.private_bytes(Encoding.PEM, PrivateFormat.PKCS8, NoEncryption())
    path.write_bytes(forged.public_bytes(Encoding.PEM) + private)
    return path


def believed_by_openssl(folder, certificate: Path, key: Path | None = None) -> bool:
    """Whether OpenSSL, as Python has it, shakes hands with a server that shows a certificate."""
    ours = ssl.SSLContext(ssl.PROTOCOL_TLS_CLIENT)
    ours.check_hostname = False
    ours.load_verify_locations(folder / "authority.crt")
    theirs = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
    theirs.load_cert_chain(certificate, key)
    there, back = ssl.MemoryBIO(), ssl.MemoryBIO()
    ends = [ours.wrap_bio(back, there), theirs.wrap_bio(there, back, server_side=True)]
    for _ in range(6):
        for end in ends:
            try:
                end.do_handshake()
            except ssl.SSLWantReadError:
                continue
            except ssl.SSLCertVerificationError as error:
                if "permitted subtree violation" not in str(error):
                    raise
                return False
    return True


def believed_by_the_library(folder, file: Path, name: x509.IPAddress | x509.DNSName) -> bool:
    """The same by the library's verifier, for whoever asks for that name."""
    verifier = (
        x509.verification.PolicyBuilder()
        .store(x509.verification.Store([loaded(folder / "authority.crt")]))
        .build_server_verifier(name)
    )
    try:
        return bool(verifier.verify(loaded(file), []))
    except x509.verification.VerificationError:
        return False


@pytest.mark.parametrize("host", ["bank.example", "home.lan", "localhost.bank.example", "8.8.8.8"])
def test_whoever_has_the_authoritys_key_speaks_for_no_site_on_the_internet(tmp_path, host):
    """RFC 5280 section 4.2.1.10, as OpenSSL and the library's own verifier hold to it."""
    files = certificates(tmp_path, "192.168.1.20", TODAY)
    name = x509.IPAddress(ip_address(host)) if host[0].isdigit() else x509.DNSName(host)
    forged = signed_with(tmp_path, name)
    assert not believed_by_openssl(tmp_path, forged)
    assert not believed_by_the_library(tmp_path, forged, name)
    own = files.certificate
    assert believed_by_openssl(tmp_path, own, files.key)
    for allowed in (x509.IPAddress(ip_address("192.168.1.20")), x509.DNSName("localhost")):
        assert believed_by_the_library(tmp_path, own, allowed)


@pytest.mark.parametrize(
    "name", [x509.RFC822Name("ines@bank.example"), x509.UniformResourceIdentifier("https://bank.example/")]
)  # fmt: skip
def test_nor_for_mail_or_an_address_of_a_page(tmp_path, name):
    certificates(tmp_path, "192.168.1.20", TODAY)
    assert not believed_by_openssl(tmp_path, signed_with(tmp_path, name))


def test_an_authority_that_could_sign_any_host_is_made_anew_and_named(tmp_path, monkeypatch):
    """As version 0.2 made them: addresses alone were bounded, and a host was anything."""
    addresses = tuple(name for name in authority.ALLOWED if isinstance(name, x509.IPAddress))
    monkeypatch.setattr(authority, "ALLOWED", addresses)
    old = certificates(tmp_path, "192.168.1.20", TODAY)
    before = old.authority.read_bytes()
    assert believed_by_openssl(tmp_path, signed_with(tmp_path, x509.DNSName("bank.example")))
    monkeypatch.undo()
    new = certificates(tmp_path, "192.168.1.20", TODAY)
    assert new.authority.read_bytes() != before
    assert new.replaced == loaded_name(before)
    assert believed_by_openssl(tmp_path, new.certificate, new.key)
    assert certificates(tmp_path, "192.168.1.20", TODAY).replaced is None


def loaded_name(pem: bytes) -> str:
    found = x509.load_pem_x509_certificate(pem)
    return found.subject.get_attributes_for_oid(x509.NameOID.COMMON_NAME)[0].value


@pytest.mark.parametrize(
    "address", ["192.168.1.20", "10.9.9.9", "172.16.0.1", "172.32.0.1", "100.64.0.1", "192.0.2.7", "8.8.8.8", "fd00::1", "::1"]
)  # fmt: skip
def test_the_launcher_takes_what_the_authority_may_sign(address):
    assert may_be_signed(address) == is_private(address)


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
