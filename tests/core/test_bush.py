"""The bush worksheet."""

from decimal import Decimal

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.joints.bush_model import BushResult
from nomisma.core.registry import calculation_named

PLAIN = {
    "housing": {"kind": "bore", "callout": "0.7500/0.7506 in"},
    "shaft": {"kind": "shaft", "callout": "0.4990/0.4995 in"},
    "housing_outer": "2 in", "length": "0.75 in", "unit": "in",
}  # fmt: skip
STIFF = {**PLAIN, "bush_material": "aluminium_bronze", "interference_min": "0.0003 in", "interference_max": "0.0010 in",
         "housing": {"kind": "bore", "readings": ["0.7502 in"], "uncertainty": "0.0001 in"},
         "clearance_min": "0.0005 in", "clearance_max": "0.0025 in"}  # fmt: skip


def bush(**given: object) -> BushResult:
    result = calculation_named("bush").run({**PLAIN, **given})
    assert isinstance(result, BushResult)
    return result


def test_every_answer_of_the_worksheet_is_there() -> None:
    found = bush()
    assert str(found.outside.lower) == "0.7511 in"
    assert found.bore_after.aim is not None
    assert found.press_force_n[0] < found.press_force_n[1]
    assert 0 < found.housing_use_percent < 100
    assert found.clearance_warm.least.mm < found.clearance_cold.least.mm
    assert {step.name for step in found.working} >= {
        "Outside of the bush",
        "Close-in of the bore",
        "Bore before pressing",
    }


def test_a_bush_that_yields_is_finished_after_pressing() -> None:
    found = bush()
    assert found.bush_yields
    assert found.order == "after"
    assert "then bore or ream it" in found.sentence


def test_a_stiff_bush_in_a_measured_housing_may_be_bored_before() -> None:
    found = bush(**STIFF)
    assert not found.bush_yields
    assert found.order == "before"
    assert found.bore_before is not None
    assert found.bore_before.lower.mm > found.bore_after.lower.mm


def test_bored_before_to_its_limits_it_lands_inside_the_limits_after() -> None:
    found = bush(**STIFF)
    assert found.bore_before is not None
    assert found.bore_before.lower.mm - found.close_in.greatest.mm >= found.bore_after.lower.mm
    assert found.bore_before.upper.mm - found.close_in.least.mm <= found.bore_after.upper.mm


@settings(max_examples=40)
@given(st.integers(4, 30), st.integers(1, 8), st.integers(0, 40))
def test_the_running_clearance_wanted_is_the_one_kept_cold(shaft_tenths: int, wall: int, tolerance_um: int) -> None:
    shaft = Decimal(shaft_tenths)
    outside = shaft + 2 * wall
    found = bush(
        housing={"kind": "bore", "readings": [f"{outside} mm"], "uncertainty": "0.002 mm"},
        shaft={"kind": "shaft", "callout": f"{shaft - Decimal(tolerance_um + 1) / 10000:.4f}/{shaft:.4f} mm"},
        housing_outer=f"{outside * 3} mm",
        length="20 mm",
        unit="mm",
        clearance_min="0.020 mm",
        clearance_max="0.060 mm",
        interference_min="0.002 mm",
        interference_max="0.012 mm",
    )
    assert found.clearance_cold.least.mm >= Decimal("0.020")
    assert found.clearance_cold.greatest.mm <= Decimal("0.060")
    assert found.close_in.least.mm <= found.close_in.greatest.mm


def test_a_bush_already_made_says_what_it_will_become_and_how_much_to_ream() -> None:
    found = bush(
        bush_outside={"kind": "shaft", "readings": ["0.7512 in"], "uncertainty": "0.0001 in"},
        bush_bore={"kind": "bore", "readings": ["0.4995 in"], "uncertainty": "0.0001 in"},
    )
    assert found.outside_made
    assert found.bore_after_found is not None
    assert found.bore_after_found.greatest.mm < Decimal("0.4995") * Decimal("25.4")
    assert found.ream is not None
    assert found.ream.least.mm > 0


def test_a_bush_already_made_too_small_is_refused_with_the_way_out() -> None:
    with pytest.raises(BadInput, match="This bush is loose in its housing.*retaining compound"):
        bush(bush_outside={"kind": "shaft", "readings": ["0.7495 in"], "uncertainty": "0.0001 in"})


