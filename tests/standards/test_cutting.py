"""The coach against the trade's own sequences, textbook formulae, its own honesty in simulation, and 10,000 simulated
parts.
"""

from decimal import Decimal
from math import pi
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.cutting.amount import dial_lines
from nomisma.core.cutting.learned import (
    PULL_IN_MM,
    SPREAD_OF_DEPTH,
    TOUCH_MM,
    USUAL,
    CutSeen,
    known_machine,
    learned,
)
from nomisma.core.cutting.speeds import cutting_speeds, machine_speed
from nomisma.core.practice.turned import many
from nomisma.core.registry import calculation_named

INCH = 25.4


# Common practice, no source: a sequence of diameters, 1.750, then dials of 0.100 and 0.086: each cut takes 0.010 to
# 0.016 more.
def test_the_trades_sequence_of_cuts_that_take_more_than_dialled() -> None:
    cuts = [CutSeen(0.100 * INCH, 0.114 * INCH, first=True), CutSeen(0.086 * INCH, 0.097 * INCH)]
    found = learned(cuts, reading_mm=0.001).predict(0.084 * INCH)
    low, high = (end / INCH - 0.084 for end in found.interval)
    assert 0.008 <= found.middle / INCH - 0.084 <= 0.016
    assert low < 0.012 < high


# Common practice, no source: 29.43 to 28.00 is 1.43 mm, 28.6 lines of 0.05: take 28 and look, never 29.
def test_twenty_eight_lines_and_never_twenty_nine() -> None:

    assert dial_lines(Decimal("1.43"), Decimal("0.05"), "diameter") == Decimal("28.6")
    found = calculation_named("next_cut").run(
        {
            "size": "29.43 mm",
            "lower": "27.97 mm",
            "upper": "28.03 mm",
            "dial_line": "0.05 mm",
            "finish_cut": "1 mm",
            "most_cut": "5 mm",
            "cuts": [
                {"dialled": "1 mm", "before": f"{size} mm", "after": f"{size - 1} mm"}
                for size in (33.43, 32.43, 31.43, 30.43)
            ],
            "approach": "creep",
        }
    )
    assert str(found.exact_lines) == "28.60"
    assert found.lines is not None
    assert found.lines <= 28
    assert found.lines % 1 == 0


# The update cut by cut written down a second way: generalised least squares on the prior's rows stacked over the
# cuts' own (numpy).
def test_the_posterior_is_that_of_stacked_least_squares() -> None:
    cuts = [CutSeen(1.0, 0.98, first=True), CutSeen(0.6, 0.61), CutSeen(0.3, 0.31)]  # none of them an exception
    model = learned(cuts)
    prior_spread = np.array([TOUCH_MM, USUAL.gain_spread, USUAL.spring_spread, PULL_IN_MM])
    rows, values = [np.diag(1 / prior_spread)], [np.array([0.0, USUAL.gain, USUAL.spring, 0.0]) / prior_spread]
    # The scatter is learned on the way: each cut is weighed with what was known of it then, which the models before
    # it say.
    for count, cut in enumerate(cuts, start=1):
        before = learned(cuts[: count - 1]).explanations[0]
        noise = np.sqrt(before.rate / before.shape + (SPREAD_OF_DEPTH * cut.dialled) ** 2)
        dialled, removed = (sum(getattr(one, name) for one in cuts[:count]) for name in ("dialled", "removed"))
        rows.append(np.array([[1.0, dialled, -cut.removed, count]]) / noise)
        values.append(np.array([removed]) / noise)
    wanted = np.linalg.lstsq(np.vstack(rows), np.concatenate(values), rcond=None)[0]
    assert list(model.explanations[0].mean) == pytest.approx(list(wanted), abs=1e-9)


# A tool that springs by k leaves k times the last cut standing: size = place of the tool + k·cut. Found from exact
# cuts.
@pytest.mark.parametrize("spring", [0.0, 0.1, 0.2])
def test_the_spring_of_a_tool_is_found(spring: float) -> None:
    cuts, standing = [], 0.0
    for index, dialled in enumerate([1.0, 0.2, 0.8, 0.1, 0.6, 0.3, 1.0, 0.2, 0.9, 0.15] * 4):
        removed = (dialled + standing) / (1 + spring)
        standing = spring * removed
        cuts.append(CutSeen(dialled, removed, index == 0))
    model = learned(cuts)
    assert model.spring == pytest.approx(spring, abs=0.01)
    assert model.predict(0.5).middle == pytest.approx((0.5 + standing) / (1 + spring), abs=0.004)


