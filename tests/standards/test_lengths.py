"""Lengths and angles against handbook tables. Values from memory are marked so; each is a number of a published table,
not of this program.
"""

from decimal import Decimal
from math import radians, tan
from typing import Any

import pytest

from nomisma.core.lengths.undercut import Undercut, undercuts
from nomisma.core.registry import calculation_named


def run(name: str, **given: Any) -> Any:
    return calculation_named(name).run(given)


# Constants of a 5-inch sine bar, in any machinist's handbook (recalled; they are 5·sin, which a table of sines gives).
@pytest.mark.parametrize(
    ("angle", "height"),
    [
        ("1°", "0.08726"),
        ("5°", "0.43578"),
        ("10°", "0.86824"),
        ("15°", "1.29410"),
        ("20°", "1.71010"),
        ("30°", "2.50000"),
        ("45°", "3.53553"),
        ("60°", "4.33013"),
    ],
)
def test_a_five_inch_sine_bar(angle: str, height: str) -> None:
    found = run("sine_bar", angle=angle, rollers_apart="5 in", set="in81", unit="in", own="0.01 0.02 0.03 0.04")
    assert abs(found.height.value("in") - Decimal(height)) < Decimal("0.000006")


# Included angles of tapers per foot, handbook table (recalled): 1/8 0°35'49", 1/4 1°11'37", 1/2 2°23'13", 3/4
# 3°34'47", 1 in 4°46'19".
@pytest.mark.parametrize(
    ("per_foot", "minutes"),
    [
        (".125", 35 + 49 / 60),
        (".25", 71 + 37 / 60),
        (".5", 143 + 13 / 60),
        (".75", 214 + 47 / 60),
        ("1", 286 + 19 / 60),
    ],
)
def test_included_angles_of_tapers_per_foot(per_foot: str, minutes: float) -> None:
    assert run("taper", taper=f"{per_foot} per foot").included_deg * 60 == pytest.approx(minutes, abs=0.02)


def test_seven_in_twenty_four_is_sixteen_degrees_thirty_five_minutes_forty_seconds() -> None:
    """ISO 7388-1 gives 16°35'40" (recalled)."""
    assert run("taper", taper="7/24 40").included_deg * 3600 == pytest.approx(16 * 3600 + 35 * 60 + 40, abs=1)


# Ratios of Morse tapers in ISO 296 (recalled), against the tapers per foot of ANSI B5.10.
@pytest.mark.parametrize(
    ("number", "ratio"), [(0, 19.212), (1, 20.047), (2, 20.020), (3, 19.922), (4, 19.254), (5, 19.002), (6, 19.180)]
)
def test_morse_tapers_in_both_standards(number: int, ratio: float) -> None:
    assert float(run("taper", taper=f"Morse {number}").one_in) == pytest.approx(ratio, abs=0.001)


# Tap drills of the common handbook table for about 75 % thread (recalled), UNC and UNF.
TAP_DRILLS = {
    "4-40": "#43", "5-40": "#38", "6-32": "#36", "8-32": "#29", "10-24": "#25", "10-32": "#21", "1/4-20": "#7",
    "1/4-28": "#3",
    "5/16-18": "letter F", "5/16-24": "letter I", "3/8-16": "5/16 in", "3/8-24": "letter Q", "7/16-14": "letter U",
    "7/16-20": "25/64 in",
    "1/2-13": "27/64 in", "1/2-20": "29/64 in", "9/16-12": "31/64 in", "5/8-11": "17/32 in", "3/4-10": "21/32 in",
    "3/4-16": "11/16 in",
    "7/8-9": "49/64 in", "1-8": "7/8 in",
}  # fmt: skip


@pytest.mark.parametrize(("thread", "drill"), TAP_DRILLS.items())
def test_inch_tap_drills(thread: str, drill: str) -> None:
    assert run("tapping", thread=thread).drill == drill


@pytest.mark.parametrize("thread", ["M3", "M4", "M5", "M6", "M8", "M10", "M12", "M16", "M20", "M24", "M30", "M36"])
def test_metric_tap_drills_are_the_diameter_less_the_pitch(thread: str) -> None:
    """ISO 2306 (recalled): to the drill's own rounding of 0.05 mm."""
    from nomisma.core.threads.designation import threads

    one = threads()[thread]
    assert abs(run("tapping", thread=thread).drill_size.mm - (one.diameter_mm - one.pitch_mm)) <= Decimal("0.05")


# Constants for equally spaced holes on a circle of one, handbook (recalled): chord = sin(180°/n).
@pytest.mark.parametrize(
    ("count", "chord"),
    [(3, 0.866025), (4, 0.707107), (5, 0.587785), (6, 0.5), (7, 0.433884), (8, 0.382683), (12, 0.258819)],
)
def test_chords_of_hole_circles(count: int, chord: float) -> None:
    assert float(run("hole_circle", circle="1000 mm", count=count).chord.mm) == pytest.approx(1000 * chord, abs=0.001)


