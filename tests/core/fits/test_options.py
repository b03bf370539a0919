"""Every fit system side by side for one partner."""

from decimal import Decimal

import pytest

from nomisma.core.calculation import BadInput
from nomisma.core.fits.options import FitOption, OptionsResult
from nomisma.core.registry import calculation_named


def options(**fields: object) -> OptionsResult:
    given_fields = {
        "partner": {"kind": "bore", "readings": ["25.004 mm", "25.006 mm"], "uncertainty": "0.0024 mm"},
        "function": "slides_by_hand",
        "unit": "mm",
    }
    result = calculation_named("fit_options").run({**given_fields, **fields})
    assert isinstance(result, OptionsResult)
    return result


def named(result: OptionsResult, name: str) -> FitOption:
    return next(option for option in result.options if option.name == name)


def test_every_fit_system_answers_side_by_side() -> None:
    names = [option.name for option in options().options]
    assert names[:2] == ["Make to suit", "Shop rule"]
    assert names[12:14] == ["RC2", "LC5"]
    assert names[2:12] == ["H11/c11", "H9/d9", "H8/f7", "H7/g6", "H7/h6", "H7/k6", "H7/n6", "H7/p6", "H7/s6", "H7/u6"]


def test_the_partner_inside_its_code_gets_no_caution() -> None:
    assert named(options(), "H7/g6").caution == ""


def test_a_worn_partner_is_not_hidden_by_its_nominal() -> None:
    worn = {"kind": "bore", "readings": ["25.061 mm", "25.058 mm"], "uncertainty": "0.002 mm"}
    caution = named(options(partner=worn), "H7/g6").caution
    assert caution == "This bore is 40.0 µm over H7, so the code's clearances do not hold for it."


def test_a_fit_that_would_bind_on_this_partner_says_so() -> None:
    tight = {"kind": "bore", "readings": ["24.990 mm"], "uncertainty": "0.001 mm"}
    assert "At the worst it binds on this partner by 4.0 µm." in named(options(partner=tight), "H7/g6").caution


def test_above_3150_mm_only_the_standards_are_silent() -> None:
    large = options(partner={"kind": "bore", "readings": ["3200 mm"], "uncertainty": "0.005 mm"})
    assert {option.fit_system for option in large.options if option.possible} == {"make_to_suit", "shop_rule"}
    assert "3200 mm is outside the ISO 286 ranges." in named(large, "H7/u6").sentence


def test_limits_too_narrow_to_be_measured_are_warned_of() -> None:
    doubtful = {"kind": "bore", "readings": ["18.011 mm", "18.013 mm"], "uncertainty": "0.0038 mm"}
    suited = named(options(partner=doubtful), "Make to suit")
    assert suited.possible
    assert "is left to work to, less than a reading like the partner's can tell (± 3.8 µm)." in suited.caution
    assert named(options(), "Make to suit").caution == ""


def test_iso_limits_do_not_move_with_the_partner() -> None:
    option = named(options(), "H7/g6")
    assert (str(option.lower), str(option.upper)) == ("24.98 mm", "24.993 mm")
    assert (str(option.standard_clearance_min), str(option.standard_clearance_max)) == ("0.007 mm", "0.041 mm")


def test_a_window_of_ones_own_replaces_the_rule_for_make_to_suit_only() -> None:
    own = options(clearance_min="0.030 mm", clearance_max="0.060 mm")
    assert named(own, "Shop rule").lower == named(options(), "Shop rule").lower
    suited = named(own, "Make to suit")
    assert suited.clearance_min is not None
    assert suited.clearance_min.mm >= Decimal("0.030")


@pytest.mark.parametrize(
    ("fields", "sentence"),
    [
        ({"clearance_min": "0.01 mm"}, "A window needs both its ends."),
        (
            {"clearance_min": "-0.02 mm", "clearance_max": "-0.01 mm"},
            "That window is interference, and “slides by hand, no shake” needs",
        ),
        ({"nominal": "25 in"}, "A nominal of 25 in does not go with a partner of 25.005 mm."),
        ({"function": "floats"}, "“floats” is not one of the choices."),
    ],
)
def test_a_question_that_contradicts_itself_gets_its_sentence(fields: dict[str, object], sentence: str) -> None:
    with pytest.raises(BadInput, match=sentence.replace(".", r"\.")):
        options(**fields)


def test_what_only_has_to_clear_is_laid_on_the_worst_place() -> None:
    """An oval shaft 24.990 by 25.010: a clearance over its mean still touches."""
    found = calculation_named("fit_options").run(
        {
            "function": "just_clears",
            "partner": {"kind": "shaft", "readings": ["24.990 mm", "25.010 mm"], "uncertainty": "0.001 mm"},
            "unit": "mm",
        }
    )
    assert isinstance(found, OptionsResult)
    rule, suited = (
        [option for option in found.options if option.fit_system == fit_system]
        for fit_system in ("shop_rule", "make_to_suit")
    )
    assert rule
    for option in (*rule, *suited):
        assert option.lower is not None
        assert option.lower.mm > Decimal("25.010")