# The random-effects mean of DerSimonian and Laird (1986), written down with numpy for set-ups that know their gain
# equally well.
def test_what_a_machine_taught_is_the_random_effects_mean() -> None:
    gains = [1.10, 1.12, 1.14, 1.12]
    set_ups = [[CutSeen(d, d * gain, n == 0) for n, d in enumerate([0.5, 0.4, 0.6, 0.3, 0.5, 0.4])] for gain in gains]
    prior = known_machine(set_ups)
    models = [learned(one) for one in set_ups]
    alone = [1 / (1 / one.gain_spread**2 - 1 / USUAL.gain_spread**2) for one in models]
    values = [
        (one.gain / one.gain_spread**2 - USUAL.gain / USUAL.gain_spread**2) * variance
        for one, variance in zip(models, alone, strict=True)
    ]
    between = max(
        np.var([one.gain for one in models], ddof=1) - np.mean([one.gain_spread**2 for one in models]), 0.005**2
    )
    weights = [1 / (variance + between) for variance in alone]
    mean = (USUAL.gain / USUAL.gain_spread**2 + np.dot(weights, values)) / (1 / USUAL.gain_spread**2 + sum(weights))
    assert prior.gain == pytest.approx(mean, abs=1e-9)
    assert 1.10 < prior.gain < 1.14
    assert prior.gain_spread < USUAL.gain_spread


# Simulated parts to a 26 µm tolerance, default risk; a dial that may read radius, misreads, backlash, heat, spring,
# wear.
# Ten thousand of each are in docs/CUTTING.md (./nomisma benchmark approaches).
def test_over_a_thousand_parts_are_not_scrapped_and_the_intervals_are_honest() -> None:
    coach = many(1_200, "equal_cuts")
    careful, hand = (many(600, "equal_cuts", who=who) for who in ("careful_hand", "hand"))
    print(f"coach {coach}\ncareful {careful}\nhand {hand}")
    assert coach.scrap_percent < 0.5
    assert coach.in_limits_percent > 97
    assert coach.polished_percent <= 42  # 40 by ten thousand; a sample of twelve hundred scatters by two
    assert 87 <= coach.coverage_percent <= 93
    assert coach.mean_measured < careful.mean_measured
    assert coach.scrap_percent < careful.scrap_percent < hand.scrap_percent


def test_on_a_machine_it_knows_four_measurements_are_enough() -> None:
    known = many(400, "equal_cuts", known=True)
    assert known.scrap_percent < 0.5
    assert known.in_limits_percent > 97
    assert known.polished_percent <= 40
    assert known.median_measured <= 4
    assert 87 <= known.coverage_percent <= 93


@pytest.mark.parametrize("approach", ["creep", "polish"])
def test_the_intervals_are_honest_in_every_approach(approach: Any) -> None:
    found = many(900, approach)
    assert 86.5 <= found.coverage_percent <= 93.5
    assert found.scrap_percent < 0.8  # 0.5 by ten thousand; nine hundred scatter by 0.3


def rpm(**given: str) -> Any:
    return calculation_named("speeds").run(given)


# Textbook: n = 12·V/(π·d) with V in ft/min and d in inch (Machinery's Handbook and others, recalled): 100 ft/min on
# 1.5 in.
def test_spindle_speed_is_the_handbooks_formula() -> None:
    found = rpm(diameter="1.5 in", surface_m_min="30.48")
    assert found.wanted_rpm == pytest.approx(12 * 100 / (pi * 1.5), rel=1e-6)
    assert found.surface_ft_min == pytest.approx(100, rel=1e-6)


# Textbook: Rt = f²/(8·r): 0.1 mm a turn with a 0.4 mm nose leaves 3.125 µm.
def test_roughness_is_the_textbooks_formula() -> None:
    found = rpm(diameter="20 mm", feed="0.1 mm", nose_radius="0.4 mm", unit="mm")
    assert found.rt_um == pytest.approx(3.125)


@pytest.mark.parametrize(("wanted", "speed"), [(100, 75), (130, 130), (128, 130), (20, 45), (5000, 1000)])
def test_the_machine_runs_the_speed_it_has_below(wanted: float, speed: float) -> None:
    assert machine_speed(wanted, "45 75 130 210 360 600 1000") == speed
    assert machine_speed(wanted, "50-2000") == min(max(wanted, 50), 2000)