def test_a_keyseat_of_a_one_inch_shaft() -> None:
    """Handbook table for a quarter-inch square key in a one-inch shaft (recalled): 0.859 from floor to far side, 1.114
    in the hub with 0.005.
    """
    found = run("keyseat", shaft="1 in", width="0.25 in", height="0.25 in", clearance="0.005 in", unit="in")
    assert (round(found.over_far_side.value("in"), 3), round(found.hub_over.value("in"), 3)) == (
        Decimal("0.859"),
        Decimal("1.114"),
    )


def test_a_mandrel_of_six_thou_a_foot() -> None:
    """Trade notes, 9 (handbook): 0.006 in per foot is 0.0005 in per inch."""
    found = run(
        "mandrel",
        small_end="0.999 in",
        length="12 in",
        bore_lower="1 in",
        bore_length="1 in",
        taper="0.006 per foot",
        unit="in",
    )
    assert found.large_end.value("in") == Decimal("1.005")


# DIN 509 gives each size's width on the face; it is also what its own 8° and its round make (a second way to a
# recalled table).
@pytest.mark.parametrize("size", undercuts(), ids=lambda one: f"{one.radius_mm}x{one.depth_mm}")
def test_an_undercuts_width_on_the_face_is_what_its_angle_makes(size: Undercut) -> None:
    radius, face_depth = float(size.radius_mm), float(size.face_depth_mm)
    made = radius + face_depth / tan(radians(8)) + radius * tan(radians(4))
    assert round(made, 1) == pytest.approx(float(size.face_width_mm))


@pytest.mark.parametrize("size", undercuts(), ids=lambda one: f"{one.radius_mm}x{one.depth_mm}")
def test_an_undercut_is_wide_enough_to_run_out_at_fifteen_degrees(size: Undercut) -> None:
    radius, depth = float(size.radius_mm), float(size.depth_mm)
    assert float(size.width_mm) >= radius * (1 + tan(radians(7.5))) + depth / tan(radians(15))


# DIN 509's second table (recalled): what an allowance to grind adds to the width along the axis.
@pytest.mark.parametrize(
    ("grind", "longer"), [("0.1", "0.37"), ("0.15", "0.56"), ("0.2", "0.75"), ("0.3", "1.12"), ("0.5", "1.87")]
)
def test_what_grinding_adds_to_an_undercut(grind: str, longer: str) -> None:
    found = run("undercut", diameter="25 mm", to_grind=f"{grind} mm")
    assert float(found.cut_width.mm - found.width.mm) == pytest.approx(float(longer), abs=0.006)


# DIN 509's third table (recalled): the countersink of the mating part, form E then F; it is the least that clears and
# some tenths of spare.
@pytest.mark.parametrize(
    ("radius", "depth", "of_e", "of_f"),
    [("0.4", "0.2", 0.3, 0.0), ("0.6", "0.2", 0.5, 0.15), ("0.8", "0.3", 0.6, 0.05), ("1.6", "0.3", 1.4, 0.6),
        ("2.5", "0.4", 2.2, 1.0),
     ("4.0", "0.5", 3.6, 2.1)],
)  # fmt: skip
def test_the_partners_edge_that_clears_an_undercut(radius: str, depth: str, of_e: float, of_f: float) -> None:
    for form, printed in (("e", of_e), ("f", of_f)):
        found = run("undercut", diameter="50 mm", form=form, radius=f"{radius} mm", depth=f"{depth} mm")
        assert 0 <= printed - float(found.least_chamfer.mm) < 0.16


def test_a_press_lead_is_the_cube_root_of_the_diameter() -> None:
    """DIN 7190-1 (recalled): 64 mm, 4 mm, at 5° or flatter."""
    found = run(
        "interference",
        interface_diameter="64 mm",
        hub_outer="120 mm",
        length="60 mm",
        interference_min="0.03 mm",
        interference_max="0.06 mm",
    )
    assert str(found.press_lead) == "4 mm"


# Tap drills of numbered screws, about 75 % of thread: handbook tables, recalled; a neighbouring drill is as good.
@pytest.mark.parametrize(
    ("thread", "drill_in"),
    [
        ("0-80", 0.0469), ("1-64", 0.0595), ("1-72", 0.0595), ("2-56", 0.0700), ("2-64", 0.0700), ("3-48", 0.0785),
        ("3-56", 0.0820),
        ("4-40", 0.0890), ("4-48", 0.0935), ("5-40", 0.1015), ("5-44", 0.1040), ("6-32", 0.1065), ("6-40", 0.1130),
        ("8-32", 0.1360),
        ("8-36", 0.1360), ("10-24", 0.1495), ("10-32", 0.1590), ("12-24", 0.1770), ("12-28", 0.1820),
    ],
)  # fmt: skip
def test_numbered_screws_take_the_drills_of_the_handbooks(thread: str, drill_in: float) -> None:
    assert float(run("tapping", thread=thread, unit="in").drill_size.value("in")) == pytest.approx(drill_in, abs=0.0032)
