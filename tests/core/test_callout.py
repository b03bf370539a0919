"""Callouts: limits, fit codes and chamfers."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.errors import AmbiguousLength, InputError, NotDefined, UnreadableLength
from nomisma.core.fits.fit import FitResult
from nomisma.core.fits.iso286 import LETTERS, zone
from nomisma.core.quantity.callout import Chamfer, FitCode, Limits, check_gauges, parse_callout
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.registry import calculation_named

LIMITS: list[tuple[str, Unit, str, str]] = [
    ("28±0.1", "mm", "27.9 mm", "28.1 mm"),
    ("28 +/- 0.1", "mm", "27.9 mm", "28.1 mm"),
    ("0.800 +.004/-.000", "in", "0.8 in", "0.804 in"),
    ("12 +0.1 -0.05", "mm", "11.95 mm", "12.1 mm"),
    ("0.3755/0.3760", "in", "0.3755 in", "0.376 in"),
    ("0.3760/0.3755", "in", "0.3755 in", "0.376 in"),
    ("24.98/25.02 mm", "in", "24.98 mm", "25.02 mm"),
    ("22 mm ± 20 µm", "in", "21.98 mm", "22.02 mm"),
    ("1-1/2 ± 1 thou", "in", "1.499 in", "1.501 in"),
    ("24,98/24,99 mm", "in", "24.98 mm", "24.99 mm"),
    ("25 +0,02/0 mm", "in", "25 mm", "25.02 mm"),
    ("25 0/-0.013 mm", "in", "24.987 mm", "25 mm"),
    ("3/8 +1 thou -2 thou", "mm", "0.373 in", "0.376 in"),
    ("25 +20/-5 um", "in", "24.995 mm", "25.02 mm"),
    (".5 +.001-.002", "in", "0.498 in", "0.501 in"),
]


@pytest.mark.parametrize(("text", "unit", "lower", "upper"), LIMITS)
def test_limits_are_read_as_written(text: str, unit: Unit, lower: str, upper: str) -> None:
    found = parse_callout(text, unit)
    assert isinstance(found, Limits)
    assert (str(found.lower), str(found.upper)) == (lower, upper)


FITS = [
    ("25 H7/g6", "25 mm", "H7", "g6"),
    ("25H7/g6", "25 mm", "H7", "g6"),
    ("25 h6/H7", "25 mm", "H7", "h6"),
    ("25 H7", "25 mm", "H7", None),
    ("1 e9", "1 mm", None, "e9"),
    ("1.5 in H7/p6", "1.5 in", "H7", "p6"),
    ("7/8 H7", "0.875 in", "H7", None),
    ("60 JS9", "60 mm", "JS9", None),
    ("25 x6", "25 mm", None, "x6"),
    ("4.5 mm x10", "4.5 mm", None, "x10"),
    (".250 H7", "0.25 in", "H7", None),
    ("1/4 H7/g6", "0.25 in", "H7", "g6"),
    ("1-3/8 h6", "1.375 in", None, "h6"),
    ("1.2505 H7", "1.2505 in", "H7", None),
    ("25.000 mm H7", "25 mm", "H7", None),
    ("25 X7/h6", "25 mm", "X7", "h6"),
    ("25H7/x6", "25 mm", "H7", "x6"),
]


@pytest.mark.parametrize(("text", "nominal", "hole", "shaft"), FITS)
def test_a_fit_code_names_hole_and_shaft_by_its_case(
    text: str, nominal: str, hole: str | None, shaft: str | None
) -> None:
    found = parse_callout(text, "in")
    assert isinstance(found, FitCode)
    assert (str(found.nominal), found.hole, found.shaft) == (nominal, hole, shaft)


def test_a_chamfer_keeps_its_axial_leg_and_its_angle() -> None:
    found = parse_callout("1/16 x 45°", "in")
    assert isinstance(found, Chamfer)
    assert (str(found.leg), found.angle_deg) == ("0.0625 in", Decimal(45))


def test_one_size_stays_one_size() -> None:
    assert isinstance(parse_callout("1-3/8", "in"), Length)


REFUSED = [
    (
        "25 H7/H8",
        (
            "H7 and H8 are both holes (capital letters). A fit pairs a hole in capitals with a shaft in small letters,"
            " like 25 H7/g6."
        ),
    ),
    (
        "1e9",
        (
            "“1e9” could be a number with an exponent, or a shaft code. "
            "Write the number out, or put a space before the code: 1 e9."
        ),
    ),
    ("5 ± 6", "The lower limit comes out at zero or below. Check the tolerance against the size."),
    ("5/5.0", "Both limits are the same, which leaves nothing to work to. Give two different limits."),
    (
        "0.375/9.5",
        "Limits of 0.375 in and 9.5 in are far apart for one size. Check the unit and the decimal point of each.",
    ),
    (
        "25x6",
        "“25x6” could be a size and a class, or two sizes. Write 25 x6 for the class, 25 x 6 for two sizes.",
    ),
    (
        "12 mm x 20 mm",
        "“12 mm x 20 mm” is two sizes, and one is wanted. A chamfer is written 1/16 x 45°, a class 25 x6.",
    ),
    (
        "2/3",
        (
            "“2/3” is not a rule fraction. Fractions go in halves, quarters, 8ths, 16ths, 32nds and 64ths; otherwise"
            " write a decimal."
        ),
    ),
    (
        "0.999 in/1.001 mm",
        "“0.999 in/1.001 mm” has one limit in inches and the other in millimetres. Write both in the same unit.",
    ),
    ("25 -0.007/0.020", "“0.020” has no sign. Write +0.020 or -0.020: each deviation with its own sign."),
    ("25 +0.1 mm/-0.2", "“-0.2” has no unit, and “+0.1” has. Write -0.2 mm, or its own unit."),
    ("+-5 mm", "“-5 mm” is not understood as a size. Write it like 7/8, 1-3/8, .8752, 22.225 mm or 3 thou."),
    ("1 x 95°", "A chamfer of 95° is not one. Give an angle between 0 and 90°."),
]


@pytest.mark.parametrize(("text", "sentence"), REFUSED)
def test_a_callout_that_cannot_be_gets_its_sentence(text: str, sentence: str) -> None:
    with pytest.raises(InputError) as refused:
        parse_callout(text, "in")
    assert refused.value.sentence == sentence


@pytest.mark.parametrize("letters", sorted(LETTERS))
@pytest.mark.parametrize("nominal", ["4", "30"])
def test_every_letter_of_both_alphabets_comes_through_the_callout_door(letters: str, nominal: str) -> None:
    """A class the table has is read as that class, alone and with its partner; what it has not is refused by
    its name.
    """
    partner = "h7" if letters[0].isupper() else "H7"
    for grade in ("6", "7", "8"):
        code = f"{letters}{grade}"
        try:
            expected = zone(code, Decimal(nominal))
        except NotDefined as refused:
            with pytest.raises(BadInput) as at_the_door:
                calculation_named("fit").run({"callout": f"{nominal} {code}"})
            assert at_the_door.value.errors[0].problem == refused.problem
            continue
        for callout in (f"{nominal} {code}", f"{nominal} {code}/{partner}", f"{nominal} {partner}/{code}"):
            result = calculation_named("fit").run({"callout": callout})
            assert isinstance(result, FitResult)
            member = result.hole if letters[0].isupper() else result.shaft
            assert member is not None
            assert (member.lower_um, member.upper_um) == (expected.lower_um, expected.upper_um)


@given(st.text(max_size=140), st.sampled_from(["in", "mm", None]))
def test_any_text_gives_a_callout_or_a_sentence(text: str, unit: Unit | None) -> None:
    try:
        found = parse_callout(text, unit)
    except InputError as refused:
        assert refused.problem
        assert refused.remedy
    else:
        assert found


@given(st.decimals("1", "500", places=3), st.decimals("0.001", "0.3", places=3))
def test_plus_minus_is_as_far_above_as_below(nominal: Decimal, amount: Decimal) -> None:
    found = parse_callout(f"{nominal}±{amount} mm", "in")
    assert isinstance(found, Limits)
    assert found.upper.mm - nominal == nominal - found.lower.mm == amount


@pytest.mark.parametrize(("text", "upper"), [("24.999/25 mm", "25"), ("0.999/1 in", "25.4")])
def test_one_of_two_limits_may_be_a_whole_number(text: str, upper: str) -> None:
    found = parse_callout(text)
    assert isinstance(found, Limits)
    assert found.upper.mm == Decimal(upper)


@pytest.mark.parametrize(
    "line", ["go .125 no-go .127", "Go .125, no go .127 in", "enters .125 refuses .127", "go 1/8 / nogo .127"]
)
def test_two_pins_are_limits(line: str) -> None:
    found = parse_callout(line, "in")
    assert isinstance(found, Limits)
    assert (str(found.lower.value()), str(found.upper.value())) == ("0.125", "0.127")


def test_two_rings_are_the_limits_of_a_shaft_the_other_way_round() -> None:
    found = parse_callout("go 25.02 no-go 25.00", "mm")
    assert isinstance(found, Limits)
    assert found.lower.mm < found.upper.mm


@pytest.mark.parametrize("text", ["1.5 H7", "12.7 H7", "12.700 H7", "0.5 g6", "25.0 H7/g6"])
def test_a_class_on_what_could_be_either_unit_is_asked_about_with_both(text: str) -> None:
    size, code = text.split(" ")[0], text.split(" ")[1].split("/")[0]
    with pytest.raises(
        AmbiguousLength, match=f"could be {size} in or {size} mm. Write {size} in {code}, or {size} mm {code}"
    ):
        parse_callout(text, "in")


@pytest.mark.parametrize("text", ["1.5 H7", ".250 H7", "25 H7/g6"])
def test_in_a_metric_job_a_class_is_on_millimetres(text: str) -> None:
    found = parse_callout(text, "mm")
    assert isinstance(found, FitCode)
    assert found.nominal.unit == "mm"


@pytest.mark.parametrize(("text", "inside"), [("go .127 no-go .125", True), ("go .500 no-go .5005", False)])
def test_gauges_the_wrong_way_round_are_refused(text: str, inside: bool) -> None:
    with pytest.raises(UnreadableLength, match="than the one that does not"):
        check_gauges(text, "in", inside=inside)
    check_gauges(text, "in", inside=not inside)
