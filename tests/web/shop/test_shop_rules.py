"""The shop's rules in versions, its choices, and a job's own in their place."""

import re
from collections.abc import Callable
from typing import get_args

import pytest

from nomisma.core.fits.functions import functions
from nomisma.core.fits.options import FitSystem
from nomisma.core.fits.shop_rules import shop_rules
from tests.web.conftest import Hand

RULE = {
    "title": "Snug slip", "text": "six to nine tenths near 7/8 in", "growth": "cube_root", "reference": "0.875 in",
    "base_least": "0 in",
    "base_most": "0 in", "least": "0.0006 in", "most": "0.0009 in", "from_size": "0.2 in", "to_size": "6 in",
    "note": "ours",
}  # fmt: skip


def test_every_rule_is_listed_with_what_it_serves_and_its_range(orla: Hand) -> None:
    orla.get("/shop/rules")
    for rule in shop_rules().values():
        assert f'href="/shop/rules/{rule.name}"' in orla.page
    assert "Common practice, no source" in orla.page
    assert "the shop&#39;s, Bram" in orla.page or "the shop's, Bram" in orla.page


def test_every_function_finds_its_rules() -> None:
    assert {name for function in functions().values() for name in function.rules} == set(shop_rules())


def test_a_new_version_counts_from_then_on_and_the_old_one_is_kept(orla: Hand) -> None:
    asked = "/mate?kind=shaft&partner=.8752&function=slides_by_hand"
    orla.get(asked)
    assert "0.0005 to 0.0010 in near 7/8 in" in orla.page
    orla.get("/shop/rules/slip")
    assert orla.send("/shop/rules/slip", **RULE).status_code == 200
    assert "six to nine tenths near 7/8 in" in orla.page
    assert "0.0005 to 0.0010 in near 7/8 in" in orla.page  # as shipped, in the list of versions
    orla.get(asked)
    assert "Six to nine tenths near 7/8 in" in orla.page
    orla.get("/shop/rules/slip")
    orla.send("/shop/rules/slip", **{**RULE, "text": "again as it was", "least": "0.0005 in", "most": "0.0010 in"})
    assert orla.page.count("Orla Quillfeather,") == 2


REFUSED = [
    ({"least": "0.002 in"}, "least clearance is not below its greatest"),
    ({"from_size": "9 in"}, "The range of use ends before it begins."),
    ({"reference": "0 in"}, "a size is above zero"),
    ({"least": "cheese"}, "is not understood as a size"),
    ({"text": ""}, "Nothing was entered."),
    ({"growth": "wild"}, "is not one of the choices"),
]


@pytest.mark.parametrize(("wrong", "sentence"), REFUSED)
def test_a_rule_that_cannot_be_is_refused_and_kept_as_typed(orla: Hand, wrong: dict[str, str], sentence: str) -> None:
    orla.get("/shop/rules/wringing")
    response = orla.send("/shop/rules/wringing", **{**RULE, **wrong})
    assert response.status_code == 422
    assert sentence in response.text
    assert 'value="ours"' in response.text
    orla.get("/shop/rules/wringing")
    assert "six to nine" not in orla.page


def test_a_rule_there_is_not_is_said(orla: Hand) -> None:
    response = orla.get("/shop/rules/guesswork")
    assert response.status_code in (404, 422)
    assert "There is no rule “guesswork”." in response.text


def test_an_apprentice_reads_the_rules_and_does_not_change_them(hands: Callable[..., Hand]) -> None:
    pim = hands("pim")
    pim.get("/shop/rules/slip")
    assert "Keep as the shop" not in pim.page
    pim.get("/")
    assert pim.send("/shop/rules/slip", **RULE).status_code == 403


def _chosen(page: str) -> str:
    found = re.search(r'<article class="option is-chosen">\s*<h2 class="lesser">([^<]+)</h2>', page)
    return found[1] if found else ""


