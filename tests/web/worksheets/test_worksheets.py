"""The worksheets: each answers at once, keeps what was typed, and says what is wrong in a sentence."""

import re
from collections.abc import Callable
from html import escape
from html.parser import HTMLParser

import pytest

from nomisma.core.quantity.writing import split_sizes
from nomisma.core.registry import calculations
from nomisma.core.shorthand import Shorthand
from nomisma.core.shorthands import SHORTHANDS
from nomisma.web.worksheets.catalog import FITS, JOINTS, TOOLS
from nomisma.web.worksheets.tool import Tool, is_callout
from tests.web.conftest import Hand
from tests.web.parts import number_of, start

every_worksheet = pytest.mark.parametrize("tool", TOOLS.values(), ids=lambda tool: tool.calculation)


@every_worksheet
def test_an_empty_worksheet_answers_its_example_with_a_picture(orla: Hand, tool: Tool) -> None:
    response = orla.get(tool.path)
    assert response.status_code == 200
    assert "The numbers are an example" in orla.page
    assert re.search(r'<p class="big[^>]*>', orla.page)
    assert re.search(
        r'<svg [^>]*role="img".*?<title[^>]*>[^<]+</title><desc[^>]*>[^<]{20,}</desc>', orla.page, re.DOTALL
    )
    assert '<details class="working">' in orla.page
    assert 'class="problem"' not in orla.page


@every_worksheet
def test_it_is_read_in_inch_and_in_metric(orla: Hand, tool: Tool) -> None:
    for unit in ("mm", "in"):
        assert orla.get(tool.path, headers={"cookie": f"{_session(orla)}; nomisma_unit={unit}"}).status_code == 200
        assert f'data-unit="{unit}"' in orla.page
        assert "u-in" in orla.page
        assert "u-mm" in orla.page


def _session(hand: Hand) -> str:
    return "; ".join(f"{name}={value}" for name, value in hand.client.cookies.items())


@every_worksheet
def test_nonsense_in_each_field_gets_a_sentence_and_is_kept(orla: Hand, tool: Tool) -> None:
    example = {one.name: one.example for one in tool.fields}
    for one in tool.fields:
        if one.kind in ("choice", "flag"):
            continue
        for wrong in ("cheese", "1e9", "NaN", "<b>"):
            response = orla.get(tool.path, params={**example, one.name: wrong})
            assert response.status_code == 200, (one.name, wrong)
            assert 'class="problem"' in orla.page, (one.name, wrong)
            assert "<b>" not in orla.page
            if wrong == "cheese":
                assert (">cheese</textarea>" if one.kind == "lines" else 'value="cheese"') in orla.page


def test_only_the_answer_comes_back_when_only_that_is_asked_for(orla: Hand) -> None:
    part = orla.get("/bush", headers={"hx-request": "true", "hx-target": "answer"}).text
    assert part.lstrip().startswith("<section")
    assert "<html" not in part


def test_every_calculation_of_fits_and_joints_has_a_page_of_its_own(orla: Hand) -> None:
    orla.get("/worksheets")
    for tool in (*FITS, *JOINTS):
        assert f'href="{tool.path}"' in orla.page
    elsewhere = {"amount_to_take", "assembly", "close_in_found", "entry_line", "fit", "fit_options", "make_to_suit"}
    elsewhere |= {"measuring_uncertainty", "misread", "size", "verdict"}
    elsewhere |= {"batch", "form", "mating", "pin_bracket", "uncertainty_budget", "zero_check"}
    elsewhere |= {"next_cut", "round_check", "tightening", "feature_lines"}
    assert set(calculations()) == set(TOOLS) | elsewhere


@pytest.mark.parametrize("shorthand", SHORTHANDS, ids=lambda shorthand: shorthand.example)
def test_the_entry_line_opens_the_worksheet_with_the_numbers_in_it(orla: Hand, shorthand: Shorthand) -> None:
    response = orla.get("/ask", params={"q": shorthand.example, "unit": "in"})
    assert response.status_code == 200
    assert response.url.path in {tool.path for tool in TOOLS.values()}
    assert "The numbers are an example" not in orla.page
    assert 'class="problem"' not in orla.page
    assert 'class="big' in orla.page


