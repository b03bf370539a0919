"""Metric threads against tables of ISO 965 as recalled, and the standard's own formulas."""

from decimal import Decimal

import pytest

from nomisma.core.threads.called_out import thread_called_out
from nomisma.core.threads.iso965 import (
    R40,
    PitchDiameterRow,
    PitchRow,
    inside_limits,
    outside_limits,
    outside_pitch_formula_um,
    pitch_diameter_rows,
    pitch_rows,
    preferred,
)
from nomisma.core.threads.of_class import limits_of

STEP = Decimal("1.07")  # a step of R40 is 5.93 %, rounded numbers a little more


@pytest.mark.parametrize(
    ("name", "major", "pitch"),
    [("M3", "2.874 2.980", "2.580 2.655"), ("M4", "3.838 3.978", "3.433 3.523"), ("M5", "4.826 4.976", "4.361 4.456"),
     ("M6", "5.794 5.974", "5.212 5.324"), ("M8", "7.760 7.972", "7.042 7.160"), ("M10", "9.732 9.968", "8.862 8.994"),
     ("M12", "11.701 11.966", "10.679 10.829"), ("M16", "15.682 15.962", "14.503 14.663"),
     ("M20", "19.623 19.958", "18.164 18.334"),
     ("M24", "23.577 23.952", "21.803 22.003"), ("M30", "29.522 29.947", "27.462 27.674"),
     ("M36", "35.465 35.940", "33.118 33.342")],
)  # fmt: skip
def test_coarse_outside_threads_6g(name: str, major: str, pitch: str) -> None:
    """Source: ISO 965-2, limits of sizes for 6g (recalled)."""
    found = limits_of(thread_called_out(name), "outside")
    assert f"{found.crest.lower_mm} {found.crest.upper_mm}" == major
    assert f"{found.pitch.lower_mm} {found.pitch.upper_mm}" == pitch


@pytest.mark.parametrize(
    ("name", "minor", "pitch"),
    [("M3", "2.459 2.599", "2.675 2.775"), ("M4", "3.242 3.422", "3.545 3.663"), ("M5", "4.134 4.334", "4.480 4.605"),
     ("M6", "4.917 5.153", "5.350 5.500"), ("M8", "6.647 6.912", "7.188 7.348"), ("M10", "8.376 8.676", "9.026 9.206"),
     ("M12", "10.106 10.441", "10.863 11.063"), ("M16", "13.835 14.210", "14.701 14.913"),
     ("M20", "17.294 17.744", "18.376 18.600"),
     ("M24", "20.752 21.252", "22.051 22.316"), ("M30", "26.211 26.771", "27.727 28.007"),
     ("M36", "31.670 32.270", "33.402 33.702")],
)  # fmt: skip
def test_coarse_inside_threads_6h(name: str, minor: str, pitch: str) -> None:
    """Source: ISO 965-2, limits of sizes for 6H (recalled)."""
    found = limits_of(thread_called_out(name), "inside")
    assert f"{found.crest.lower_mm} {found.crest.upper_mm}" == minor
    assert f"{found.pitch.lower_mm} {found.pitch.upper_mm}" == pitch


@pytest.mark.parametrize("row", pitch_rows().values(), ids=lambda row: str(row.pitch_mm))
def test_what_is_recalled_of_a_pitch_is_near_the_standards_formulas(row: PitchRow) -> None:
    """Source: ISO 965-1, Annex (formulas recalled): g 15 + 11P; e 50 + 11P; f 30 + 11P; major 180·P^(2/3) − 3.15/√P;
    minor 230·P^0.7, of fine pitches 433·P − 190·P^1.22."""
    pitch = float(row.pitch_mm)
    minor = 230 * pitch**0.7 if pitch >= 1 else 433 * pitch - 190 * pitch**1.22
    for kept, formula in (
        (row.g_um, 15 + 11 * pitch),
        (row.f_um, 30 + 11 * pitch),
        (row.minor_6_um, minor),
        (row.major_6_um, 180 * pitch ** (2 / 3) - 3.15 / pitch**0.5),
    ):
        assert kept is None or 1 / STEP <= kept / Decimal(repr(formula)) <= STEP
    assert row.e_um is None or abs(row.e_um - Decimal(repr(50 + 11 * pitch))) <= 6


@pytest.mark.parametrize("row", pitch_diameter_rows().values(), ids=lambda row: f"{row.up_to_mm}x{row.pitch_mm}")
def test_what_is_recalled_of_pitch_diameters_is_near_the_standards_formula(row: PitchDiameterRow) -> None:
    """Source: ISO 965-1, Annex (formulas recalled): outside 90·P^0.4·d^0.1, inside 1.32 times that."""
    formula = outside_pitch_formula_um(row.up_to_mm, row.pitch_mm)
    assert 1 / STEP <= row.outside_6_um / formula <= STEP
    assert 1 / STEP <= row.inside_6_um / (formula * Decimal("1.32")) <= STEP
    assert {preferred(row.outside_6_um), preferred(row.inside_6_um)} == {row.outside_6_um, row.inside_6_um}


def test_classes_stand_in_their_order() -> None:
    """A finer class lies within a coarser one; the mating threads of h and H touch at the basic size and no closer."""
    for row in pitch_diameter_rows().values():
        if row.pitch_mm not in pitch_rows():
            continue
        one = (row.up_to_mm, row.pitch_mm)
        fine, medium, coarse = (outside_limits(*one, grade).pitch for grade in ("4h", "6g", "8g"))
        wide = [grade.upper_mm - grade.lower_mm for grade in (fine, medium, coarse)]
        assert wide == sorted(set(wide))
        assert inside_limits(*one, "5H").pitch.lower_mm == fine.upper_mm > medium.upper_mm
        assert inside_limits(*one, "6H").crest.lower_mm < medium.lower_mm


def test_preferred_numbers_are_those_of_their_series() -> None:
    """Source: ISO 3: R40 is 10^(n/40), rounded to within 1.3 %."""
    for n, number in enumerate(R40.split()):
        assert abs(float(number) / 10 ** (n / 40) - 1) < 0.0130
