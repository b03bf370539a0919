"""Sign-in, its limits, what is kept when it runs out, and what every response carries."""

import re
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from sqlalchemy import text
from sqlalchemy.orm import Session

import nomisma.web
from nomisma.web.frame.assets import FOLDER
from nomisma.web.frame.guard import CONTENT_POLICY
from nomisma.web.frame.kept import Keeper
from tests.serving import sign_in_at
from tests.web.conftest import Hand

PAGES = [
    "/",
    "/jobs/104/mate",
    "/jobs/104/measure",
    "/jobs/104/record",
    "/jobs/104/assemble",
    "/shop/rules",
    "/worksheets",
    "/bush",
    "/ask?q=7/8",
    "/mate",
    "/verdict",
    "/shop",
    "/styleguide",
]


@pytest.mark.parametrize("path", [*PAGES, "/jobs/104/record.csv"])
def test_nothing_of_the_shop_is_shown_to_nobody(hands: Callable[..., Hand], path: str) -> None:
    response = hands("").get(path)
    assert response.status_code == 401
    assert "Password" in response.text
    assert "Dome roller" not in response.text


@pytest.mark.parametrize("path", PAGES)
def test_every_page_is_there_for_somebody_signed_in(newly: Hand, path: str) -> None:
    assert newly.get(path).status_code == 200


def test_after_signing_in_the_page_asked_for_opens(hands: Callable[..., Hand]) -> None:
    nobody = hands("")
    nobody.get("/jobs/104/measure")
    response = sign_in_at(nobody.client, next="/jobs/104/measure")
    assert str(response.url).endswith("/jobs/104/measure")


@pytest.mark.parametrize(
    "address", ["https://elsewhere.example/", "//elsewhere.example", "/\\elsewhere.example", "javascript:1"]
)
def test_signing_in_never_leads_elsewhere(hands: Callable[..., Hand], address: str) -> None:
    nobody = hands("")
    response = sign_in_at(nobody.client, next=address)
    assert str(response.url) == "http://bench.test/"


def test_a_wrong_password_is_said_and_nothing_opens(hands: Callable[..., Hand]) -> None:
    nobody = hands("")
    response = sign_in_at(nobody.client, password="no")
    assert response.status_code == 401
    assert "do not go together" in response.text
    assert nobody.get("/").status_code == 401


def test_the_cookie_is_out_of_reach_of_scripts_and_other_sites(hands: Callable[..., Hand]) -> None:
    nobody = hands("")
    response = sign_in_at(nobody.client, follow_redirects=False)
    cookie = response.headers["set-cookie"].lower()
    assert "httponly" in cookie
    assert "samesite=lax" in cookie


def reading_form(hand: Hand) -> dict[str, str]:
    hand.get("/jobs/104/measure")
    return {"size": ".8742", "place": "mouth 0°", "cut_since": "cut", "instrument_id": hand.instrument("Bore gauge")}


def run_out(db: Session) -> None:
    db.execute(text("UPDATE session SET expires_at = :then"), {"then": datetime.now(UTC) - timedelta(minutes=1)})
    db.commit()


def test_a_reading_typed_as_the_sign_in_ran_out_survives_it(newly: Hand, db: Session) -> None:
    form = reading_form(newly)
    run_out(db)
    refused = newly.send("/jobs/104/measure/readings", **form)
    assert refused.status_code == 401
    assert ".8742" in refused.text
    kept = re.search(r'name="kept" value="([^"]+)"', refused.text)
    assert kept
    back = sign_in_at(newly.client, kept=kept[1])
    assert "Kept for you" in back.text
    fields = dict(re.findall(r'type="hidden" name="([^"]+)" value="([^"]*)"', back.text))
    assert fields["size"] == ".8742"
    done = newly.client.post("/jobs/104/measure/readings", data=fields)
    assert ".8742 in" in done.text


def test_a_page_refreshing_itself_does_not_take_what_is_being_typed(newly: Hand, db: Session) -> None:
    run_out(db)
    response = newly.get("/jobs/104/measure?part=seen", headers={"HX-Request": "true"})
    assert (response.status_code, response.headers["HX-Reswap"], response.text) == (401, "none", "")