class _Shown(HTMLParser):
    """What stands in the fields of a worksheet's form, menus by the line that is chosen in them."""

    def __init__(self) -> None:
        super().__init__()
        self.fields: dict[str, str] = {}
        self._menu = ""
        self._lines = ""

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        given = {name: value or "" for name, value in attrs}
        if tag == "input" and "name" in given and (given.get("type") != "checkbox" or "checked" in given):
            self.fields[given["name"]] = given.get("value", "")
        elif tag == "select":
            self._menu = given["name"]
        elif tag == "textarea":
            self._lines = given["name"]
            self.fields[self._lines] = ""
        elif tag == "option" and (self._menu not in self.fields or "selected" in given):
            self.fields[self._menu] = given.get("value", "")

    def handle_data(self, data: str) -> None:
        if self._lines:
            self.fields[self._lines] += data

    def handle_endtag(self, tag: str) -> None:
        if tag == "textarea":
            self._lines = ""


def shown_and_answered(hand: Hand) -> tuple[dict[str, str], str]:
    """The form's fields as they stand on the page last seen, and its answer."""
    form = hand.page.split('<form class="worksheet"')[1].split("</form>")[0]
    reader = _Shown()
    reader.feed(form)
    return reader.fields, hand.page.split('id="answer"')[1]


def as_answered_again(hand: Hand, tool: Tool) -> None:
    """What a page shows is what it computes with: its own fields sent again bring the same answer."""
    fields, answer = shown_and_answered(hand)
    hand.get(tool.path, params={**fields, "unit": re.search(r'data-own-unit="(..)"', hand.page)[1]})
    again = shown_and_answered(hand)
    assert again[0] == fields
    assert strip_note(again[1]) == strip_note(answer)


def strip_note(answer: str) -> str:
    """Without the note on examples, the numbers of the figures, the form that keeps it, and the form's own ids."""
    plain = re.sub(
        r'<p class="note"><strong>The numbers are an example.*?</p>|<form class="keep-answer.*?</form>',
        "",
        answer,
        flags=re.S,
    )
    return re.sub(r'figure-\d+|name="client_id" value="[^"]*"', "", plain)


@every_worksheet
def test_a_worksheet_shows_the_values_it_computes_with(orla: Hand, tool: Tool) -> None:
    orla.get(tool.path)
    as_answered_again(orla, tool)
    needed = [one for one in tool.fields if one.example and one.kind != "choice" and not one.group]
    orla.get(
        tool.path, params={one.name: one.example for one in needed[:-1]} | {needed[-1].name: needed[-1].example + " "}
    )
    as_answered_again(orla, tool)


@pytest.mark.parametrize("shorthand", SHORTHANDS, ids=lambda shorthand: shorthand.example)
@pytest.mark.parametrize("unit", ["in", "mm"])
def test_a_shorthand_opens_a_page_that_shows_the_values_it_computes_with(
    orla: Hand, shorthand: Shorthand, unit: str
) -> None:
    path = orla.get("/ask", params={"q": shorthand.example, "unit": unit}).url.path
    assert f'<p class="asked num">{escape(shorthand.example)}</p>' in orla.page
    as_answered_again(orla, next(tool for tool in TOOLS.values() if tool.path == path))


@pytest.mark.parametrize(
    "path", ["/bush?job=105", "/press?job=105", "/shrink?job=106", "/bond?job=102", "/speeds?job=104", "/aim?job=103"]
)
def test_a_page_opened_from_a_job_shows_the_values_it_computes_with(orla: Hand, path: str) -> None:
    orla.get(path)
    as_answered_again(orla, next(tool for tool in TOOLS.values() if tool.path == path.split("?")[0]))


def test_the_example_goes_with_the_first_number_of_ones_own(orla: Hand) -> None:
    tool = TOOLS["speeds"]
    answer = orla.get(
        "/speeds", params={**tool.examples, "diameter": "2 in"}, headers={"hx-request": "true", "hx-target": "answer"}
    ).text
    assert "The numbers are an example" not in answer