def test_the_shops_fit_system_is_looked_at_first_and_a_job_may_differ(orla: Hand) -> None:
    settings = {
        "fit_system": "iso",
        "aim": "metal_safe",
        "confidence_percent": "95",
        "aim_spread": "",
        "rework_cost": "",
        "scrap_cost": "",
    }
    orla.get("/shop/rules")
    orla.send("/shop/settings", **settings)
    orla.get("/jobs/103/mate?function=slides_by_hand")
    assert _chosen(orla.page) == "ISO H7/g6"
    orla.get("/jobs/103/mate?function=slides_by_hand&fit_system=inch")
    assert _chosen(orla.page) == "Inch class RC2"
    option = {"function": "slides_by_hand", "fit_system": "inch", "option": "RC2", "based_on_version": "0"}
    assert orla.send("/jobs/103/limits", **option).status_code == 200
    orla.get("/jobs/103/mate")
    assert _chosen(orla.page) == "Inch class RC2"  # the job keeps its own
    orla.get("/mate?kind=shaft&partner=.8752&function=slides_by_hand")
    assert _chosen(orla.page) == "ISO H7/g6"  # the shop its own
    orla.get("/shop/rules")
    orla.send("/shop/settings", **{**settings, "fit_system": "make_to_suit", "aim": "middle"})
    offered = re.findall(r'name="fit_system"[^>]*value="([^"]+)"', orla.get("/shop/rules").text)
    assert offered == list(get_args(FitSystem)), "what is offered is taken"
    orla.get("/mate?kind=shaft&partner=.8752&function=slides_by_hand")
    assert _chosen(orla.page) == "Make to suit"


@pytest.mark.parametrize(
    ("wrong", "sentence"),
    [
        ({"aim": "costed"}, "The costed aim needs a spread and both costs."),
        ({"confidence_percent": "100"}, "cannot be promised"),
        ({"confidence_percent": "lots"}, "is not a number"),
        ({"scrap_cost": "-5"}, "cannot be used here"),
        ({"aim_spread": "0.001"}, "has no unit"),
        ({"fit_system": "best"}, "is not one of the choices"),
    ],
)
def test_choices_that_cannot_be_are_refused(orla: Hand, wrong: dict[str, str], sentence: str) -> None:
    settings = {
        "fit_system": "iso",
        "aim": "middle",
        "confidence_percent": "95",
        "aim_spread": "",
        "rework_cost": "",
        "scrap_cost": "",
    }
    orla.get("/shop/rules")
    response = orla.send("/shop/settings", **{**settings, **wrong})
    assert response.status_code == 422
    assert sentence in response.text


def test_mate_offers_all_ten_functions_in_every_fit_system(orla: Hand) -> None:
    for function in functions().values():
        orla.get(f"/mate?kind=bore&partner=25.012+mm&function={function.name}")
        assert function.watch.split(":")[0][:40] in orla.page
        for heading in (
            "Make to suit",
            "Shop rule",
            f"ISO {function.iso_fits[0]}",
            f"Inch class {function.inch_fits[0]}",
        ):
            assert f'<h2 class="lesser">{heading}</h2>' in orla.page, (function.name, heading)


def test_a_window_that_cannot_be_kept_says_what_would_help(orla: Hand) -> None:
    orla.get("/jobs/103/mate?function=slides_by_hand&clearance_min=0.005&clearance_max=0.0105")
    assert "This window cannot be promised" in orla.page
    assert "The same instrument for both: what it is off by cancels" in orla.page
    assert "A window at least" in orla.page
    orla.get("/jobs/103/mate?function=slides_by_hand&clearance_min=0.005&clearance_max=0.0115&same_instrument=yes")
    assert "limits are as that instrument reads" in orla.page


def test_a_warm_partner_is_brought_to_20_degrees(orla: Hand) -> None:
    orla.get("/jobs/103/mate?function=slides_by_hand&temperature_c=35&material=carbon_steel")
    assert "Partner brought to 20 °C" in orla.page
    orla.get("/jobs/103/mate?function=slides_by_hand&temperature_c=35")
    assert "not what the partner is made of" in orla.page
    orla.get("/jobs/103/mate?function=slides_by_hand&temperature_c=warm&material=brass")
    assert "is no temperature" in orla.page


def test_taper_and_ovality_of_the_partner_stand_in_the_working(orla: Hand) -> None:
    orla.get("/jobs/103/mate?function=slides_by_hand")
    assert "Taper, near end to far end" in orla.page
    assert "Ovality, 0° to 90°" in orla.page


def test_the_shops_acceptance_holds_for_its_jobs_until_one_differs(orla: Hand) -> None:
    settings = {
        "fit_system": "make_to_suit",
        "aim": "middle",
        "confidence_percent": "95",
        "aim_spread": "",
        "rework_cost": "",
        "scrap_cost": "",
    }
    orla.get("/")
    orla.send("/jobs", title="No limits yet", asked="", unit="mm", partner_kind="shaft")
    number = re.search(r"/jobs/(\d+)/mate", orla.page)
    assert number
    for acceptance in ("simple", "guarded"):
        orla.get("/shop/rules")
        orla.send("/shop/settings", **settings, acceptance=acceptance)
        orla.get(f"/jobs/{number[1]}/batch")
        assert f'<option value="{acceptance}" selected>' in orla.page
