"""Hold, set-up by set-up: the way it is held, its swing, what is ticked before the first start; in the record
afterwards.
"""

import re
from urllib.parse import parse_qsl

from nomisma.core.planning.holding import holdings
from nomisma.web.job.chucking import THIN_RING, WORKSHEETS
from nomisma.web.worksheets.catalog import TOOLS
from tests.web.conftest import Hand
from tests.web.parts import number_of, start

COVER = "od 68 ±0.1 x 5 ±0.1\nod 51 ±0.1 x 6 ±0.1\nbore 17 H7 thru\nlength 11 ±0.1\nrunout 0.05 true to E"


def held(hand: Hand, lines: str = COVER) -> str:
    """A job's first set-up, opened by its stage Hold."""
    number = number_of(start(hand, lines))
    hand.get(f"/jobs/{number}/plan")
    hand.send(
        f"/jobs/{number}/plan/stock",
        held="bar",
        shape="round",
        surface="bright",
        across="70 mm",
        stock_material="aluminium_6061",
        length="64 mm",
        parting="3 mm",
        grip="18 mm",
    )
    hand.get(f"/jobs/{number}/hold")
    base = re.search(rf'action="(/jobs/{number}/hold/chucking/\w+)/', hand.page)
    assert base
    return base[1]


def ticks(page: str) -> dict[str, str]:
    return dict.fromkeys(re.findall(r'name="(step_\d+)"', page), "yes")


def indicator(page: str, name: str) -> str:
    found = re.search(rf'<option value="([0-9a-f-]+)"[^>]*>{re.escape(name)}', page)
    assert found
    return found[1]


def now_words(page: str) -> str:
    return re.sub(r"<[^>]+>", "", page.split('class="now-words', 1)[1].split(">", 1)[1].split("</p>")[0]).strip()


def test_hold_opens_at_the_set_up_that_is_next_and_says_how_true_it_must_run(orla: Hand) -> None:
    base = held(orla)
    assert re.fullmatch(r"/jobs/\d+/hold/chucking/(right|left)", base)
    assert now_words(orla.page) == "Needle on it"
    assert "It may swing" in orla.page
    assert "no longer cleans up" in orla.page


def test_a_swing_and_every_tick_make_it_ready_and_the_next_set_up_is_opened(orla: Hand) -> None:
    base = held(orla)
    plunger = indicator(orla.page, "Plunger indicator, 0.01 mm")
    orla.send(f"{base}/runout", runout="0.05", instrument_id=plunger)
    assert now_words(orla.page) == "Before the first start"
    refused = orla.send(f"{base}/ready", step_0="yes")
    assert refused.status_code == 422
    assert re.search(r'name="step_0" value="yes"\s+checked', refused.text)
    orla.send(f"{base}/ready", **ticks(refused.text))
    assert now_words(orla.page) == "Ready to cut"
    after = str(orla.get(base.split("/chucking")[0]).url.path)
    assert after != base
    record = orla.get(f"/jobs/{base.split('/')[2]}/record.json").json()["plan"]
    first = next(one for one in record["set_ups"] if one["runouts"])
    assert first["runouts"][0]["readings"] == ["0.05 mm"]
    assert first["ready"][0]["by"].startswith("Orla")
    assert "Ready to cut" in orla.get(f"/jobs/{base.split('/')[2]}/record").text


def test_a_round_beside_the_jaws_says_which_is_packed(orla: Hand) -> None:
    base = held(orla)
    orla.get(base)
    orla.send(f"{base}/runout", runout="2.4 0 0", instrument_id=indicator(orla.page, "Plunger indicator, 0.01 mm"))
    assert now_words(orla.page).startswith("Pack jaw 1 with 2.4")
    assert "Three jaws, the work" in orla.page
    assert "chip under a jaw" in orla.page


def test_a_swing_that_is_none_comes_back_as_it_was_typed(orla: Hand) -> None:
    base = held(orla)
    refused = orla.send(f"{base}/runout", runout="0,1 0,2")
    assert refused.status_code == 422
    assert 'value="0,1 0,2"' in refused.text
    assert "2 readings are no swing." in refused.text


def test_held_otherwise_with_its_reason_everything_says_so(orla: Hand) -> None:
    base = held(orla)
    number = base.split("/")[2]
    refused = orla.send(f"{base}/way", way="faceplate")
    assert refused.status_code == 422
    assert "Say why it is held so." in refused.text
    orla.send(f"{base}/way", way="faceplate", reason="clamped on its flange")
    assert "bolts through, clamps level" in orla.page.lower()
    assert "Clamped on its flange" in orla.page
    assert "faceplate, clamped" in orla.get(f"/jobs/{number}/make").text
    assert orla.get(f"/jobs/{number}/record.json").json()["plan"]["set_ups"][0]["way"] == "faceplate, clamped"