def test_a_job_lends_the_bush_its_measured_outside_and_the_lathe_its_speeds(orla: Hand) -> None:
    orla.get("/bush?job=105")
    assert re.search(r'name="bush_outside" value="0\.75\d+', orla.page)
    orla.get("/speeds?job=104")
    assert re.search(r'name="speeds" value="\d', orla.page)


def test_a_job_lends_its_numbers_to_a_worksheet(orla: Hand) -> None:
    orla.get("/jobs/106/assemble")
    orla.get("/shrink?job=106")
    assert "Polar-axis pinion, shrunk on" in orla.page
    assert re.search(r'name="interference_max" value="0\.0\d+ mm"', orla.page)
    orla.get("/bush?job=105")
    assert 'name="housing" value="0.7502/0.7503 in"' in orla.page


def test_what_the_shop_learned_of_its_bushes_stands_in_the_worksheet(orla: Hand) -> None:
    orla.get("/bush")
    assert re.search(r'name="close_in_factor" (?:value|placeholder)="1\.\d\d"', orla.page)


def test_a_part_cut_too_far_is_offered_the_bond_with_its_own_gap(orla: Hand) -> None:
    orla.get("/jobs/102/record")
    assert 'href="/jobs/102/decide"' in orla.page
    orla.get("/jobs/102/decide")
    assert 'href="/bond?job=102&amp;feature=A"' in orla.page
    orla.get("/bond?job=102")
    assert 'name="bore" value="32 H7"' in orla.page
    assert 'name="shaft" value="31.976/31.977 mm"' in orla.page
    assert "Still needed: Length of the joint, Shear strength by its sheet." in orla.page
    orla.get("/bond?job=102&bore=32+H7&shaft=31.976/31.977+mm&length=20&shear_strength_mpa=18")
    assert "As a rescue for a fit cut too far" in orla.page


def test_what_is_wrong_names_its_field_as_the_page_does(orla: Hand) -> None:
    orla.get("/press?interface_diameter=1+in&hub_outer=cheese&length=1+in&fit=1+FN1")
    assert "Outside of the hub: “cheese” is not understood as a size." in orla.page
    orla.get("/press?interface_diameter=1+in")
    assert "Still needed: Outside of the hub, Length of the joint." in orla.page


def test_a_danger_is_a_sentence_not_a_number(orla: Hand) -> None:
    orla.get("/press", params={"interface_diameter": "1 in", "hub_outer": "0.9 in", "length": "1 in", "fit": "1 FN2"})
    assert "The hub has no wall" in orla.page
    assert "<svg" not in orla.page.split('id="answer"')[1]


def test_cautions_stand_where_the_hazard_is(orla: Hand) -> None:
    for path, words in (
        ("/press", "stand aside"),
        ("/shrink", "push the air out of a room"),
        ("/bond", "Gloves on"),
        ("/bush", "square support"),
    ):
        orla.get(path)
        assert words in orla.page


def test_nobody_sees_a_worksheet_without_signing_in(hands: Callable[..., Hand]) -> None:
    assert "Sign in" in hands("").get("/bush").text


@pytest.mark.parametrize(
    ("text", "callout", "sizes"),
    [
        (".8752 .8751", False, [".8752", ".8751"]),
        ("24.98 mm; 24.97 mm", False, ["24.98 mm", "24.97 mm"]),
        ("1 3/8 1.3748", False, ["1 3/8", "1.3748"]),
        ("7/8", False, ["7/8"]),
        ("25 H7", True, []),
        ("1 RC4", True, []),
        (".3755/.3760", True, []),
        ("28±0.1", True, []),
        ("0.800 +.004/-.000", True, []),
    ],
)
def test_readings_are_told_from_a_callout(text: str, callout: bool, sizes: list[str]) -> None:
    assert is_callout(text) == callout
    if not callout:
        assert split_sizes(text) == sizes


def test_the_steps_of_grinding_a_centre_are_ticked_off(orla: Hand) -> None:
    page = orla.get("/centre-grinding").text
    assert page.count('data-tick="s') == 5
    assert "Next piece: begin again" in page


def test_a_member_written_as_two_limits_that_are_the_same_is_one_size(orla: Hand) -> None:
    response = orla.get("/together?bore=11.380/11.390&shaft=11.372/11.372&unit=mm")
    assert response.status_code == 200
    assert 'class="problem"' not in orla.page
    assert "0.008" in orla.page


