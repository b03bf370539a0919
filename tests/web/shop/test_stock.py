"""The shelf of stock on its page, and a bar of it taken for a job's plan."""

import re

from tests.web.conftest import Hand
from tests.web.parts import number_of, start

BAR = {
    "unit": "mm",
    "material": "brass",
    "shape": "round",
    "surface": "bright",
    "across": "52",
    "bore": "",
    "length": "400",
    "words": "behind the saw",
}


def entered(hand: Hand, **changed: str) -> str:
    """A bar on the shelf; its id."""
    hand.get("/shop/stock")
    hand.send("/shop/stock", **{**BAR, **changed})
    mine = hand.page.split(changed.get("words", BAR["words"]))[1]
    found = re.search(r'name="bar" value="([0-9a-f-]+)"', mine)
    assert found
    return found[1]


def test_a_bar_lies_on_the_shelf_and_what_is_left_stays_there(orla: Hand) -> None:
    bar = entered(orla)
    orla.send("/shop/stock/saw", bar=bar, piece="98", saw="2", job_number="")
    assert "300 mm" in orla.page.split("52 mm")[1].split("</summary>")[0]


def test_more_than_there_is_comes_back_as_it_was_typed(orla: Hand) -> None:
    bar = entered(orla, words="the long one")
    refused = orla.send("/shop/stock/saw", bar=bar, piece="4000", saw="2", job_number="")
    assert refused.status_code == 422
    assert 'value="4000"' in refused.text
    assert "The bar is 400 mm long" in refused.text


def test_a_bar_that_cannot_be_comes_back_as_it_was_typed(orla: Hand) -> None:
    orla.get("/shop/stock")
    refused = orla.send("/shop/stock", **{**BAR, "across": "wide"})
    assert refused.status_code == 422
    assert re.search(r'<option value="brass"[^>]*selected', refused.text)
    assert 'value="wide"' in refused.text


def test_a_job_is_not_sawn_for_that_is_not_there(orla: Hand) -> None:
    bar = entered(orla, words="for nobody")
    refused = orla.send("/shop/stock/saw", bar=bar, piece="10", saw="", job_number="99999")
    assert refused.status_code == 422
    assert 'value="99999"' in refused.text


def test_a_bar_of_the_shelf_is_the_stock_of_a_plan(orla: Hand) -> None:
    bar = entered(orla, words="for the plan", across="47.5", length="333")
    number = number_of(start(orla, "od 40 ±0.1 x 30 ±0.1"))
    orla.get(f"/jobs/{number}/plan")
    orla.send(
        f"/jobs/{number}/plan/stock",
        bar=bar,
        held="bar",
        shape="square",
        surface="cast",
        across="",
        bore="",
        length="",
        parting="3",
        grip="20",
        stock_material="mild_steel",
    )
    assert 'name="across" value="47.500 mm"' in orla.page
    assert 'name="length" value="333.000 mm"' in orla.page


def test_two_bars_of_one_section_lead_to_a_cut_list_over_them(orla: Hand) -> None:
    for _ in range(2):
        entered(orla, across="61", words="a pair")
    link = re.search(r'href="(/cut-list\?bars=[^"]+)">[^\n]*round [^\n]*61 mm', orla.page)
    assert link
    assert "400.000 mm" in orla.get(link[1].replace("&amp;", "&")).text


def test_tubes_of_two_bores_are_not_sawn_as_one(orla: Hand) -> None:
    tube = {"shape": "tube", "across": "63", "bore": "20"}
    entered(orla, **tube, words="tube of 63")
    entered(orla, **{**tube, "bore": "25"}, words="wider tube of 63")
    assert "63 mm" not in lists_over(orla)
    entered(orla, **tube, length="120", words="short tube of 63")
    assert re.search(r"tube \S+ in63 mm × \S+ in20 mm", lists_over(orla))


def lists_over(hand: Hand) -> str:
    """Over which sections a cut list is offered, in words."""
    lists = re.findall(r"A cut list over the bars of (.*?)</a>", hand.page, re.DOTALL)
    return " · ".join(" ".join(re.sub("<[^>]+>", "", one).split()) for one in lists)
