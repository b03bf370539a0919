"""HTTPS without a stranger's help: a certificate authority of this shop's own, and a certificate by it for
this server.
"""

import ipaddress
import os
import socket
import threading
from datetime import UTC, datetime, timedelta
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

AUTHORITY_LASTS, CERTIFICATE_LASTS = timedelta(days=3650), timedelta(days=397)
RENEWED_BEFORE = timedelta(days=30)
CIPHERS = "ECDHE+AESGCM:ECDHE+CHACHA20"
"""TLS 1.2's suites with forward secrecy and authenticated encryption, none in CBC mode; TLS 1.3 has no others. Source:
RFC 9325, 4.2.
"""
INSIDE = (
    "127.0.0.0/8",
    "10.0.0.0/8",
    "172.16.0.0/12",
    "192.168.0.0/16",
    "169.254.0.0/16",
    "::1/128",
    "fc00::/7",
    "fe80::/10",
)
"""Addresses of no public site: for these the authority may sign besides the shop's names, for a server's address
changes. Source: RFC 6890.
"""
AUTHORITY_PATH = "/nomisma-authority.crt"


class Certificates:
    """The authority and the server's certificate, as files in a folder that only its owner reads."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.authority, self.certificate, self.key = (
            folder / name for name in ("authority.crt", "server.crt", "server.key")
        )

    def prepare(self, names: list[str], now: datetime | None = None) -> None:
        """Make what is missing, runs out within a month, or is for other names."""
        now = now or datetime.now(UTC)
        self.folder.mkdir(mode=0o700, parents=True, exist_ok=True)
        if not self.authority.exists() or not self._may_sign(names):
            self._make_authority(names, now)
            self.certificate.unlink(missing_ok=True)
        if not self._still_good(names, now):
            self._make_certificate(names, now)

    def _may_sign(self, names: list[str]) -> bool:
        """Whether the authority that is there is bound to these names; one that is bound to nothing may sign what it
        likes and goes.
        """
        authority = x509.load_pem_x509_certificate(self.authority.read_bytes())
        try:
            bound = authority.extensions.get_extension_for_class(x509.NameConstraints).value.permitted_subtrees or []
        except x509.ExtensionNotFound:
            return False
        hosts = {one.value for one in bound if isinstance(one, x509.DNSName)}
        networks = [one.value for one in bound if isinstance(one, x509.IPAddress)]
        return all(
            (
                any(name.value in network for network in networks if not isinstance(network, _ADDRESS))
                if isinstance(name, x509.IPAddress)
                else name.value in hosts
            )
            for name in map(_alternative, names)
        )

    def _make_authority(self, names: list[str], now: datetime) -> None:
        key = ec.generate_private_key(ec.SECP256R1())
        name = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, f"Nomisma of {socket.gethostname()[:40]}")])
        only_for_signing = x509.KeyUsage(
            digital_signature=False,
            content_commitment=False,
            key_encipherment=False,
            data_encipherment=False,
            key_agreement=False,
            key_cert_sign=True,
            crl_sign=True,
            encipher_only=False,
            decipher_only=False,
        )
        certificate = (
            _begun(name, name, key.public_key(), now, AUTHORITY_LASTS)
            .add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
            .add_extension(only_for_signing, critical=True)
            .add_extension(x509.NameConstraints(_permitted(names), None), critical=True)
            .add_extension(x509.SubjectKeyIdentifier.from_public_key(key.public_key()), critical=False)
            .sign(key, hashes.SHA256())
        )
        _write(self.folder / "authority.key", _pem(key))
        _write(self.authority, certificate.public_bytes(serialization.Encoding.PEM))

    def _make_certificate(self, names: list[str], now: datetime) -> None:
        authority = x509.load_pem_x509_certificate(self.authority.read_bytes())
        signing = serialization.load_pem_private_key((self.folder / "authority.key").read_bytes(), None)
        assert isinstance(signing, ec.EllipticCurvePrivateKey)
        key = ec.generate_private_key(ec.SECP256R1())
        subject = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, names[0][:60])])
        certificate = (
            _begun(subject, authority.subject, key.public_key(), now, CERTIFICATE_LASTS)
            .add_extension(x509.SubjectAlternativeName([_alternative(name) for name in names]), critical=False)
            .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
            .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
            .add_extension(x509.AuthorityKeyIdentifier.from_issuer_public_key(signing.public_key()), critical=False)
            .sign(signing, hashes.SHA256())
        )
        _write(self.key, _pem(key))
        _write(self.certificate, certificate.public_bytes(serialization.Encoding.PEM))

    def _still_good(self, names: list[str], now: datetime) -> bool:
        if not (self.certificate.exists() and self.key.exists()):
            return False
        found = x509.load_pem_x509_certificate(self.certificate.read_bytes())
        known = found.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
        named = {*known.get_values_for_type(x509.DNSName), *map(str, known.get_values_for_type(x509.IPAddress))}
        return set(names) <= named and found.not_valid_after_utc - RENEWED_BEFORE > now


_ADDRESS = (ipaddress.IPv4Address, ipaddress.IPv6Address)


def _permitted(names: list[str]) -> list[x509.GeneralName]:
    """What the shop's authority may sign for: the shop's names and addresses inside it, and no public site."""
    found = [_alternative(name) for name in names]
    outside = [
        ipaddress.ip_network(str(one.value))
        for one in found
        if isinstance(one, x509.IPAddress) and not any(_within(one.value, network) for network in INSIDE)
    ]
    networks = [*map(ipaddress.ip_network, INSIDE), *outside]
    return [*(one for one in found if isinstance(one, x509.DNSName)), *map(x509.IPAddress, networks)]


def _within(address: object, network: str) -> bool:
    return isinstance(address, _ADDRESS) and address in ipaddress.ip_network(network)


def names_of(host: str) -> list[str]:
    """What browsers may call this server: the address it listens on, its own name, and this machine's usual ones."""
    own = socket.gethostname()
    addresses = {host} if host not in ("0.0.0.0", "::") else _own_addresses()
    return list(dict.fromkeys([own, f"{own}.local", "localhost", "127.0.0.1", *sorted(addresses)]))