def test_a_form_from_an_earlier_sign_in_is_asked_about_not_lost(newly: Hand) -> None:
    response = newly.send("/jobs/104/measure/readings", **{**reading_form(newly), "csrf_token": "stale"})
    assert response.status_code == 409
    assert "Kept for you" in response.text
    assert ".8742" in response.text


def test_a_kept_form_that_was_tampered_with_is_no_form() -> None:
    keeper = Keeper("one secret")
    assert keeper.read("nonsense") is None
    assert Keeper("another").read(keeper._signer.dumps({"path": "/", "fields": []})) is None


@pytest.mark.parametrize("headers", [{"sec-fetch-site": "cross-site"}, {"origin": "https://elsewhere.example"}])
def test_a_post_from_another_site_is_refused(newly: Hand, headers: dict[str, str]) -> None:
    response = newly.client.post("/jobs", data={"title": "x"}, headers=headers)
    assert response.status_code == 403


def test_a_body_larger_than_any_form_is_refused(newly: Hand) -> None:
    assert newly.client.post("/jobs", data={"title": "x" * 300_000}).status_code == 413


def test_signing_out_closes_the_door(newly: Hand) -> None:
    newly.send("/sign-out")
    assert newly.get("/").status_code == 401


@pytest.mark.parametrize("path", ["/", "/sign-in", "/no-such-page", "/api/v1/calc"])
def test_every_response_carries_the_strict_policy(newly: Hand, path: str) -> None:
    headers = newly.get(path).headers
    assert headers["content-security-policy"] == CONTENT_POLICY
    assert headers["x-content-type-options"] == "nosniff"
    assert "unsafe" not in CONTENT_POLICY


def test_no_template_has_inline_style_or_script() -> None:
    for path in (Path(nomisma.web.__file__).parent / "templates").rglob("*.html"):
        assert not re.search(r"<style|\sstyle=|<script>|\son\w+=", path.read_text(encoding="utf-8")), path.name


def test_no_line_of_a_template_is_wider_than_160_characters() -> None:
    templates = (Path(nomisma.web.__file__).parent / "templates").rglob("*.html")
    assert [
        path.name
        for path in templates
        if any(len(line) > 160 for line in path.read_text(encoding="utf-8").splitlines())
    ] == []


def test_templates_stay_short_enough_to_hold_in_mind() -> None:
    long = {
        p.name: n
        for p in (Path(nomisma.web.__file__).parent / "templates").rglob("*.html")
        if (n := p.read_text().count("\n")) > 120
    }
    assert long == {}


def test_a_shipped_file_is_kept_by_the_browser_for_good(newly: Hand) -> None:
    address = re.search(r'href="(/static/[0-9a-f]{12}/theme.css)"', newly.get("/").text)
    assert address
    assert "immutable" in newly.get(address[1]).headers["cache-control"]


def test_every_vendored_part_has_its_licence_and_its_note() -> None:
    note = (FOLDER / "vendor" / "README.md").read_text(encoding="utf-8")
    for folder in (FOLDER / "vendor").iterdir():
        if folder.is_dir():
            assert folder.name in note
            assert any(path.name.startswith("LICENSE") for path in folder.iterdir())


def test_pages_and_first_load_stay_inside_their_budgets(newly: Hand) -> None:
    """First page under 300 kB compressed, later ones under 40 kB."""
    first = newly.get("/jobs/104/mate?function=turns_freely", headers={"accept-encoding": "gzip"})
    page_bytes = int(first.headers["content-length"])
    shipped = set(re.findall(r'(?:href|src)="(/static/[^"]+)"', first.text))
    fonts = [f"/static/x/vendor/fonts/{path.name}" for path in (FOLDER / "vendor/fonts").glob("*.woff2")]
    total = sum(
        int(newly.client.get(a, headers={"accept-encoding": "gzip"}).headers.get("content-length", 0))
        for a in {*shipped, *fonts}
    )
    assert page_bytes < 40_000
    assert page_bytes + total < 300_000


def test_the_health_page_says_nothing_of_the_shop(hands: Callable[..., Hand]) -> None:
    assert hands("").get("/health").json() == {"status": "up"}
