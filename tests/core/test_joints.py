"""Interference joints, shrinking, bonding and expansion, through the calculations' own door."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.joints.compound import CompoundResult
from nomisma.core.joints.expansion import ExpansionResult
from nomisma.core.joints.interference import InterferenceResult
from nomisma.core.joints.shrink import ShrinkMethod, ShrinkResult
from nomisma.core.registry import calculation_named

PRESS = {
    "interface_diameter": "1 in", "hub_outer": "2 in", "length": "1.5 in", "interference_min": "0.0005 in",
    "interference_max": "0.0012 in",
}  # fmt: skip


def press(**given: object) -> InterferenceResult:
    values = {key: value for key, value in {**PRESS, **given}.items() if value is not None}
    result = calculation_named("interference").run(values)
    assert isinstance(result, InterferenceResult)
    return result


def test_least_mean_and_greatest_are_all_answered() -> None:
    found = press()
    assert [case.name for case in found.cases] == ["least", "mean", "greatest"]
    torques = [case.torque_nm or 0 for case in found.cases]
    assert torques == sorted(torques)
    assert torques[2] / torques[0] == pytest.approx(2.4)


def test_beyond_yield_there_is_a_sentence_and_no_number() -> None:
    greatest = press(interference_max="0.0019 in").cases[-1]
    assert not greatest.elastic
    assert greatest.sentence == "The hub yields (Medium carbon steel (1045), 310 MPa): the elastic sum no longer holds."
    assert greatest.pressure_mpa is greatest.torque_nm is greatest.press_in_n is None


def test_at_the_greatest_elastic_interference_the_part_is_just_used_up() -> None:
    most = press().greatest_elastic
    case = press(interference_max=f"{float(most.mm) - 1e-6:.6f} mm").cases[-1]
    assert max(case.hub_use_percent or 0, case.shaft_use_percent or 0) == pytest.approx(100, abs=0.1)


def test_a_fit_callout_gives_its_own_interference() -> None:
    found = press(fit="1 FN2", interference_min=None, interference_max=None)
    assert [str(case.interference) for case in found.cases] == ["0.0006 in", "0.00125 in", "0.0019 in"]
    metric = press(fit="25.4 H7/p6", interference_min=None, interference_max=None)
    assert float(metric.cases[0].interference.mm) == pytest.approx(0.001)


def test_roughness_eats_interference() -> None:
    """0.8·(Rz₁ + Rz₂). Source: DIN 7190-1:2017."""
    found = press(roughness_hub="4 um", roughness_shaft="6 um")
    assert str(found.lost_to_roughness) == "0.000314961 in"
    assert float(found.lost_to_roughness.mm) == pytest.approx(0.008)
    assert (found.cases[0].torque_nm or 0) < (press().cases[0].torque_nm or 0)


def test_heat_loosens_an_aluminium_hub_on_steel_and_speed_any_hub() -> None:
    warm = press(hub_material="aluminium_6061", interference_max="0.0015 in", temperature_c=80)
    assert warm.change_with_temperature.mm < 0
    assert (warm.cases[0].working_pressure_mpa or 0) < (warm.cases[0].pressure_mpa or 0)
    assert press(speed_rpm=10_000).lost_to_speed.mm > 0


def test_rotation_adds_to_what_the_hub_carries_in_work() -> None:
    still, spinning = press(), press(speed_rpm=20_000)
    assert still.cases[2].hub_working_use_percent == pytest.approx(still.cases[2].hub_use_percent)
    assert spinning.lost_to_speed.mm > still.lost_to_speed.mm
    fast = press(speed_rpm=55_000, interference_max="0.0015 in", shaft_material="carbon_steel")
    assert any("In work, heat and speed bring the hub to" in caution for caution in fast.cautions)


def test_where_nothing_is_left_it_says_so() -> None:
    found = press(hub_material="aluminium_6061", interference_min="0.0002 in", temperature_c=100)
    assert found.cases[0].axial_n == 0
    assert "holds nothing in work" in found.sentence
    assert any("nothing is left to hold" in caution for caution in found.cautions)


def test_the_force_rises_evenly_to_its_end() -> None:
    stroke = press().stroke
    assert stroke[0].force_n == 0
    assert stroke[-1].force_n == pytest.approx(press().cases[-1].press_in_n or 0)
    assert stroke[5].force_n == pytest.approx(stroke[-1].force_n / 2)


def test_cast_iron_is_judged_by_its_tension_and_warned_of() -> None:
    found = press(hub_material="grey_iron")
    assert found.criterion == "maximum normal stress (brittle)"
    assert any("it cracks" in caution for caution in found.cautions)


REFUSED = [
    ({"hub_outer": "1 in"}, "The hub has no wall"),
    ({"hub_outer": "0.8 in"}, "The hub has no wall"),
    ({"shaft_inner": "1 in"}, "The shaft has no wall"),
    ({"interference_max": "-0.001 in", "interference_min": "-0.002 in"}, "There is no interference"),
    ({"interference_max": "0.1 in"}, "far beyond any press fit"),
    ({"interference_min": "0.0015 in"}, "The least interference is above the greatest"),
    ({"interference_min": None}, "The interference is not known"),
    ({"fit": "1 RC4"}, "is no interference fit"),
    ({"fit": "2 FN2"}, "The fit is for 2 in, and the joint is 1 in"),
    ({"fit": "1 FN9"}, "FN9 is not a class"),
    ({"temperature_c": 900}, "loses its strength or its size"),
    ({"temperature_c": -300}, "the table's coefficients no longer hold"),
    ({"speed_rpm": 400_000}, "a rim that bursts kills"),
    ({"speed_rpm": "nan"}, "is not a number"),
    ({"friction": 0}, "A coefficient of friction"),
    ({"roughness_hub": "-1 um"}, "A roughness is never below zero"),
    ({"hub_material": "cheese"}, "is not in the table of materials"),
    ({"length": "1e9 in"}, "exponent"),
]


@pytest.mark.parametrize(("given", "sentence"), REFUSED)
def test_what_is_impossible_or_dangerous_gets_a_sentence(given: dict[str, object], sentence: str) -> None:
    with pytest.raises(BadInput, match=sentence.replace("(", r"\(")):
        press(**given)


SHRINK = {"interface_diameter": "40 mm", "hub_outer": "80 mm", "length": "50 mm", "interference_max": "0.060 mm"}


def shrink(**given: object) -> dict[str, ShrinkMethod]:
    return {method.method: method for method in shrinking(**given).methods}


def shrinking(**given: object) -> ShrinkResult:
    result = calculation_named("shrink").run({**SHRINK, **given})
    assert isinstance(result, ShrinkResult)
    return result


def test_heating_alone_is_opening_over_expansion() -> None:
    """ΔT = (0.060 + 0.040)/(11.5e-6·40) = 217 K. Source: TRADE's formula, by hand."""
    assert shrink()["heat_hub"].hub_c == pytest.approx(20 + 0.100 / (11.5e-6 * 40))


