"""Shop writing in: what is understood, and the exact sentence where it is not."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.errors import AmbiguousLength, InputError, OutOfRange, UnreadableLength
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import parse_length

UNDERSTOOD = [
    (".8750", "in", "0.875 in"),
    ("0.875", "in", "0.875 in"),
    ("7/8", "mm", "0.875 in"),
    ("1-3/8", "in", "1.375 in"),
    ("1 3/8", "in", "1.375 in"),
    ('7/8"', "mm", "0.875 in"),
    ("22.225 mm", "in", "22.225 mm"),
    ("22.225mm", "in", "22.225 mm"),
    ("25,4 mm", "in", "25.4 mm"),
    ("1,125 mm", "in", "1.125 mm"),
    ("1,5", "mm", "1.5 mm"),
    ("0,125", "mm", "0.125 mm"),
    ("17/32 drill", "mm", "0.53125 in"),
    ("#32", "mm", "0.116 in"),
    ("no. 7", "mm", "0.201 in"),
    ("letter F", "mm", "0.257 in"),
    ("letter f drill", "mm", "0.257 in"),
    ("3/8 +1 thou", "in", "0.376 in"),
    ("3/8 -2 tenths", "in", "0.3748 in"),
    ("3 thou", "mm", "0.003 in"),
    ("20 µm", "in", "0.02 mm"),
    ("28", "mm", "28 mm"),
    ("  28.  ", "mm", "28 mm"),
]


@pytest.mark.parametrize(("text", "unit", "meaning"), UNDERSTOOD)
def test_what_a_machinist_writes_is_understood(text: str, unit: Unit, meaning: str) -> None:
    assert str(parse_length(text, unit)) == meaning


REFUSED = [
    ("", "in", "Nothing was entered. Write it like 7/8, 1-3/8, .8752, 22.225 mm or 3 thou."),
    ("abc", "in", "“abc” is not understood as a size. Write it like 7/8, 1-3/8, .8752, 22.225 mm or 3 thou."),
    ("1,125", "in", "“1,125” has a comma, and inches take a point. Write 1.125 or 1125, or add mm."),
    (
        "1,125",
        "mm",
        "“1,125” could be 1.125 or 1125. Write 1.125 or 1125, or add the unit: 1,125 mm is read as 1.125 mm.",
    ),
    ("1,234.5", "mm", "“1,234.5” has both a comma and a point. Leave out the mark for thousands."),
    ("7/0", "in", "“7/0” divides by zero. Check the fraction; 7/8 is written 7/8."),
    (
        "7/9",
        "in",
        (
            "“7/9” is not a rule fraction. Fractions go in halves, quarters, 8ths, 16ths, 32nds and 64ths; otherwise"
            " write a decimal."
        ),
    ),
    ("1-9/8", "in", "“1-9/8” has a fraction of one or more. Write it like 1-3/8 or as a decimal."),
    ("7/8 mm", "mm", "“7/8 mm” is a fraction in millimetres. Write millimetres as a decimal, fractions in inches."),
    ("-3", "mm", "-3 is not a size: a size is above zero. Enter the size without a sign."),
    ("0", "mm", "0 is not a size: a size is above zero. Enter the size without a sign."),
    ("1e9", "mm", "“1e9” is written with an exponent. Write the size out, like 0.001 or 1000."),
    ("nan", "mm", "“nan” is not a size. Write it like 7/8, 1-3/8, .8752, 22.225 mm or 3 thou."),
    ("5 furlongs", "mm", "“furlongs” in “5 furlongs” is not a unit used here. Use in, thou, tenths, mm or µm (um)."),
    ("#81", "in", "There is no drill number 81. Number drills go from #1 to #80, letters from A to Z."),
    (
        "20000",
        "mm",
        (
            "20000 is larger than any work this tool knows. "
            "Sizes go up to 10 000 mm (393.7 in); check the unit and the decimal point."
        ),
    ),
    ("9" * 30, "mm", "999999999999… is far too long for a size. Check the digits."),
    ("x" * 10_000, "in", "That is 10 000 characters; this is never longer than 60. Type just the size."),
]


@pytest.mark.parametrize(("text", "unit", "sentence"), REFUSED, ids=[text[:12] or "empty" for text, _, _ in REFUSED])
def test_what_is_not_understood_gets_its_sentence(text: str, unit: Unit, sentence: str) -> None:
    with pytest.raises(InputError) as refused:
        parse_length(text, unit)
    assert refused.value.sentence == sentence


def test_a_number_without_any_unit_is_asked_about() -> None:
    with pytest.raises(AmbiguousLength, match="has no unit"):
        parse_length("0.875")


def test_the_value_as_typed_goes_with_the_refusal() -> None:
    with pytest.raises(UnreadableLength) as refused:
        parse_length("  7/0 ", "in")
    assert refused.value.value == "  7/0 "


def test_a_difference_may_be_below_zero() -> None:
    assert parse_length("-1 thou", positive=False).mm == Decimal("-0.0254")


def test_text_and_decimals_are_kept_as_entered() -> None:
    length = parse_length(".8750", "in")
    assert (length.text, length.decimals, length.unit) == (".8750", 4, "in")


@given(st.integers(1, 640), st.sampled_from([2, 4, 8, 16, 32, 64]))
def test_every_rule_fraction_is_exact(top: int, bottom: int) -> None:
    assert parse_length(f"{top}/{bottom}").value("in") == Decimal(top) / bottom


@given(st.decimals("0.0001", "9999", places=4))
def test_a_written_size_reads_back_as_itself(value: Decimal) -> None:
    assert parse_length(str(Length.of(value, "mm"))).mm == value


@given(st.text(max_size=80), st.sampled_from(["in", "mm"]))
def test_any_text_gives_a_size_or_a_sentence(text: str, unit: Unit) -> None:
    try:
        length = parse_length(text, unit)
    except InputError as refused:
        assert refused.remedy.endswith((".", "thou.", "…"))
    else:
        assert 0 < length.mm <= 10_000


@given(st.text(alphabet="0123456789./,-+ #thoumicrnIN\"'eE", max_size=30))
def test_shop_like_scribble_gives_a_size_or_a_sentence(text: str) -> None:
    try:
        assert parse_length(text, "in").mm > 0
    except (UnreadableLength, AmbiguousLength, OutOfRange) as refused:
        assert refused.problem
