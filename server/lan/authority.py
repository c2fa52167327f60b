"""The certificates by which a phone knows this Limpet: an authority made once, and a server's for its address.

Keys lie under the data directory with mode 0600. The authority may vouch for addresses of private
networks and for `localhost` alone (name constraints, RFC 5280 section 4.2.1.10), so that whoever got hold
of its key could pass for nothing on the internet. A kind of name that such a list does not mention may be
anything: so each kind stands in it.
"""

from __future__ import annotations

import os
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from ipaddress import IPv4Address, IPv4Network, IPv6Network, ip_address
from pathlib import Path

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

#: The authority is trusted once and for years; the server's own is made anew before phones refuse its age.
AUTHORITY_DAYS, SERVER_DAYS, RENEW_DAYS = 3650, 390, 30
#: What the authority may vouch for: private and link-local networks (RFC 1918, RFC 3927, RFC 4193).
PRIVATE = (
    IPv4Network("10.0.0.0/8"),
    IPv4Network("172.16.0.0/12"),
    IPv4Network("192.168.0.0/16"),
    IPv4Network("169.254.0.0/16"),
    IPv4Network("127.0.0.0/8"),
    IPv6Network("fc00::/7"),
)
#: The one host by name; of mail and addresses of pages there is none but its own either.
HOST = "localhost"
ALLOWED: tuple[x509.GeneralName, ...] = (
    *(x509.IPAddress(network) for network in PRIVATE),
    x509.DNSName(HOST),
    x509.RFC822Name(HOST),
    x509.UniformResourceIdentifier(HOST),
)


@dataclass(frozen=True, slots=True)
class Certificates:
    """Where the files are: the authority's certificate, the server's certificate and its key.

    `replaced` is the name of an authority that was made anew for it could sign too much: phones that
    trust it are to be rid of it.
    """

    authority: Path
    certificate: Path
    key: Path
    replaced: str | None = None

    @property
    def fingerprint(self) -> str:
        """SHA-256 of the authority's certificate, in pairs, to be compared by eye."""
        found = x509.load_pem_x509_certificate(self.authority.read_bytes())
        digest = found.fingerprint(hashes.SHA256()).hex().upper()
        return " ".join(digest[k : k + 4] for k in range(0, len(digest), 4))


def is_private(address: str) -> bool:
    """Whether an address is one that the authority may vouch for."""
    try:
        found = ip_address(address)
    except ValueError:
        return False
    return any(found in network for network in PRIVATE if network.version == found.version)


def certificates(folder: Path, address: str, now: datetime | None = None) -> Certificates:
    """The certificates for an address; what is missing, of another address or nearly too old is made.

    Parameters
    ----------
    folder : where they are kept; made with mode 0700

    Raises
    ------
    ValueError
        For an address outside private networks.
    """
    if not is_private(address):
        raise ValueError(f"{address} is no address of a private network")
    now = now or datetime.now(UTC)
    folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    authority, authority_key = folder / "authority.crt", folder / "authority.key"
    replaced = None
    if not authority.is_file() or not authority_key.is_file():
        _make_authority(authority, authority_key, now)
    elif not _is_bounded(authority):
        replaced = _name_of(authority)
        _make_authority(authority, authority_key, now)
    found = Certificates(authority, folder / "server.crt", folder / "server.key", replaced)
    if not _serves(found, address, now):
        _make_server(found, authority_key, address, now)
    return found


def _make_authority(certificate: Path, key_file: Path, now: datetime) -> None:
    key = ec.generate_private_key(ec.SECP256R1())
    # The number tells two installations apart in a phone's list.
    number = x509.random_serial_number()
    name = x509.Name(
        [x509.NameAttribute(NameOID.COMMON_NAME, f"Limpet at home {number % 100_000:05d}")]
    )
    made = (
        _builder(name, name, key.public_key(), number, now, AUTHORITY_DAYS)
        .add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
        .add_extension(_usage(signs=True), critical=True)
        .add_extension(
            x509.NameConstraints(list(ALLOWED), None),
            critical=True,
        )
        .add_extension(x509.SubjectKeyIdentifier.from_public_key(key.public_key()), critical=False)
        .sign(key, hashes.SHA256())
    )
    _write_key(key_file, key)
    certificate.write_bytes(made.public_bytes(serialization.Encoding.PEM))