def test_cold_and_heat_together_need_less_of_each() -> None:
    found = shrink()
    assert not found["dry_ice"].possible
    assert (
        (found["heat_and_nitrogen"].hub_c or 0)
        < (found["heat_and_dry_ice"].hub_c or 0)
        < (found["heat_hub"].hub_c or 0)
    )
    assert all(method.clearance_at_start is None or method.clearance_at_start.mm > 0 for method in found.values())
    assert float((found["heat_hub"].clearance_at_start or shrinking().allowance).mm) == pytest.approx(0.040, abs=1e-6)


def test_a_bearing_is_not_heated_past_its_limit() -> None:
    found = shrinking(hub_limit_c=120)
    assert not found.methods[0].possible
    assert "stands about 120 °C here" in found.methods[0].sentence
    assert found.recommended == "heat_and_nitrogen"


def test_where_nothing_works_it_says_what_would() -> None:
    found = shrinking(interference_max="0.4 mm")
    assert found.recommended == ""
    assert "take less interference" in found.sentence


def test_more_allowance_gives_more_time_to_work() -> None:
    short, long_ = (shrink(allowance=a)["heat_hub"].seconds or 0 for a in ("0.01 mm", "0.05 mm"))
    assert 0 < short < long_


def test_the_hazards_stand_beside_the_numbers() -> None:
    text = " ".join(shrinking(hub_material="hardened_steel", interference_max="0.02 mm").cautions)
    for word in ("gloves", "push the air out of a room", "no quenching", "Heat draws the temper"):
        assert word in text


@pytest.mark.parametrize(
    ("given", "sentence"),
    [
        ({"interference_max": "1 mm"}, "more than any heat or cold opens"),
        ({"room_c": 200}, "The room lies between"),
        ({"hub_outer": "39 mm"}, "The hub has no wall"),
        ({"allowance": "-1 um"}, "is below zero"),
    ],
)
def test_shrinking_what_cannot_be_shrunk(given: dict[str, object], sentence: str) -> None:
    with pytest.raises(BadInput, match=sentence):
        shrinking(**given)


BOND = {"bore": "12.05/12.07 mm", "shaft": "11.99/12.00 mm", "length": "20 mm", "shear_strength_mpa": 20}


def bond(**given: object) -> CompoundResult:
    result = calculation_named("retaining_compound").run({**BOND, **given})
    assert isinstance(result, CompoundResult)
    return result


def test_a_bond_holds_strength_times_area() -> None:
    found = bond()
    assert found.force_n == pytest.approx(20 * 3.14159265 * 11.995 * 20)
    assert found.allowed_torque_nm == pytest.approx(found.force_n / 2 * 11.995 / 2000)
    assert bond(safety_factor=4, strength_left_percent=50).allowed_force_n == pytest.approx(found.force_n / 8)


@pytest.mark.parametrize(
    ("shaft", "suits"), [("11.99/12.00", "yes"), ("12.03/12.04", "sometimes"), ("11.7/11.8", "no")]
)
def test_the_gap_is_held_against_the_sheet(shaft: str, suits: str) -> None:
    assert bond(shaft=f"{shaft} mm").suits == suits


