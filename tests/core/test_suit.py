"""Make to suit, the shop rules, the aim, and every fit system side by side."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.fits.functions import functions
from nomisma.core.fits.partner import Partner, likely_nominal
from nomisma.core.fits.shop_rules import shop_rules
from nomisma.core.fits.suit import SuitResult, Window, suit_for
from nomisma.core.quantity.length import Length
from nomisma.core.registry import calculation_named
from tests.core.fits.test_options import named, options

mm = st.decimals("10", "200", places=3)
small = st.decimals("0", "0.02", places=4)


@given(
    mm,
    small,
    small,
    st.decimals("-0.1", "0.1", places=3),
    st.sampled_from(["shaft", "bore"]),
    st.sampled_from(["in", "mm"]),
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
    assert (
        result.sentence
        == "This window cannot be promised: it is 0.30 thou wide, the partner's own form takes 0.20 thou and the doubt"
        " in its readings 0.24 thou. A finer instrument on the partner, or a wider window, would make room."
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
        (
            {"kind": "shaft", "callout": "25 H7"},
            "“25 H7” names no shaft. A shaft is written in small letters, like g6.",
        ),
        ({"kind": "bore", "callout": "25 mm"}, "gives no limits, so the bore could be any size near it"),
        ({"kind": "bore", "readings": ["1 in"], "uncertainty": "-1 thou"}, "An uncertainty is never below zero."),
    ],
)
def test_a_partner_that_cannot_be_read_gets_its_sentence(partner: dict[str, object], sentence: str) -> None:
    with pytest.raises(BadInput, match=sentence.replace("(", r"\(").replace(".", r"\.")):
        suit(partner=partner)


def test_the_shop_rules_grow_with_the_diameter() -> None:
    for function in functions().values():
        sizes = [
            abs(end)
            for d in (6, 12, 25, 50, 100, 300)
            for end in [shop_rules()[function.rules[0]].window_mm(Decimal(d))[1]]
        ]
        assert sizes == sorted(sizes)


def test_interference_is_a_window_below_zero() -> None:
    least, greatest = shop_rules()["press_steel"].window_mm(Decimal("25.4"))
    assert (least, greatest) == (Decimal("-0.03175"), Decimal("-0.01905"))


@pytest.mark.parametrize(
    ("low", "high", "unit", "nominal"),
    [("24.978", "24.981", "mm", "25 mm"), ("22.2", "22.22", "in", "0.875 in"), ("0.2", "0.2", "mm", "0.5 mm")],
)
def test_the_nominal_proposed_is_the_likely_one(low: str, high: str, unit: str, nominal: str) -> None:
    partner = Partner("shaft", Decimal(low), Decimal(high), Decimal(0), unit, "measured")
    assert str(likely_nominal(partner)) == nominal


def test_a_callout_with_limits_is_a_partner_without_doubt() -> None:
    result = options(
        partner={"kind": "bore", "callout": "24.98/25.02 mm"}, clearance_min="0.02 mm", clearance_max="0.10 mm"
    )
    assert result.partner_uncertainty == Length(Decimal(0), "mm")
    assert str(named(result, "Make to suit").upper) == "24.96 mm"


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