def _own_addresses() -> set[str]:
    found = {str(info[4][0]) for info in socket.getaddrinfo(socket.gethostname(), None, socket.AF_INET)}
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as probe:
        try:  # nothing is sent: it only asks by which of its addresses this machine would go out
            probe.connect(("192.0.2.1", 9))
            found.add(str(probe.getsockname()[0]))
        except OSError:
            pass
    return found


def _alternative(name: str) -> x509.GeneralName:
    try:
        return x509.IPAddress(ipaddress.ip_address(name))
    except ValueError:
        return x509.DNSName(name)


def _begun(
    subject: x509.Name, issuer: x509.Name, key: ec.EllipticCurvePublicKey, now: datetime, lasts: timedelta
) -> x509.CertificateBuilder:
    return (
        x509.CertificateBuilder()
        .subject_name(subject)
        .issuer_name(issuer)
        .public_key(key)
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - timedelta(hours=1))
        .not_valid_after(now + lasts)
    )


def _pem(key: ec.EllipticCurvePrivateKey) -> bytes:
    return key.private_bytes(
        serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, serialization.NoEncryption()
    )


def _write(path: Path, content: bytes) -> None:
    with os.fdopen(os.open(path, os.O_CREAT | os.O_WRONLY | os.O_TRUNC, 0o600), "wb") as file:
        file.write(content)


def redirecting(host: str, port: int, https_port: int, authority: Path) -> ThreadingHTTPServer:
    """A small server on plain HTTP, already answering: it hands out the authority's certificate, and sends all else to
    HTTPS.
    """
    given = authority.read_bytes()

    class Handler(BaseHTTPRequestHandler):
        server_version, sys_version, timeout = "nomisma", "", 10

        def do_GET(self) -> None:
            if self.path == AUTHORITY_PATH:
                self.send_response(200)
                self.send_header("Content-Type", "application/x-x509-ca-cert")
                self.send_header("Content-Length", str(len(given)))
                self.end_headers()
                self.wfile.write(given)
                return
            name = self.headers.get("Host", host).rpartition(":")[0] or self.headers.get("Host", host)
            self.send_response(308)
            self.send_header("Location", f"https://{_only_a_host(name, host)}:{https_port}{_only_a_path(self.path)}")
            self.send_header("Content-Length", "0")
            self.end_headers()

        def do_POST(self) -> None:
            self.do_GET()

        def do_HEAD(self) -> None:
            self.do_GET()

        def log_message(self, *_: object) -> None:
            return

    server = ThreadingHTTPServer((host, port), Handler)
    server.daemon_threads = True
    threading.Thread(target=server.serve_forever, daemon=True).start()
    return server


def _only_a_host(name: str, otherwise: str) -> str:
    return name if name and all(sign.isalnum() or sign in ".-[]:" for sign in name) and name.isascii() else otherwise


def _only_a_path(path: str) -> str:
    return path if path.startswith("/") and not path.startswith("//") and path.isprintable() else "/"