def test_in_a_four_jaw_it_is_trued_round_by_round_for_that_set_up(orla: Hand) -> None:
    base = held(orla)
    number = base.split("/")[2]
    orla.send(f"{base}/way", way="four_jaw")
    link = re.search(r'href="(/jobs/\d+/hold\?by=needle[^"]+)"', orla.page.split("btn-brass btn-big")[1])
    assert link
    page = orla.get(link[1].replace("&amp;", "&")).text
    assert re.search(rf'value="{base.split("/")[-1]}"\s+selected', page)
    lever = indicator(page, "Plunger indicator, 0.01 mm")
    chuck = indicator(page, "Eight-inch four-jaw")
    orla.send(
        f"/jobs/{number}/hold/set-up",
        surface="outside",
        grip="outside",
        places="4",
        keys="one",
        unit="mm",
        use="second_operation",
        chuck_id=chuck,
        instrument_id=lever,
        planned_set_up=base.split("/")[-1],
    )
    orla.send(f"/jobs/{number}/hold/readings", size="0 0 0 0", tightened="tight", round="1", circle="near")
    orla.send(
        f"/jobs/{number}/hold/ready", **dict.fromkeys(("key_out", "clear", "tight", "by_hand", "first_start"), "yes")
    )
    assert now_words(orla.get(base).text) == "Ready to cut"


def test_a_set_up_that_was_looked_at_on_hold_is_no_more_the_step_in_hand(orla: Hand) -> None:
    base = held(orla)
    number = base.split("/")[2]
    assert now_words(orla.get(f"/jobs/{number}/make").text) == "Needle on it"
    orla.get(base)
    orla.send(f"{base}/ready", **ticks(orla.page))
    assert now_words(orla.get(f"/jobs/{number}/make").text) == "Face"


def test_every_way_of_holding_has_its_page(orla: Hand) -> None:
    base = held(orla)
    for way in re.findall(r'name="way" value="(\w+)"', orla.page):
        orla.get(base)
        orla.send(f"{base}/way", way=way, reason="tried")
        assert orla.get(base).status_code == 200
        for link in re.findall(r'href="(/[a-z-]+\?[^"]+)"', orla.page.split('aria-label="How it is held"')[1]):
            assert orla.get(link.replace("&amp;", "&")).status_code == 200, link


def test_a_set_up_the_plan_has_not_is_a_page_that_says_so(orla: Hand) -> None:
    base = held(orla)
    assert orla.get(base.rsplit("/", 1)[0] + "/centres").status_code == 404
    assert "no such set-up any more" in orla.page


def link_to(page: str, path: str) -> dict[str, str]:
    found = re.search(rf'href="{path}\?([^"]+)"', page)
    assert found
    return dict(parse_qsl(found[1].replace("&amp;", "&")))


def test_a_mandrel_is_asked_for_with_the_bore_that_it_goes_into(orla: Hand) -> None:
    number = number_of(start(orla, "od 60 ±0.1 x 12 ±0.1\nbore 20 H7 thru"))
    orla.get(f"/jobs/{number}/plan")
    orla.send(
        f"/jobs/{number}/plan/stock", held="blank", shape="round", surface="bright", stock_material="carbon_steel"
    )
    page = orla.get(f"/jobs/{number}/hold/chucking/mandrel").text
    asked = link_to(page, "/mandrel")
    assert (asked["bore_lower"], asked["bore_upper"], asked["bore_length"]) == ("20.000 mm", "20.021 mm", "12.000 mm")


def test_a_thin_ring_is_asked_for_with_its_own_sizes(orla: Hand) -> None:
    number = number_of(start(orla, "od 100 ±0.1 x 30 ±0.1\nod 90 ±0.1 x 10 ±0.1\nbore 88 ±0.1 thru"))
    pages = [orla.get(f"/jobs/{number}/hold/chucking/{worked}").text for worked in ("right", "left")]
    (asked,) = [link_to(page, "/jaw-squeeze") for page in pages if "/jaw-squeeze?" in page]
    assert asked["bore"] == "88.000 mm"


def test_every_way_of_holding_says_which_worksheets_it_asks_for() -> None:
    assert set(WORKSHEETS) == set(holdings())
    paths = {tool.path: {one.name for one in tool.fields} for tool in TOOLS.values()}
    for one in (THIN_RING, *(each for asked in WORKSHEETS.values() for each in asked)):
        assert set(one.fields) <= paths[one.path], one.words


def test_set_over_it_must_swing_twice_its_throw_before_it_is_started(orla: Hand) -> None:
    lines = "od 40 ±0.1 x 30 ±0.1\neccentric od 20 ±0.05 x 15 high, throw 2 ±0.05"
    number = number_of(start(orla, lines))
    base = f"/jobs/{number}/hold/chucking/right"
    page = orla.get(base).text
    assert "four-jaw chuck, set over" in page
    must = page.split("It must swing")[1].split("</p>")[0]
    assert "3.900 mm" in must
    assert "4.100 mm" in must
    (link,) = re.findall(r'href="(/throw\?[^"]+)"', page)
    assert dict(parse_qsl(link.partition("?")[2].replace("&amp;", "&"))) == {
        "throw": "2.000 mm",
        "diameter": "40.000 mm",
        "unit": "mm",
    }
    assert orla.get(link.replace("&amp;", "&")).status_code == 200
    orla.get(base)
    little = orla.send(f"{base}/runout", runout="3.6").text
    assert now_words(little) == "It swings 3.600 mm: the work goes further out by 0.200 mm, 3.900/4.100 mm is wanted"
    right = orla.send(f"{base}/runout", runout="4.02").text
    assert "It swings 4.020 mm: good" in right
    assert now_words(orla.send(f"{base}/ready", **ticks(right)).text) == "Ready to cut"
