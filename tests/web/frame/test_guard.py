"""The guard: foreign hosts and origins, endless bodies and headers, failures nobody foresaw, sign-in pages of other
sites.
"""

import re
import socket
from collections.abc import Callable, Iterator
from datetime import UTC, datetime
from typing import Any

import pytest
from starlette.testclient import TestClient

from nomisma.store.accounts import account_named
from nomisma.store.digest import digest
from nomisma.store.models import SignInAttempt
from nomisma.web.app import application
from nomisma.web.frame import connection, guard
from tests.conftest import settings_for
from tests.serving import nothing_served, sign_in_at
from tests.web.conftest import Hand


@pytest.mark.parametrize("origin", ["null", "https://elsewhere.example", "http://bench.test:81", "file://"])
def test_a_post_whose_origin_is_not_this_shop_is_refused(hands: Callable[..., Hand], origin: str) -> None:
    nobody = hands("")
    assert sign_in_at(nobody.client, headers={"origin": origin}).status_code == 403
    assert nobody.get("/").status_code == 401


def test_the_sign_in_form_of_another_browser_signs_nobody_in(hands: Callable[..., Hand]) -> None:
    mine, other = hands(""), hands("")
    token = mine.get("/sign-in").text.split('name="page_token" value="')[1].split('"')[0]
    for sent in (token, "", "forged"):
        response = other.client.post(
            "/sign-in", data={"sign_in_name": "orla", "password": "hilltop-demo", "page_token": sent}
        )
        assert response.status_code == 403
        assert "sign in here" in response.text
        assert other.get("/").status_code == 401


def test_a_failure_nobody_foresaw_is_answered_inside_the_guard(newly: Hand, monkeypatch: pytest.MonkeyPatch) -> None:
    def fails(*_: Any, **__: Any) -> None:
        raise RuntimeError("a fault of ours")

    monkeypatch.setattr("nomisma.web.shop.shop.listed", fails)
    logged: list[dict[str, Any]] = []
    monkeypatch.setattr(guard.log, "info", lambda _event, **values: logged.append(values))
    response = newly.get("/shop")
    assert response.status_code == 500
    assert [(line["path"], line["status"]) for line in logged] == [("/shop", 500)]
    assert logged[0]["reference"] in response.text
    assert "a fault of ours" not in response.text
    assert "That did not work" in response.text
    assert response.headers["content-security-policy"] == guard.CONTENT_POLICY
    assert response.headers["cache-control"] == "no-store"