def test_the_speed_marked_on_the_chuck_is_never_passed() -> None:
    held = rpm(diameter="0.25 in", material="brass", speeds="45 130 360 1000", most_rpm="500")
    assert held.rpm == 360
    with pytest.raises(BadInput, match="above the 30 rpm marked"):
        rpm(diameter="1 in", speeds="45 130", most_rpm="30")


def test_as_the_work_gets_smaller_it_says_when_to_speed_up() -> None:
    found = rpm(diameter="40 mm", material="mild_steel", speeds="130 210 360 600", unit="mm")
    assert found.rpm == 210
    assert float(found.speed_up_below.mm) == pytest.approx(30_000 / (pi * 360), abs=0.01)


def test_speeds_are_of_the_handbooks_order() -> None:
    """Handbook ranges for high-speed steel (recalled): free metals fast, tough ones slow; carbide two and a half times
    or more.
    """
    table = cutting_speeds()
    assert 20 <= table["mild_steel"].hss_m_min <= 40
    assert table["stainless_304"].hss_m_min < table["mild_steel"].hss_m_min < table["brass"].hss_m_min
    assert all(2 <= one.carbide_m_min / one.hss_m_min <= 6 for one in table.values())


@pytest.mark.parametrize("text", ["fast", "60 -5", "2000-50", "0 10"])
def test_speeds_that_are_none_have_their_sentence(text: str) -> None:
    with pytest.raises(BadInput, match="is no (list|range) of speeds"):
        rpm(diameter="1 in", speeds=text)


def test_a_material_that_is_none_has_its_sentence() -> None:
    with pytest.raises(BadInput, match="no work material “cheese”"):
        rpm(diameter="1 in", material="cheese")


def bent(**given: str) -> Any:
    return calculation_named("deflection").run(
        {"diameter": "20 mm", "overhang": "100 mm", "force_n": 200, "unit": "mm", **given}
    )


# The beam's own differential equation solved by scipy: E·I·w'' = M(x), a cantilever with a force at its end, and one
# propped at its end.
@pytest.mark.parametrize("propped", [False, True])
def test_the_bending_is_that_of_the_beams_equation(propped: bool) -> None:
    from scipy.integrate import solve_bvp

    length, force, stiffness = 100.0, 200.0, 205_000 * pi * 20**4 / 64
    if not propped:
        x = np.linspace(0, length, 50)
        found = solve_bvp(
            lambda x, w: np.vstack([w[1], force * (length - x) / stiffness]),
            lambda a, _: np.array([a[0], a[1]]),
            x,
            np.zeros((2, 50)),
        )
        assert float(bent().deflection.mm) == pytest.approx(float(found.sol(length)[0]), rel=2e-3)
        return
    # Fixed at the chuck, supported by the centre, the tool where it gives most.
    worst = 0.0
    for at in np.linspace(0.3, 0.9, 61) * length:
        b, a = length - at, at
        reaction = force * a**2 * (3 * length - a) / (2 * length**3)  # at the centre; beam tables' statics
        moment = force * a - reaction * length
        deflection = (moment * a**2 / 2 - (force - reaction) * a**3 / 6) / stiffness
        worst = max(worst, abs(deflection))
        assert b >= 0
    assert float(bent(hold="chuck_and_centre").deflection.mm) == pytest.approx(worst, abs=5e-5)


def test_a_centre_and_a_shorter_overhang_help() -> None:
    assert bent(hold="chuck_and_centre").deflection.mm < bent().deflection.mm / 10
    assert bent(overhang="50 mm").deflection.mm < bent().deflection.mm / 7
    assert "more than three asks for a centre" in bent().sentence
    assert bent(overhang="50 mm").rule_kept
    with pytest.raises(BadInput, match="not smaller than the round"):
        bent(bore="30 mm")


# Common practice, no source: 39/64 before a 5/8 reamer; 0.116 before 0.126; 1/64 from half an inch up.
@pytest.mark.parametrize(
    ("finished", "drill_in", "within"),
    [("0.625 in", 0.609375, 1e-6), ("0.126 in", 0.116, 0.0005), ("0.5 in", 0.484375, 0.0004)],
)
def test_the_drill_before_a_reamer(finished: str, drill_in: float, within: float) -> None:
    found = calculation_named("hole").run({"finished": finished})
    assert float(found.drill.size.value("in")) == pytest.approx(drill_in, abs=within)


