"""The recalled ISO 286 tables against the formulae they were rounded from.

Source: ISO 286-1:2010 (and ISO 286-1:1988, annex A): i = 0.45·D^(1/3) + 0.001·D with D the geometric mean of the range
(for sizes to 3 mm, of 1 and 3); IT5 = 7i ... IT18 = 2500i; deviations by the formulae of annex B. Published values are
rounded, most at small sizes, so each check has the tolerance the rounding needs and exceptions are listed.
"""

from decimal import Decimal
from math import sqrt

import pytest

from nomisma.core.fits.tables import grades, shafts

MULTIPLES = {
    "IT5": 7, "IT6": 10, "IT7": 16, "IT8": 25, "IT9": 40, "IT10": 64, "IT11": 100, "IT12": 160, "IT13": 250,
    "IT14": 400,
    "IT15": 640, "IT16": 1000, "IT17": 1600, "IT18": 2500,
}  # fmt: skip
GRADE_ENDS = [float(end) for end in grades().up_to_mm]
SHAFT_ENDS = [float(end) for end in shafts().up_to_mm]


def mean_of(end: float, ends: list[float]) -> float:
    """Geometric mean of the range that ends there."""
    index = next(i for i, upper in enumerate(ends) if end <= upper)
    below = ends[index - 1] if index else 1.0
    return sqrt(below * ends[index])


@pytest.mark.parametrize("grade", MULTIPLES)
@pytest.mark.parametrize("row", range(13))
def test_a_grade_is_its_multiple_of_the_tolerance_unit(grade: str, row: int) -> None:
    size = mean_of(GRADE_ENDS[row], GRADE_ENDS)
    unit = 0.45 * size ** (1 / 3) + 0.001 * size
    rounding = 0.16 if row == 0 else 0.10 if row == 1 else 0.06
    assert float(grades().cells[grade][row] or 0) == pytest.approx(MULTIPLES[grade] * unit, rel=rounding)


@pytest.mark.parametrize("grade", range(6, 14))
def test_five_grades_coarser_is_ten_times_the_tolerance(grade: int) -> None:
    """Source: ISO 286-1:1988, A.2.2. One published exception: IT11 over 3 to 6 mm is 75, not 80."""
    finer, coarser = grades().cells[f"IT{grade}"], grades().cells[f"IT{grade + 5}"]
    off = [row for row in range(13) if coarser[row] != (finer[row] or 0) * 10]
    assert off == ([1] if grade == 6 else []) or all(
        coarser[row] == pytest.approx((finer[row] or 0) * 10, rel=Decimal("0.09")) for row in off
    )


def test_grades_grow_with_size_and_with_coarseness() -> None:
    columns = list(grades().cells.values())
    for column in columns:
        defined = [cell for cell in column if cell is not None]
        assert defined == sorted(defined)
    for row in range(21):
        across = [column[row] for column in columns if column[row] is not None]
        assert across == sorted(across, key=lambda cell: cell or 0)


def grade_at(name: str, end: float) -> float:
    return float(grades().cell(name, Decimal(str(end))) or 0)


def grade_deviation(letter: str, end: float) -> float:
    return float(shafts().cell(letter, Decimal(str(end))) or 0)


def by_formula(letter: str, end: float, size: float) -> float:
    """A fundamental deviation in µm; D is the geometric mean of the range. Source: ISO 286-1:2010, annex B."""
    it7, it8 = grade_at("IT7", end), grade_at("IT8", end)
    formulae = {
        "a": -(265 + 1.3 * size) if end <= 120 else -3.5 * size,
        "b": -(140 + 0.85 * size) if end <= 160 else -1.8 * size,
        "c": -52 * size**0.2 if end <= 40 else -(95 + 0.8 * size),
        "cd": -sqrt(grade_deviation("c", end) * grade_deviation("d", end)),
        "ef": -sqrt(grade_deviation("e", end) * grade_deviation("f", end)),
        "fg": -sqrt(grade_deviation("f", end) * grade_deviation("g", end)),
        "d": -16 * size**0.44,
        "e": -11 * size**0.41,
        "f": -5.5 * size**0.41,
        "g": -2.5 * size**0.34,
        "k": 0.6 * size ** (1 / 3),
        "m": it7 - grade_at("IT6", end),
        "n": 5 * size**0.34,
        "p": it7 + 2.5,
        "s": it8 + 2.5 if end <= 50 else it7 + 0.4 * size,
        "t": it7 + 0.63 * size,
        "u": it7 + size,
        "v": it7 + 1.25 * size,
        "x": it7 + 1.6 * size,
        "y": it7 + 2 * size,
        "z": it7 + 2.5 * size,
        "za": it8 + 3.15 * size,
        "zb": grade_at("IT9", end) + 4 * size,
        "zc": grade_at("IT10", end) + 5 * size,
    }
    return formulae[letter]


# Rows where the published table leaves its formula: small sizes, and c from 10 to 40 mm.
SMALL = {"n": 3, "m": 3, "s": 3, "p": 18, "t": 30, "u": 14, "x": 14, "z": 14, "za": 10, "zb": 6, "zc": 6}
MAIN_RANGES = set("defgkmnp")


@pytest.mark.parametrize("letter", [letter for letter in shafts().cells if letter not in ("h", "r")])
def test_a_deviation_follows_the_standards_formula(letter: str) -> None:
    for row, end in enumerate(SHAFT_ENDS):
        cell = shafts().cells[letter][row]
        if cell is None or end <= SMALL.get(letter, 0) or (letter == "c" and 10 < end <= 40):
            continue
        size = mean_of(end, GRADE_ENDS if letter in MAIN_RANGES else SHAFT_ENDS)
        assert float(cell) == pytest.approx(by_formula(letter, end, size), rel=0.05, abs=2.6), (letter, end)


def test_r_is_the_geometric_mean_of_p_and_s() -> None:
    """Source: ISO 286-1:2010, annex B."""
    for row, end in enumerate(SHAFT_ENDS):
        p, r, s = (float(shafts().cells[letter][row] or 0) for letter in "prs")
        assert r == pytest.approx(sqrt(p * s), rel=0.06, abs=1.5), end


def test_deviations_rise_from_a_to_zc_at_every_size() -> None:
    for row in range(25):
        across = [column[row] for column in shafts().cells.values() if column[row] is not None]
        assert across == sorted(across, key=lambda cell: cell or 0), SHAFT_ENDS[row]


def test_deviations_move_away_from_the_zero_line_with_size() -> None:
    for letter, column in shafts().cells.items():
        sizes = [abs(cell) for cell in column if cell is not None]
        assert sizes == sorted(sizes), letter