def _is_bounded(certificate: Path) -> bool:
    """Whether an authority may sign no more than this version lets one; earlier ones could sign any host."""
    try:
        found = x509.load_pem_x509_certificate(certificate.read_bytes())
        limits = found.extensions.get_extension_for_class(x509.NameConstraints)
    except (ValueError, x509.ExtensionNotFound):
        return False
    return (
        limits.critical
        and set(limits.value.permitted_subtrees or ()) <= set(ALLOWED)
        and set(map(type, limits.value.permitted_subtrees or ())) == set(map(type, ALLOWED))
    )


def _name_of(certificate: Path) -> str:
    """What a phone calls an authority in its list."""
    try:
        found = x509.load_pem_x509_certificate(certificate.read_bytes())
    except ValueError:
        return "Limpet at home"
    names = found.subject.get_attributes_for_oid(NameOID.COMMON_NAME)
    return str(names[0].value) if names else "Limpet at home"


def _make_server(files: Certificates, authority_key: Path, address: str, now: datetime) -> None:
    issuer = x509.load_pem_x509_certificate(files.authority.read_bytes())
    signer = serialization.load_pem_private_key(authority_key.read_bytes(), None)
    assert isinstance(signer, ec.EllipticCurvePrivateKey)
    key = ec.generate_private_key(ec.SECP256R1())
    name = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, "Limpet")])
    number = x509.random_serial_number()
    names: list[x509.GeneralName] = [x509.IPAddress(ip_address(address))]
    if address != "127.0.0.1":
        names.append(x509.IPAddress(IPv4Address("127.0.0.1")))
    names.append(x509.DNSName(HOST))
    made = (
        _builder(name, issuer.subject, key.public_key(), number, now, SERVER_DAYS)
        .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
        .add_extension(_usage(signs=False), critical=True)
        .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
        .add_extension(x509.SubjectAlternativeName(names), critical=False)
        .add_extension(
            x509.AuthorityKeyIdentifier.from_issuer_public_key(signer.public_key()), critical=False
        )
        .sign(signer, hashes.SHA256())
    )
    _write_key(files.key, key)
    files.certificate.write_bytes(made.public_bytes(serialization.Encoding.PEM))


def _builder(
    subject: x509.Name,
    issuer: x509.Name,
    key: ec.EllipticCurvePublicKey,
    number: int,
    now: datetime,
    days: int,
) -> x509.CertificateBuilder:
    return (
        x509.CertificateBuilder()
        .subject_name(subject)
        .issuer_name(issuer)
        .public_key(key)
        .serial_number(number)
        # A phone's clock may be a little behind.
        .not_valid_before(now - timedelta(days=1))
        .not_valid_after(now + timedelta(days=days))
    )


def _usage(*, signs: bool) -> x509.KeyUsage:
    return x509.KeyUsage(
        digital_signature=not signs,
        key_cert_sign=signs,
        crl_sign=signs,
        content_commitment=False,
        key_encipherment=False,
        data_encipherment=False,
        key_agreement=False,
        encipher_only=False,
        decipher_only=False,
    )


def _serves(files: Certificates, address: str, now: datetime) -> bool:
    """Whether there is a certificate for this address, of this authority and young enough."""
    if not files.certificate.is_file() or not files.key.is_file():
        return False
    try:
        found = x509.load_pem_x509_certificate(files.certificate.read_bytes())
        found.verify_directly_issued_by(
            x509.load_pem_x509_certificate(files.authority.read_bytes())
        )
    except Exception:  # whatever is wrong with it, another is made
        return False
    names = found.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    known = {str(name) for name in names.get_values_for_type(x509.IPAddress)}
    return address in known and found.not_valid_after_utc > now + timedelta(days=RENEW_DAYS)


def _write_key(path: Path, key: ec.EllipticCurvePrivateKey) -> None:
    """Never readable by others, not even for a moment."""
    data = key.private_bytes(
        serialization.Encoding.PEM,
        serialization.PrivateFormat.PKCS8,
        serialization.NoEncryption(),
    )
    path.unlink(missing_ok=True)
    handle = os.open(path, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
    with os.fdopen(handle, "wb") as file:
        file.write(data)