def test_a_worn_oval_housing_is_bored_true_first() -> None:
    worn = {"kind": "bore", "readings": ["0.7520 in", "0.7529 in"], "uncertainty": "0.0001 in"}
    found = bush(housing=worn, interference_min="0.0002 in", interference_max="0.0016 in")
    assert found.outside.lower.mm > Decimal("0.7529") * Decimal("25.4")
    assert any("bore it true first" in caution for caution in found.cautions)


def test_a_worn_housing_wider_than_the_window_says_what_to_do() -> None:
    worn = {"kind": "bore", "readings": ["0.7520 in", "0.7535 in"], "uncertainty": "0.0001 in"}
    with pytest.raises(BadInput, match="The interference wanted is narrower than what it is to suit"):
        bush(housing=worn)


def test_an_aluminium_housing_lets_go_of_a_bush_when_warm() -> None:
    found = bush(**{**STIFF, "housing_material": "aluminium_6061", "bush_material": "carbon_steel", "working_c": 90})
    assert found.interference_warm.least.mm < found.interference.least.mm
    assert found.loose_at_c is not None
    assert any("can come loose in its housing" in caution for caution in found.cautions)


def test_heat_takes_running_clearance_and_a_warm_shaft_takes_more() -> None:
    assert bush(shaft_warmer_by_k=40).clearance_warm.least.mm < bush().clearance_warm.least.mm
    assert any("it can seize" in caution for caution in bush(shaft_warmer_by_k=150).cautions)


def test_what_this_shop_saw_scales_the_close_in() -> None:
    one, less = bush(**STIFF), bush(**STIFF, close_in_factor="0.8")
    assert float(less.close_in.greatest.mm) == pytest.approx(float(one.close_in.greatest.mm) * 0.8, rel=1e-4)


def test_a_flange_and_a_thin_wall_have_their_own_cautions() -> None:
    assert any("The flange keeps it" in caution for caution in bush(flange=True).cautions)
    assert any("stepped mandrel" in caution for caution in bush().cautions)
    thin = bush(shaft={"kind": "shaft", "callout": "0.6890/0.6895 in"})
    assert any("A thin wall" in caution for caution in thin.cautions)


REFUSED = [
    ({"housing_outer": "0.75 in"}, "The housing has no wall"),
    ({"shaft": {"kind": "shaft", "callout": "0.7600/0.7605 in"}}, "The bush has no wall"),
    (
        {"housing_outer": "0.80 in", "interference_max": "0.004 in", "interference_min": "0.003 in"},
        "The housing would yield",
    ),
    ({"working_c": 600}, "loses its strength or its size"),
    ({"interference_min": "0.001 in"}, "An interference needs both its ends"),
    ({"interference_min": "0.002 in", "interference_max": "0.001 in"}, "is not in order"),
    ({"interference_min": "0.02 in", "interference_max": "0.05 in"}, "far beyond any press fit"),
    ({"clearance_max": "0.001 in"}, "A clearance needs both its ends"),
    ({"clearance_min": "0.001 in", "clearance_max": "0.0012 in"}, "The running clearance wanted is narrower"),
    ({"close_in_factor": 9}, "A close-in factor lies between"),
    ({"friction": 7}, "A coefficient of friction"),
    ({"housing": {"kind": "shaft", "callout": "25 g6"}}, "The housing is entered as a shaft"),
    ({"length": "-1 in"}, "is not a size"),
]


@pytest.mark.parametrize(("given", "sentence"), REFUSED)
def test_an_impossible_bush_gets_a_sentence(given: dict[str, object], sentence: str) -> None:
    with pytest.raises(BadInput, match=sentence):
        bush(**given)


def test_a_housing_too_weak_says_what_it_stands_and_that_is_accepted() -> None:
    thin = {**STIFF, "housing_outer": "0.9 in", "interference_min": "0.002 in", "interference_max": "0.006 in"}
    with pytest.raises(BadInput, match="The greatest interference it stands is") as caught:
        bush(**thin)
    offer = caught.value.errors[0].offer
    assert set(offer) == {"interference_min", "interference_max"}
    assert bush(**{**thin, **offer}).housing_use_percent <= 100
