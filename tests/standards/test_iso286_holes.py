"""Holes J to ZC with the Δ rule, and the uneven classes j and J.

Source: ANSI B4.2-1978 (R1999), Table 5 "Preferred shaft basis fits" for K7, N7, P7, S7 and U7, and ISO 286-2:2010 for
the others; deviations in µm, recalled apart from the rule that computes them here.
"""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.errors import NotDefined
from nomisma.core.fits.iso286 import zone
from nomisma.core.fits.tables import grades, uneven

CLASSES = ("K7", "M7", "N7", "P7", "R7", "S7", "U7")
# size: upper deviation ES of each class above; the lower is ES − IT7
PUBLISHED = """
1   0  -2 -4  -6  -10  -14  -18
5   3  0  -4  -8  -11  -15  -19
10  5  0  -4  -9  -13  -17  -22
16  6  0  -5  -11 -16  -21  -26
25  6  0  -7  -14 -20  -27  -40
50  7  0  -8  -17 -25  -34  -61
100 10 0  -10 -24 -38  -58  -111
200 13 0  -14 -33 -60  -105 -219
400 17 0  -16 -41 -93  -187 -414
500 18 0  -17 -45 -109 -229 -517
"""
ROWS = [
    (row.split()[0], code, upper)
    for row in PUBLISHED.strip().splitlines()
    for code, upper in zip(CLASSES, row.split()[1:], strict=True)
]


@pytest.mark.parametrize(("size", "code", "upper"), ROWS)
def test_a_hole_tighter_than_h_is_where_the_tables_put_it(size: str, code: str, upper: str) -> None:
    z = zone(code, Decimal(size))
    assert (z.upper_um, z.upper_um - z.lower_um) == (Decimal(upper), grades().cell("IT7", Decimal(size)))


AT_25_MM = {
    "K6": (-11, 2), "K8": (-23, 10), "M6": (-17, -4), "M8": (-29, 4), "N6": (-24, -11), "N8": (-36, -3), "N9": (-52, 0),
    "P6": (-31, -18), "P8": (-55, -22), "P9": (-74, -22), "J6": (-5, 8), "J7": (-9, 12), "J8": (-13, 20), "j5": (-4, 5),
    "j6": (-4, 9), "j7": (-8, 13), "m6": (8, 21), "r6": (28, 41), "x6": (64, 77),
}  # fmt: skip


@pytest.mark.parametrize(("code", "limits"), AT_25_MM.items())
def test_classes_at_25_mm_are_those_of_the_tables(code: str, limits: tuple[int, int]) -> None:
    z = zone(code, Decimal(25))
    assert (z.lower_um, z.upper_um) == limits


UNEVEN = [("50", "J6", -6, 10), ("50", "J7", -11, 14), ("50", "J8", -15, 24), ("100", "J6", -6, 16),
    ("100", "J7", -13, 22),
          ("100", "j6", -9, 13), ("50", "j5", -5, 6), ("2", "j8", -6, 8), ("2", "J7", -6, 4)]  # fmt: skip


@pytest.mark.parametrize(("size", "code", "lower", "upper"), UNEVEN)
def test_the_uneven_classes_are_those_of_the_tables(size: str, code: str, lower: int, upper: int) -> None:
    z = zone(code, Decimal(size))
    assert (z.lower_um, z.upper_um) == (lower, upper)


def test_m6_over_250_to_315_is_the_tables_own_exception() -> None:
    assert [zone("M6", Decimal(size)).upper_um for size in ("250", "280", "315", "355")] == [-8, -9, -9, -10]


def test_n9_and_coarser_begin_at_the_nominal_but_for_the_smallest() -> None:
    assert [zone(f"N{grade}", Decimal(25)).upper_um for grade in (9, 10, 11)] == [0, 0, 0]
    assert zone("N9", Decimal(2)).upper_um == -4


def test_up_to_3_mm_there_is_no_delta() -> None:
    assert [zone(code, Decimal(3)).upper_um for code in ("K7", "M7", "N7", "P7")] == [0, -2, -4, -6]


@pytest.mark.parametrize("code", ["K9", "J9", "J5", "j8", "j4"])
def test_what_the_standard_does_not_define_is_refused(code: str) -> None:
    with pytest.raises(NotDefined, match=f"{code} is not defined at 25 mm. Choose a neighbouring letter or grade."):
        zone(code, Decimal(25))


sizes = st.decimals("3.01", "500", places=2)
tight = st.sampled_from(["K", "M", "N", "P", "R", "S", "U", "X", "Z", "ZA", "ZB", "ZC"])


@given(sizes, st.sampled_from(["P", "R", "S", "U", "X", "Z", "ZA", "ZB", "ZC"]), st.integers(4, 7))
def test_a_hole_and_the_finer_shaft_give_the_same_interference_on_either_basis(
    size: Decimal, letter: str, grade: int
) -> None:
    """What Δ is for: H7/p6 and P7/h6 fit alike. Source: ISO 286-1:2010, 4.3.2 (special rule)."""
    finer = grade - 1
    hole_basis = zone(f"H{grade}", size).lower_um - zone(f"{letter.lower()}{finer}", size).upper_um
    shaft_basis = zone(f"{letter}{grade}", size).lower_um - zone(f"h{finer}", size).upper_um
    assert hole_basis == shaft_basis


@given(sizes, st.integers(6, 8))
def test_holes_sink_from_js_to_n(size: Decimal, grade: int) -> None:
    uppers = [zone(f"{letters}{grade}", size).upper_um for letters in ("J", "K", "M", "N")]
    assert uppers == sorted(uppers, reverse=True)
    assert uppers[0] <= (grades().cell(f"IT{grade}", size) or 0)


def test_the_uneven_classes_grow_with_size() -> None:
    for column in uneven().cells.values():
        found = [abs(cell) for cell in column if cell is not None]
        assert found == sorted(found)