def test_what_was_typed_is_on_the_page_of_a_failure(newly: Hand, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("nomisma.web.shop.shop._machine", lambda *_: 1 / 0)
    newly.get("/shop")
    response = newly.send("/shop/machines", name="A lathe of mine", unit="mm", dial_line="0.05")
    assert response.status_code == 500
    assert "A lathe of mine" in response.text


def test_a_body_without_a_length_is_cut_off_where_it_is_too_large(newly: Hand) -> None:
    def chunks() -> Iterator[bytes]:
        for _ in range(40):
            yield b"title=" + b"x" * 10_000

    response = newly.client.post(
        "/jobs", content=chunks(), headers={"content-type": "application/x-www-form-urlencoded"}
    )
    assert response.status_code == 413
    assert response.text == guard.TOO_LARGE


def test_only_the_hosts_a_shop_names_are_answered(shop_url: str) -> None:
    app = application(settings_for(shop_url, hosts=("bench.test", "10.0.0.5", "[::1]")))
    with TestClient(app, base_url="http://bench.test") as client:
        known = dict.fromkeys(("bench.test", "bench.test:8470", "10.0.0.5:80", "[::1]:80"), 200)
        for host, status in {**known, "evil.example": 421, "": 421}.items():
            assert client.get("/health", headers={"host": host}).status_code == status, host


def test_over_https_cookies_are_held_to_this_host(shop_url: str) -> None:
    app = application(settings_for(shop_url, secure_cookies=True))
    with TestClient(app, base_url="https://bench.test") as client:
        response = sign_in_at(client, follow_redirects=False)
        cookies = response.headers.get_list("set-cookie")
        assert any(one.startswith("__Host-nomisma_session=") and "Secure" in one and "Path=/" in one for one in cookies)
        assert client.get("/").status_code == 200
        assert "max-age" in response.headers["strict-transport-security"]


def test_a_forwarded_address_is_nobodys_word(monkeypatch: pytest.MonkeyPatch) -> None:
    from nomisma.server import _uvicorn_options

    monkeypatch.delenv("NOMISMA_PROXY", raising=False)
    assert _uvicorn_options("127.0.0.1", 80, 1)["proxy_headers"] is False
    monkeypatch.setenv("NOMISMA_PROXY", "10.0.0.2")
    options = _uvicorn_options("127.0.0.1", 80, 1)
    assert (options["proxy_headers"], options["forwarded_allow_ips"]) == (True, "10.0.0.2")


@pytest.fixture(scope="module")
def bounded() -> Iterator[int]:
    """A server of nothing, with little patience; its port."""
    before, connection.HEAD_SECONDS = connection.HEAD_SECONDS, 1
    with nothing_served() as port:
        yield port
    connection.HEAD_SECONDS = before


def talk(port: int, *parts: bytes, patience: float = 8) -> bytes:
    with socket.create_connection(("127.0.0.1", port), timeout=patience) as line:
        try:
            for part in parts:
                line.sendall(part)
            answer = b""
            while more := line.recv(65536):
                answer += more
        except ConnectionError:
            return answer if "answer" in locals() else b""
        return answer


REQUEST = b"GET / HTTP/1.1\r\nHost: x\r\nConnection: close\r\n\r\n"


def test_an_honest_request_is_answered(bounded: int) -> None:
    assert talk(bounded, REQUEST).endswith(b"ok")


@pytest.mark.parametrize("half", [b"", b"GET / HTTP/1.1\r\nHost: x\r\n"])
def test_half_a_request_is_hung_up_on(bounded: int, half: bytes) -> None:
    assert talk(bounded, half) == b""


def test_endless_headers_are_hung_up_on(bounded: int) -> None:
    line = b"X-Long: " + b"a" * 8000 + b"\r\n"
    assert b"200 OK" not in talk(bounded, b"GET / HTTP/1.1\r\nHost: x\r\n", *[line] * 400)


def test_somebody_changes_the_own_password_and_every_sign_in_ends(hands: Callable[..., Hand]) -> None:
    pim, elsewhere = hands("pim"), hands("pim")
    pim.get("/account")
    new = "four words of no kin"
    wrong = {"password": "not mine at all", "new_password": new, "new_password_again": new}
    assert "That is not your password" in pim.send("/account/password", **wrong).text
    good = {**wrong, "password": "hilltop-demo"}
    assert "differ" in pim.send("/account/password", **{**good, "new_password_again": "other"}).text
    assert (
        "characters"
        in pim.send("/account/password", **{**good, "new_password": "short", "new_password_again": "short"}).text
    )
    same = {**good, "new_password": "hilltop-demo", "new_password_again": "hilltop-demo"}
    assert "the password until now" in pim.send("/account/password", **same).text
    common = {**good, "new_password": "password1234", "new_password_again": "password1234"}
    assert "would be guessed at once" in pim.send("/account/password", **common).text
    pim.send("/account/password", **good)
    assert pim.get("/").status_code == 401
    assert elsewhere.get("/").status_code == 401
    assert sign_in_at(pim.client, "pim", "hilltop-demo").status_code == 401
    assert sign_in_at(pim.client, "pim", new).status_code == 200
    assert re.search(r"Password changed on .*20[0-9-]+.* from testclient", pim.get("/account").text)
    pim.send("/account/password", password=new, new_password="hilltop-demo", new_password_again="hilltop-demo")


def test_how_soon_a_password_would_be_guessed_is_told_while_it_is_typed(hands: Callable[..., Hand]) -> None:
    pim = hands("pim")
    pim.get("/account")

    def told(typed: str) -> str:
        pim.get("/account")
        return str(pim.send("/account/password/strength", new_password=typed).text)

    assert "Guessed at once" in told("password1234")
    assert "5</span> more to go" in told("violins")
    assert "ard to guess" in told("gravel violin teacup shaft")
    assert "Four words" in told("")
    assert "Guessed at once" in told("x" * 5000)


def test_who_was_given_a_password_changes_it_before_anything_else_opens(
    hands: Callable[..., Hand], running: TestClient
) -> None:
    with running.app.state.sessions.begin() as db:
        account_named(db, "pim").password_is_given = True
    pim = hands("pim")
    assert "Choose a password of your own first" in pim.get("/").text
    assert str(pim.client.get("/jobs/101/measure", follow_redirects=False).headers["location"]) == "/account"
    assert pim.client.get("/api/v1/jobs/101").status_code == 403
    own = "gravel violin teacup"
    pim.send("/account/password", password="hilltop-demo", new_password=own, new_password_again=own)
    assert sign_in_at(pim.client, "pim", own).status_code == 200
    assert "Every job and what it needs next" in pim.get("/").text
    pim.get("/account")
    pim.send("/account/password", password=own, new_password="hilltop-demo", new_password_again="hilltop-demo")


def test_the_lead_is_told_whose_name_is_shut_out(hands: Callable[..., Hand], running: TestClient) -> None:
    with running.app.state.sessions.begin() as db:
        for number in range(20):
            at = datetime.now(UTC)
            db.add(SignInAttempt(name_sha256=digest("pim"), address=f"10.0.2.{number}", succeeded=False, at=at))
    told = "wrong passwords for Pim"
    assert told in hands("bram").get("/").text
    assert told not in hands("orla").get("/").text


def test_signing_out_everywhere_ends_the_other_tablets_sign_in(hands: Callable[..., Hand]) -> None:
    one, other = hands("pim"), hands("pim")
    one.get("/account")
    one.send("/account/sign-out")
    assert other.get("/").status_code == 401