def test_a_bar_is_left_metal_and_a_drill_near_size_is_refused() -> None:
    found = calculation_named("hole").run({"finished": "0.8758 in", "method": "bore", "measured_drill": "0.8725 in"})
    assert found.measured_ok is False
    assert "it leaves nothing" in found.sentence
    assert found.drill.leaves_least.value("in") > 0.02
    assert found.pilot is not None
    deep = calculation_named("hole").run({"finished": "0.25 in", "depth": "3 in"})
    assert "four diameters deep" in deep.advice[-1]
    with pytest.raises(BadInput, match="No twist drill"):
        calculation_named("hole").run({"finished": "4 in"})


def asked(name: str, inputs: dict[str, str]) -> Any:
    return calculation_named(name).run(inputs)


# Geometry, a second way: the flank is a straight line from the tip; the wall is a circle; the least relief at which
# no point of the
# flank lies outside the circle, found by looking at many points.
@pytest.mark.parametrize(("hole", "heel"), [(20.0, 3.0), (12.0, 4.0), (50.0, 10.0)])
def test_the_relief_a_heel_needs_is_where_the_flank_just_leaves_the_wall(hole: float, heel: float) -> None:
    found = asked(
        "boring_bar",
        {
            "hole": f"{hole} mm",
            "depth": "20 mm",
            "bar_diameter": f"{hole / 2:.3f} mm",
            "across": f"{hole * 0.7:.3f} mm",
            "overhang": "30 mm",
            "heel": f"{heel} mm",
            "unit": "mm",
        },
    )
    down = np.linspace(0, heel, 4001)
    radius = hole / 2

    def free(relief_deg: float) -> bool:
        x = radius - down * np.tan(np.radians(relief_deg))
        return bool(np.all(np.hypot(x, down) <= radius + 1e-9))

    angles = np.arange(0, 60, 0.01)
    least = next(angle for angle in angles if free(float(angle)))
    assert found.relief_needed_deg == pytest.approx(least, abs=0.02)


# Clearance, a second way: every point of the bar's circle stays inside the hole's.
@given(st.floats(10, 60), st.floats(0.2, 0.8), st.floats(0.0, 0.3))
def test_what_is_behind_the_bar_is_the_distance_of_two_circles(hole: float, thick: float, tip: float) -> None:
    bar, across = round(hole * thick, 3), round(hole * (thick + tip), 3)
    found = asked(
        "boring_bar",
        {
            "hole": f"{hole:.3f} mm",
            "depth": "20 mm",
            "bar_diameter": f"{bar} mm",
            "across": f"{across} mm",
            "overhang": "30 mm",
            "unit": "mm",
        },
    )
    around = np.linspace(0, 2 * np.pi, 721)
    radius = round(hole, 3) / 2
    middle = radius - across + bar / 2
    back = np.min(middle + bar / 2 * np.cos(around))
    assert float(found.behind.mm) == pytest.approx(radius + back, abs=1e-3)


# Source: handbook tables of the number and letter drills, recalled (not through the project's own list).
@pytest.mark.parametrize(
    ("name", "inch"),
    [("#1", "0.228"), ("#7", "0.201"), ("#10", "0.1935"), ("#21", "0.159"), ("#29", "0.136"), ("#36", "0.1065"),
        ("#60", "0.040"),
     ("#80", "0.0135"), ("letter A", "0.234"), ("letter F", "0.257"), ("letter I", "0.272"), ("letter Q", "0.332"),
     ("letter U", "0.368"),
     ("letter Z", "0.413")],
)  # fmt: skip
def test_numbers_and_letters_are_the_handbooks(name: str, inch: str) -> None:
    found = asked("drill_sizes", {"size": f"{inch} in"})
    assert name in {one.name for one in found.row if abs(one.over.mm) < Decimal("0.0001")}


# Source: handbook formula, feed for a finish: Ra = f²/(32·r). A nose of 1/32 in at 0.005 in a turn leaves 25 µin.
def test_the_feed_for_a_finish_is_the_handbooks() -> None:
    found = asked("speeds", {"diameter": "1 in", "nose_radius": "0.03125 in", "ra_um": "0.635"})
    assert float(found.feed_for_ra.mm) / 25.4 == pytest.approx(0.005, rel=0.01)


# Geometry of a slide at an angle: the compound at 60° from the axis moves the tool half its travel along, at 84.26° a
# tenth.
@pytest.mark.parametrize(("degrees", "share"), [("0", 1.0), ("60", 0.5), ("84.2608", 0.1)])
def test_a_compound_moves_along_by_the_cosine(degrees: str, share: float) -> None:
    found = asked("facing", {"measured": "26 mm", "wanted": "25 mm", "line": "0.02 mm", "compound_deg": degrees})
    assert float(found.line_takes.mm) == pytest.approx(0.02 * share, rel=1e-5)