def test_a_fit_cut_too_far_can_be_rescued_until_the_gap_is_too_wide() -> None:
    assert "As a rescue for a fit cut too far" in bond().rescue
    assert bond(shaft="11.7/11.8 mm").rescue.startswith("Cut too far for this compound: sleeve it")


def test_the_shaft_limits_that_suit_the_sheet_do() -> None:
    found = bond()
    assert found.shaft_lower is not None
    assert found.shaft_upper is not None
    assert bond(shaft=f"{found.shaft_lower.mm}/{found.shaft_upper.mm} mm").suits == "yes"


@pytest.mark.parametrize(
    ("given", "sentence"),
    [
        ({"shaft": "12.1/12.2 mm"}, "There is no gap"),
        ({"shear_strength_mpa": 0}, "shear strength lies above 0"),
        ({"safety_factor": "0.5"}, "A safety factor lies between"),
        ({"gap_min": "0.2 mm"}, "least gap is not below"),
        ({"release_c": 2000}, "Compounds let go"),
    ],
)
def test_a_bond_that_cannot_be_gets_a_sentence(given: dict[str, object], sentence: str) -> None:
    with pytest.raises(BadInput, match=sentence):
        bond(**given)


def warm(**given: object) -> ExpansionResult:
    values = {"diameter": "25 mm", "clearance_min": "7 um", "clearance_max": "41 um", **given}
    result = calculation_named("expansion").run(values)
    assert isinstance(result, ExpansionResult)
    return result


def test_an_aluminium_housing_opens_when_warm_and_closes_when_cold() -> None:
    """25·(23.6 − 11.5)e-6·40 = 0.0121 mm. Source: linear expansion, by hand."""
    found = warm()
    assert float(found.hot_min.mm) == pytest.approx(0.007 + 25 * 12.1e-6 * 40)
    assert found.cold_min.mm < 0
    assert found.binds_at_c == pytest.approx(20 - 0.007 / (25 * 12.1e-6))
    assert "It can bind at −3 °C" in found.sentence


def test_a_press_in_aluminium_comes_loose_when_warm() -> None:
    found = warm(clearance_min="-20 um", clearance_max="-5 um")
    assert found.kind_hot == "transition"
    assert "It can come loose at 37 °C" in found.sentence


@given(st.floats(-50, 100))
def test_one_material_at_one_temperature_keeps_its_clearance(to_c: float) -> None:
    found = warm(outer_material="carbon_steel", inner_material="carbon_steel", from_c=-55, to_c=round(to_c, 2))
    assert found.change.mm == 0
    assert "It stays free" in found.sentence


def test_a_warmer_shaft_uses_up_its_clearance() -> None:
    assert warm(inner_warmer_by_k=30).hot_min.mm < warm().hot_min.mm


@pytest.mark.parametrize(
    ("given", "sentence"),
    [
        ({"from_c": 80, "to_c": 20}, "Give the colder end first"),
        ({"to_c": 240}, "beyond its limit"),
        ({"clearance_min": "50 um"}, "least clearance is above"),
        ({"clearance_max": "9 mm"}, "over a tenth of the diameter"),
        ({"inner_warmer_by_k": 900}, "cannot be that far apart"),
    ],
)
def test_a_range_the_sum_does_not_hold_over_is_refused(given: dict[str, object], sentence: str) -> None:
    with pytest.raises(BadInput, match=sentence):
        warm(**given)


def test_a_shaft_that_grows_more_than_its_hub_is_judged_in_work_too() -> None:
    """A bronze shaft in a steel hub at 90 °C: the shaft is the one that is used up."""
    found = press(shaft_material="aluminium_bronze", temperature_c=90)
    warm, cold = found.cases[-1], press(shaft_material="aluminium_bronze").cases[-1]
    assert warm.shaft_working_use_percent is not None
    assert cold.shaft_working_use_percent is not None
    assert warm.shaft_working_use_percent > cold.shaft_working_use_percent


def test_of_a_transition_fit_the_mean_lies_between_a_gap_and_an_interference() -> None:
    """25 H7/k6: +21/0 on +15/+2, so −19 to 15 µm, in the middle −2. Source: ISO 286-2."""
    found = press(
        interface_diameter="25 mm",
        hub_outer="50 mm",
        length="40 mm",
        fit="25 H7/k6",
        interference_min=None,
        interference_max=None,
    )
    assert [float(case.interference.mm) for case in found.cases] == pytest.approx([-0.019, -0.002, 0.015])


def test_the_inner_part_is_held_to_its_limit_with_what_it_runs_warmer() -> None:
    """Acetal stands 90 °C: surroundings at 85 are allowed, and a shaft 10 K warmer than they are is not."""
    calculation = calculation_named("expansion")
    warm = {**calculation.example, "inner_material": "acetal", "to_c": 85}
    calculation.run(warm)
    with pytest.raises(BadInput, match="inner part"):
        calculation.run({**warm, "inner_warmer_by_k": 10})
