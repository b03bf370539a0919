"""Make to suit, the shop rules, the aim, and every school side by side."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.fits.aim import aim_size, round_inward
from nomisma.core.fits.functions import functions
from nomisma.core.fits.options import FitOption, OptionsResult
from nomisma.core.fits.partner import Partner, likely_nominal
from nomisma.core.fits.shop_rules import shop_rules
from nomisma.core.fits.suit import SuitResult, Window, suit_for
from nomisma.core.quantity.length import Length
from nomisma.core.registry import calculation_named

mm = st.decimals("10", "200", places=3)
small = st.decimals("0", "0.02", places=4)


@given(
    mm, small, small, st.decimals("-0.1", "0.1", places=3), st.sampled_from(["shaft", "bore"]), st.sampled_from(["in", "mm"])
)
def test_every_part_inside_the_limits_keeps_the_window(
    size: Decimal, form: Decimal, doubt: Decimal, least: Decimal, kind: str, unit: str
) -> None:
    partner = Partner(kind, size, size + form, doubt, "mm", "measured")
    window = Window(least, least + Decimal("0.05"))
    result = suit_for(partner, window, "middle", unit)
    if not result.possible:
        assert form + 2 * doubt >= Decimal("0.05")
        return
    assert result.clearance_min is not None
    assert result.clearance_max is not None
    assert window.least_mm <= result.clearance_min.mm <= result.clearance_max.mm <= window.greatest_mm


@given(mm, small)
def test_more_doubt_leaves_less_to_work_to(size: Decimal, doubt: Decimal) -> None:
    def tolerance(worth: Decimal) -> Decimal:
        result = suit_for(
            Partner("bore", size, size, worth, "mm", "measured"), Window(Decimal(0), Decimal("0.2")), "middle", "mm"
        )
        assert result.lower is not None
        assert result.upper is not None
        return result.upper.mm - result.lower.mm

    assert tolerance(doubt) <= tolerance(Decimal(0))


def suit(**fields: object) -> SuitResult:
    given_fields = {
        "partner": {"kind": "shaft", "readings": ["0.8752 in", "0.8750 in"], "uncertainty": "0.00012 in"},
        "clearance_min": "0.0005 in",
        "clearance_max": "0.0010 in",
        "unit": "in",
    }
    result = calculation_named("make_to_suit").run({**given_fields, **fields})
    assert isinstance(result, SuitResult)
    return result


def test_a_window_that_cannot_be_kept_says_what_eats_it_and_what_helps() -> None:
    result = suit(clearance_max="0.0008 in")
    assert not result.possible
    assert result.sentence == (
        "This window cannot be promised: it is 0.30 thou wide, the partner's own form takes 0.20 thou and the doubt in its "
        "readings 0.24 thou. A finer instrument on the partner, or a wider window, would make room."
    )


def test_where_form_eats_the_window_the_form_is_named() -> None:
    partner = {"kind": "shaft", "readings": ["0.8752 in", "0.8745 in"], "uncertainty": "0.00005 in"}
    assert suit(partner=partner).sentence.endswith("Ask for a wider window, or correct the form of the partner first.")


def test_where_a_called_out_tolerance_eats_the_window_measuring_is_advised() -> None:
    sentence = suit(partner={"kind": "shaft", "callout": "0.8740/0.8760 in"}).sentence
    assert "the partner's tolerance takes 2.00 thou" in sentence
    assert sentence.endswith("Ask for a wider window, or measure the partner first.")


def test_a_window_the_wrong_way_round_is_asked_about() -> None:
    with pytest.raises(BadInput, match="Exchange them; an interference is a clearance below zero"):
        suit(clearance_min="0.002 in")


def test_readings_in_mixed_units_are_fine_when_each_says_its_own() -> None:
    partner = {"kind": "shaft", "readings": ["0.8752 in", "22.229 mm"], "uncertainty": "0 in"}
    assert suit(partner=partner).possible


@pytest.mark.parametrize(
    ("partner", "sentence"),
    [
        ({"kind": "shaft"}, "The partner is needed once"),
        ({"kind": "shaft", "readings": ["1 in"], "callout": "25 g6"}, "The partner is needed once"),
        ({"kind": "shaft", "readings": ["1 in"]}, "It is not said what a reading of the partner is worth."),
        ({"kind": "shaft", "readings": ["0.875 in", "0.875 mm"], "uncertainty": "0 in"}, "too far apart for one size"),
        ({"kind": "shaft", "callout": "25 H7"}, "“25 H7” names no shaft. A shaft is written in small letters, like g6."),
        ({"kind": "bore", "callout": "25 mm"}, "gives no limits, so the bore could be any size near it"),
        ({"kind": "bore", "readings": ["1 in"], "uncertainty": "-1 thou"}, "An uncertainty is never below zero."),
    ],
)
def test_a_partner_that_cannot_be_read_gets_its_sentence(partner: dict[str, object], sentence: str) -> None:
    with pytest.raises(BadInput, match=sentence.replace("(", r"\(").replace(".", r"\.")):
        suit(partner=partner)


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


def test_every_school_answers_side_by_side() -> None:
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
    assert {option.school for option in large.options if option.possible} == {"make_to_suit", "shop_rule"}
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


def test_the_shop_rules_grow_with_the_diameter() -> None:
    for function in functions().values():
        sizes = [
            abs(end) for d in (6, 12, 25, 50, 100, 300) for end in [shop_rules()[function.rules[0]].window_mm(Decimal(d))[1]]
        ]
        assert sizes == sorted(sizes)


def test_interference_is_a_window_below_zero() -> None:
    least, greatest = shop_rules()["press_steel"].window_mm(Decimal("25.4"))
    assert (least, greatest) == (Decimal("-0.03175"), Decimal("-0.01905"))


@given(
    mm, st.decimals("0.002", "0.2", places=3), st.sampled_from(["shaft", "bore"]), st.sampled_from(["middle", "metal_safe"])
)
def test_the_aim_is_always_inside_the_limits(low: Decimal, tolerance: Decimal, kind: str, school: str) -> None:
    aim = aim_size(kind, low, low + tolerance, school, "mm")
    assert low <= aim <= low + tolerance


@given(mm, st.decimals("0.01", "0.2", places=3))
def test_the_metal_safe_aim_leaves_more_metal_than_the_middle(low: Decimal, tolerance: Decimal) -> None:
    high = low + tolerance
    assert aim_size("shaft", low, high, "metal_safe", "mm") >= aim_size("shaft", low, high, "middle", "mm")
    assert aim_size("bore", low, high, "metal_safe", "mm") <= aim_size("bore", low, high, "middle", "mm")


@given(mm, st.decimals("0.0005", "0.2", places=4), st.sampled_from(["in", "mm"]))
def test_rounding_never_lets_anything_outside_in(low: Decimal, tolerance: Decimal, unit: str) -> None:
    inner_low, inner_high = round_inward(low, low + tolerance, unit)
    assert low <= inner_low <= inner_high <= low + tolerance


@pytest.mark.parametrize(
    ("low", "high", "unit", "nominal"),
    [("24.978", "24.981", "mm", "25 mm"), ("22.2", "22.22", "in", "0.875 in"), ("0.2", "0.2", "mm", "0.5 mm")],
)
def test_the_nominal_proposed_is_the_likely_one(low: str, high: str, unit: str, nominal: str) -> None:
    partner = Partner("shaft", Decimal(low), Decimal(high), Decimal(0), unit, "measured")
    assert str(likely_nominal(partner)) == nominal


def test_a_callout_with_limits_is_a_partner_without_doubt() -> None:
    result = options(partner={"kind": "bore", "callout": "24.98/25.02 mm"}, clearance_min="0.02 mm", clearance_max="0.10 mm")
    assert result.partner_uncertainty == Length(Decimal(0), "mm")
    assert str(named(result, "Make to suit").upper) == "24.96 mm"


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
        [option for option in found.options if option.school == school] for school in ("shop_rule", "make_to_suit")
    )
    assert rule
    for option in (*rule, *suited):
        assert option.lower is not None
        assert option.lower.mm > Decimal("25.010")


@pytest.mark.parametrize(
    ("size", "unit", "nominal"),
    [
        ("16.998", "in", "17 mm"),
        ("19.05", "in", "0.75 in"),
        ("12.69", "mm", "0.5 in"),
        ("24.98", "mm", "25 mm"),
        ("9.530", "in", "0.375 in"),
    ],
)
def test_a_likely_nominal_is_round_in_one_of_the_two_units(size: str, unit: str, nominal: str) -> None:
    """0.6692 in, read by an inch shop, is 17 mm. Source: common practice, no source."""
    partner = Partner("shaft", Decimal(size), Decimal(size), Decimal(0), unit, "measured")
    assert str(likely_nominal(partner)) == nominal
