"""HTTPS by the shop's own authority: a client that trusts it gets in, one that does not is warned, plain HTTP leads
there.
"""

import http.client
import ssl
from collections.abc import Iterator
from contextlib import closing
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from cryptography import x509

from nomisma.tls import AUTHORITY_PATH, CERTIFICATE_LASTS, CIPHERS, Certificates, names_of, redirecting
from tests.serving import free_port, nothing_served

NAMES = ["bench", "localhost", "127.0.0.1"]


@pytest.fixture
def certificates(tmp_path: Path) -> Certificates:
    found = Certificates(tmp_path / "tls")
    found.prepare(NAMES)
    return found


@pytest.fixture
def served(certificates: Certificates) -> Iterator[int]:
    """A server of nothing, over HTTPS; its port."""
    files = {"ssl_certfile": certificates.certificate, "ssl_keyfile": certificates.key, "ssl_ciphers": CIPHERS}
    with nothing_served(**files) as port:
        yield port


def test_who_trusts_the_shops_authority_gets_in_by_every_name(certificates: Certificates, served: int) -> None:
    for name in ("localhost", "127.0.0.1"):
        line = http.client.HTTPSConnection(name, served, context=context_of(certificates), timeout=5)
        line.request("GET", "/")
        assert line.getresponse().read() == b"ok"
        line.close()


def test_who_does_not_trust_it_is_warned(served: int) -> None:
    with (
        closing(
            http.client.HTTPSConnection("127.0.0.1", served, context=ssl.create_default_context(), timeout=5)
        ) as line,
        pytest.raises(ssl.SSLCertVerificationError),
    ):
        line.request("GET", "/")


def test_no_suite_in_cbc_mode_is_spoken(certificates: Certificates, served: int) -> None:
    for suites, spoken in (
        ("ECDHE-ECDSA-AES128-SHA256:ECDHE-ECDSA-AES256-SHA", False),
        ("ECDHE-ECDSA-AES128-GCM-SHA256", True),
    ):
        context = context_of(certificates)
        context.maximum_version = ssl.TLSVersion.TLSv1_2
        context.set_ciphers(suites)
        with closing(http.client.HTTPSConnection("localhost", served, context=context, timeout=5)) as line:
            if spoken:
                line.request("GET", "/")
                assert line.getresponse().read() == b"ok"
            else:
                with pytest.raises((ssl.SSLError, ConnectionError)):
                    line.request("GET", "/")


def test_the_authority_may_sign_for_the_shop_and_for_no_public_site(tmp_path: Path) -> None:
    found = Certificates(tmp_path / "stolen")
    found.prepare(NAMES)
    forged = Certificates(found.folder)
    forged._make_certificate(["bank.example", "localhost"], datetime.now(UTC))
    with (
        nothing_served(ssl_certfile=forged.certificate, ssl_keyfile=forged.key) as port,
        closing(http.client.HTTPSConnection("localhost", port, context=context_of(found), timeout=5)) as line,
        pytest.raises(ssl.SSLCertVerificationError, match="subtree"),
    ):
        line.request("GET", "/")


def test_an_authority_bound_to_nothing_or_to_other_names_is_made_anew(tmp_path: Path) -> None:
    found = Certificates(tmp_path / "tls")
    found.prepare(NAMES)
    first = found.authority.read_bytes()
    found.prepare([*NAMES, "10.1.2.3", "192.168.7.7"])
    assert found.authority.read_bytes() == first, "an address inside is covered"
    found.prepare(["lathe-shop", *NAMES])
    assert found.authority.read_bytes() != first


def test_keys_are_read_by_their_owner_only(certificates: Certificates) -> None:
    assert all(path.stat().st_mode & 0o077 == 0 for path in certificates.folder.iterdir())
    assert certificates.folder.stat().st_mode & 0o077 == 0


def context_of(certificates: Certificates) -> ssl.SSLContext:
    """A browser that trusts the shop's own authority and no other."""
    return ssl.create_default_context(cafile=str(certificates.authority))


def serial(certificates: Certificates) -> int:
    return x509.load_pem_x509_certificate(certificates.certificate.read_bytes()).serial_number


def test_a_certificate_lasts_and_is_renewed_in_time_under_the_same_authority(certificates: Certificates) -> None:
    first, authority = serial(certificates), certificates.authority.read_bytes()
    certificates.prepare(NAMES)
    assert serial(certificates) == first
    certificates.prepare(NAMES, datetime.now(UTC) + CERTIFICATE_LASTS - timedelta(days=29))
    assert serial(certificates) != first
    second = serial(certificates)
    certificates.prepare([*NAMES, "192.168.1.20"])
    assert serial(certificates) != second
    assert certificates.authority.read_bytes() == authority, "tablets trust it already"


def test_plain_http_hands_out_the_authority_and_leads_to_https(certificates: Certificates) -> None:
    port = free_port()
    server = redirecting("127.0.0.1", port, 8470, certificates.authority)
    try:
        with closing(http.client.HTTPConnection("127.0.0.1", port, timeout=5)) as line:
            line.request("GET", AUTHORITY_PATH)
            assert line.getresponse().read() == certificates.authority.read_bytes()
        for path, host, wanted in (
            ("/jobs/104/measure?a=1", "bench:8480", "https://bench:8470/jobs/104/measure?a=1"),
            ("/", 'evil"<x>', "https://127.0.0.1:8470/"),
            ("//elsewhere.example", "bench", "https://bench:8470/elsewhere.example"),
        ):
            with closing(http.client.HTTPConnection("127.0.0.1", port, timeout=5)) as line:
                line.putrequest("GET", path, skip_host=True)
                line.putheader("Host", host)
                line.endheaders()
                response = line.getresponse()
                assert (response.status, response.headers["Location"]) == (308, wanted)
                response.read()
    finally:
        server.shutdown()
        server.server_close()


def test_a_server_goes_by_its_own_name_and_addresses() -> None:
    assert {"localhost", "127.0.0.1", "192.168.1.20"} <= set(names_of("192.168.1.20"))
    assert "0.0.0.0" not in names_of("0.0.0.0")