def test_an_example_is_never_mixed_with_a_number_of_ones_own(orla: Hand) -> None:
    """One number typed: what is missing is asked, and no rod or angle of the example answers beside it."""
    for tool in TOOLS.values():
        typed = [one for one in tool.fields if one.is_typed]
        own = {typed[0].name: typed[0].example or "1"}
        asked = tool.asked(own)
        assert [asked[one.name] for one in typed[1:]] == [tool.defaults[one.name] for one in typed[1:]], tool.path
    page = orla.get("/v-groove").text
    assert "The numbers are an example" in page
    assert re.search(r'name="rod" placeholder="[^"]+"', page)
    mixed = orla.get("/v-groove?included_deg=60&top=4&floor=1").text
    assert "The numbers are an example" not in mixed
    assert re.search(r'name="rod" value=""', mixed)


def test_what_is_chosen_keeps_the_example_and_says_so(orla: Hand) -> None:
    assert "The numbers are an example" in orla.get("/shoulder?set_by=slips").text


def test_a_worksheet_of_a_job_never_answers_for_an_example(orla: Hand) -> None:
    """What a job does not know is asked; the example's numbers are not the job's."""
    for tool in TOOLS.values():
        page = orla.get(f"{tool.path}?job=118&feature=E")
        assert page.status_code == 200, tool.path
        assert "The numbers are an example" not in page.text, tool.path
    shoulder = orla.get("/shoulder?job=118&feature=B").text
    for name, size in (("length", "0.2500 in"), ("from_diameter", "0.8750 in"), ("to_diameter", "0.5000 in")):
        assert set(re.findall(rf'name="{name}" value="([^"]*)"', shoulder)) == {size}
    whole = orla.get("/shoulder?job=118&feature=E").text
    assert 'name="length" value="0.7500 in"' in whole
    assert "Still needed: From diameter, Down to" in whole.replace("\n", " ")


@pytest.mark.parametrize(
    ("path", "zero", "said"),
    [
        ("/taper-found?near=25.02 mm&far=25.00 mm&apart=100 mm&by=compound&unit=mm", "wanted", "parallel"),
        ("/chatter?cause=long_bar&rpm=400", "tried", ""),
        ("/corner?fillet_radius=0.4 mm&edge=chamfer&unit=mm", "edge_size", "a sharp edge"),
        (
            "/shoulder?length=20 mm&from_diameter=40 mm&to_diameter=30 mm&tool_radius=0.4 mm&unit=mm",
            "partner_chamfer",
            "hold the faces",
        ),
    ],
)
def test_a_zero_means_what_it_says(orla: Hand, path: str, zero: str, said: str) -> None:
    page = orla.get(f"{path}&{zero}=0").text
    assert 'class="problem"' not in page
    assert said in page
    assert 'class="problem"' in orla.get(f"{path}&{zero}=-1").text


@pytest.mark.parametrize(
    ("letter", "length", "down"),
    [
        ("A", "28.000 mm", ("32.000 mm", "25.000 mm")),
        ("C", "62.000 mm", ("32.000 mm", "30.000 mm")),  # 182 - 120: from the right face over the seat before it
        ("D", "32.000 mm", ("30.000 mm", "25.000 mm")),
    ],
)
def test_a_shoulder_is_counted_from_the_face_it_is_turned_from(
    orla: Hand, letter: str, length: str, down: tuple[str, str]
) -> None:
    lines = (
        "od 25 ±0.01 from 0 to 28\nod 32 ±0.02 from 28 to 120\nod 30 ±0.01 from 120 to 150\nod 25 ±0.01 from 150 to 182"
    )
    number = number_of(start(orla, lines))
    page = orla.get(f"/shoulder?job={number}&feature={letter}").text
    found = [
        set(re.findall(rf'name="{name}" value="([^"]*)"', page)) for name in ("length", "from_diameter", "to_diameter")
    ]
    assert found == [{length}, {down[0]}, {down[1]}]
    largest = orla.get(f"/shoulder?job={number}&feature=B").text
    assert "Still needed: From the face" in re.sub(r"\s+", " ", largest)
