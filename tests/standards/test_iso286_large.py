"""Sizes over 500 to 3150 mm, and the letters cd, ef and fg.

Source: ISO 286-1:2010, annex B (and ISO 286-1:1988, annex A): over 500 mm I = 0.004·D + 2.1 with D the geometric mean
of the range; IT6 = 10·I and so on; deviations by formula. Published limits of ISO 286-2:2010 are recalled apart from
the tables.
"""

import itertools
from decimal import Decimal
from math import sqrt

import pytest

from nomisma.core.errors import NotDefined
from nomisma.core.fits.fit import FitInput, fit
from nomisma.core.fits.iso286 import zone
from nomisma.core.fits.tables import grades, large_shafts, shafts

MULTIPLES = {
    "IT1": 2, "IT2": 2.7, "IT3": 3.7, "IT4": 5, "IT5": 7, "IT6": 10, "IT7": 16, "IT8": 25, "IT9": 40, "IT10": 64,
    "IT11": 100,
    "IT12": 160, "IT13": 250, "IT14": 400, "IT15": 640, "IT16": 1000, "IT17": 1600, "IT18": 2500,
}  # fmt: skip
MAIN_ENDS = [500.0, 630.0, 800.0, 1000.0, 1250.0, 1600.0, 2000.0, 2500.0, 3150.0]
SUB_ENDS = [500.0, *(float(end) for end in large_shafts().up_to_mm)]


@pytest.mark.parametrize(("grade", "multiple"), MULTIPLES.items())
def test_a_large_grade_is_its_multiple_of_the_tolerance_unit(grade: str, multiple: float) -> None:
    for below, end in itertools.pairwise(MAIN_ENDS):
        unit = 0.004 * sqrt(below * end) + 2.1
        assert float(grades().cell(grade, Decimal(str(end))) or 0) == pytest.approx(multiple * unit, rel=0.065), end


def large_deviation(letter: str, size: float, it7: float) -> float:
    return {
        "d": -16 * size**0.44,
        "e": -11 * size**0.41,
        "f": -5.5 * size**0.41,
        "g": -2.5 * size**0.34,
        "h": 0.0,
        "k": 0.0,
        "m": 0.024 * size + 12.6,
        "n": 0.04 * size + 21,
        "p": 0.072 * size + 37.8,
        "s": it7 + 0.4 * size,
        "t": it7 + 0.63 * size,
        "u": it7 + size,
    }[letter]


@pytest.mark.parametrize("letter", "defghkmnpstu")
def test_a_large_deviation_follows_the_standards_formula(letter: str) -> None:
    ends = SUB_ENDS if letter in "stu" else MAIN_ENDS
    for below, end in itertools.pairwise(ends):
        it7 = float(grades().cell("IT7", Decimal(str(end))) or 0)
        cell = float(large_shafts().cell(letter, Decimal(str(end))) or 0)
        assert cell == pytest.approx(large_deviation(letter, sqrt(below * end), it7), rel=0.05), end


def test_large_r_is_the_geometric_mean_of_p_and_s() -> None:
    for end in large_shafts().up_to_mm:
        p, r, s = (float(large_shafts().cell(letter, end) or 0) for letter in "prs")
        assert r == pytest.approx(sqrt(p * s), rel=0.042), end


# nominal, class, lower, upper deviation in µm. Source: ISO 286-2:2010, tables over 500 mm, recalled.
PUBLISHED = [
    ("600", "H7", 0, 70), ("600", "f7", -146, -76), ("600", "g6", -66, -22), ("560", "r6", 150, 194),
    ("561", "r6", 155, 199),
    ("600", "JS7", -35, 35), ("600", "K7", -70, 0), ("600", "M7", -96, -26), ("600", "N7", -114, -44),
    ("700", "d10", -610, -290),
    ("800", "e8", -285, -160), ("800", "P7", -168, -88), ("900", "h6", -56, 0), ("1000", "H8", 0, 140),
    ("1000", "f7", -176, -86),
    ("1250", "s7", 580, 685), ("1600", "H7", 0, 125), ("2000", "u7", 2000, 2150), ("2500", "n6", 110, 220),
    ("3000", "D9", 520, 1060),
    ("3150", "H11", 0, 1350), ("3150", "T7", -2310, -2100), ("1120", "k6", 0, 66), ("1400", "m6", 48, 126),
]  # fmt: skip


@pytest.mark.parametrize(("nominal", "code", "lower", "upper"), PUBLISHED)
def test_large_limits_are_those_of_the_published_tables(nominal: str, code: str, lower: int, upper: int) -> None:
    z = zone(code, Decimal(nominal))
    assert (z.lower_um, z.upper_um) == (lower, upper)


@pytest.mark.parametrize(
    ("nominal", "code", "reason"),
    [
        ("501", "c11", "Over 500 mm the letters go from d to u."),
        ("501", "ZA7", "ZA7 is not defined at 501 mm. Over 500 mm the letters go from d to u."),
        ("501", "j6", "j and J end at 500 mm; js and JS go on."),
        ("501", "H01", "IT01 and IT0 end at 500 mm."),
        ("51", "ef6", "cd, ef and fg are for fine mechanisms and end at 50 mm."),
        ("24", "t6", "t begins above 24 mm."),
        ("18", "Y7", "Y7 is not defined at 18 mm. y begins above 18 mm."),
        ("1", "N9", "N9 is not used up to and including 1 mm."),
        ("1", "B11", "B11 is not used up to and including 1 mm."),
        ("1", "a11", "a11 is not used up to and including 1 mm."),
        ("1", "h14", "h14 is not used up to and including 1 mm."),
        ("0.9", "JS18", "JS18 is not used up to and including 1 mm."),
        ("0.9", "zc7", "zc7 is not used below 1 mm."),
    ],
)
def test_what_is_not_defined_is_refused_with_the_reason(nominal: str, code: str, reason: str) -> None:
    with pytest.raises(NotDefined, match=reason):
        zone(code, Decimal(nominal))


# Source: ISO 286-1:1988, Tables 2 and 3, recalled.
FINE_MECHANISMS = [
    ("2", "cd9", -59, -34),
    ("5", "ef6", -22, -14),
    ("8", "fg6", -17, -8),
    ("8", "CD9", 56, 92),
    ("2", "FG7", 4, 14),
]


@pytest.mark.parametrize(("nominal", "code", "lower", "upper"), FINE_MECHANISMS)
def test_the_letters_of_fine_mechanisms(nominal: str, code: str, lower: int, upper: int) -> None:
    z = zone(code, Decimal(nominal))
    assert (z.lower_um, z.upper_um, z.unsure) == (lower, upper, False)


def test_a_cell_we_are_not_sure_of_says_so_in_the_working() -> None:
    found = fit(FitInput(callout="25 ef7"))
    assert any("not sure" in step.source for step in found.working)
    assert not any("not sure" in step.source for step in fit(FitInput(callout="25 e7")).working)


def test_only_the_carried_on_letters_are_unsure() -> None:
    assert {column for column, _ in shafts().unsure} == {"cd", "ef", "fg"}
    assert large_shafts().unsure == {("r", 9)}
