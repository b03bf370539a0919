"""The size to aim at."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import minimize_scalar
from scipy.stats import norm

from nomisma.core.calculation import BadInput
from nomisma.core.fits.aim import AimCosts
from nomisma.core.fits.costed_aim import AimResult
from nomisma.core.part.feature_kinds import KindName
from nomisma.core.registry import calculation_named

LOW, HIGH = Decimal("24.980"), Decimal("24.993")


def aim(**given: object) -> AimResult:
    result = calculation_named("aim").run({"kind": "shaft", "limits": "24.980/24.993 mm", **given})
    assert isinstance(result, AimResult)
    return result


def costed(**given: object) -> AimResult:
    return aim(**{"spread": "0.003 mm", "rework_cost": 5, "scrap_cost": 60, **given})


@given(st.floats(0.0008, 0.006), st.floats(0.05, 50), st.sampled_from(["shaft", "bore"]))
def test_the_costed_aim_is_where_a_general_minimiser_finds_it(spread: float, ratio: float, kind: KindName) -> None:
    """Source: scipy.optimize on the expected cost written with scipy.stats, apart from the closed form."""

    def cost(aimed: float) -> float:
        above, below = norm.sf(float(HIGH), aimed, spread), norm.cdf(float(LOW), aimed, spread)
        metal, gone = (above, below) if kind == "shaft" else (below, above)
        return float(metal + ratio * gone)

    best = AimCosts(Decimal(repr(spread)), Decimal(1), Decimal(repr(ratio))).best_aim(kind, LOW, HIGH)
    found = minimize_scalar(cost, bounds=(float(LOW), float(HIGH)), method="bounded", options={"xatol": 1e-9})
    assert cost(float(best)) <= float(found.fun) * (1 + 1e-6) + 1e-15


def test_dear_scrap_moves_the_aim_to_the_metal_side() -> None:
    shaft, bore = costed(), costed(kind="bore")
    assert shaft.aims[2].aim.mm > shaft.aims[0].aim.mm
    assert bore.aims[2].aim.mm < bore.aims[0].aim.mm
    assert "on the metal-safe side" in shaft.sentence


def test_dear_rework_moves_it_the_other_way_and_says_so() -> None:
    found = costed(rework_cost=60, scrap_cost=5)
    assert found.aims[2].aim.mm < found.aims[0].aim.mm
    assert "on the other side" in found.sentence


def test_the_price_of_missing_it_is_shown_for_every_method() -> None:
    costs = {one.method: Decimal(one.expected_cost or 0) for one in costed().aims}
    assert set(costs) == {"middle", "metal_safe", "costed"}
    assert costs["costed"] == min(costs.values())
    assert len(costed().curve) == 61


def test_without_costs_the_two_plain_methods_answer() -> None:
    found = aim()
    assert [one.method for one in found.aims] == ["middle", "metal_safe"]
    assert found.curve == []


def test_a_process_too_wide_for_the_limits_is_warned_of() -> None:
    assert "no aim keeps every piece inside" in costed(spread="0.005 mm").caution
    assert costed(spread="0.001 mm").caution == ""


@pytest.mark.parametrize(
    ("given", "sentence"),
    [
        ({"spread": "0.003 mm"}, "The costed aim needs all three"),
        ({"spread": "0.003 mm", "rework_cost": 0, "scrap_cost": 60}, "each above zero"),
        ({"spread": "-3 um", "rework_cost": 1, "scrap_cost": 60}, "each above zero"),
        ({"limits": "25 mm"}, "gives no limits"),
        ({"limits": "25 H7"}, "names no shaft"),
    ],
)
def test_what_cannot_be_costed_gets_a_sentence(given: dict[str, object], sentence: str) -> None:
    with pytest.raises(BadInput, match=sentence):
        aim(**given)
