"""The four-jaw against numpy's Fourier transform, a least-squares circle, geometry, and 10,000 simulated chucks."""

from collections import Counter
from collections.abc import Sequence
from decimal import Decimal
from functools import partial
from math import asin, cos, hypot, pi, radians, sin
from random import Random

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import least_squares

from nomisma.core.practice.chuck import SimulatedChuck
from nomisma.core.practice.follow import follow
from nomisma.core.practice.levels import Level, level_named
from nomisma.core.quantity.length import Length
from nomisma.core.truing.four_jaw import TrueUpInput, true_up
from nomisma.core.truing.harmonics import taken_apart
from nomisma.core.truing.seen import Stop, seen_round
from nomisma.core.truing.three_jaw import ThreeJawInput, three_jaw
from nomisma.core.truing.throw import ThrowInput, throw
from nomisma.core.truing.tilt import TiltInput, tilt


def lengths(values: Sequence[float]) -> list[Length]:
    return [Length(Decimal(f"{value:.9f}")) for value in values]


def angles(n: int) -> np.ndarray:
    return np.arange(n) * 2 * pi / n


rounds = st.integers(1, 6).flatmap(lambda k: st.lists(st.floats(-1, 1), min_size=4 * k, max_size=4 * k))


@given(rounds)
def test_offset_and_shapes_are_those_of_numpys_transform(values: list[float]) -> None:
    n = len(values)
    found = taken_apart(list(np.degrees(angles(n))), values)
    spectrum = np.fft.rfft(values) / n
    assert found.mean == pytest.approx(spectrum[0].real, abs=1e-12)
    assert complex(found.cosine, -found.sine) == pytest.approx(2 * spectrum[1], abs=1e-12)
    for shape in found.shapes:
        share = 1 if 2 * shape.number == n else 2
        assert shape.amplitude == pytest.approx(abs(share * spectrum[shape.number]), abs=1e-9)


@pytest.mark.parametrize("at", [[0, 80, 170, 260, 300], [10, 20, 200, 250]])
def test_an_uneven_round_is_numpys_least_squares(at: list[float]) -> None:
    values = [0.1, 0.4, -0.2, 0.3, 0.0][: len(at)]
    columns = np.column_stack([np.ones(len(at)), np.cos(np.radians(at)), np.sin(np.radians(at))])
    wanted = np.linalg.lstsq(columns, np.array(values), rcond=None)[0]
    found = taken_apart(at, values)
    assert [found.mean, found.cosine, found.sine] == pytest.approx(list(wanted), abs=1e-9)


# A round bar off centre: what a needle says is the distance of the surface along its line, not an exact cosine. The
# offset found from it
# against a least-squares circle through the same points (scipy): 0.5 mm off on 50 mm.
@pytest.mark.parametrize("n", [4, 8, 12, 24])
def test_the_offset_is_that_of_a_least_squares_circle(n: int) -> None:
    radius, x, y = 25.0, 0.4, -0.3
    reach = [x * cos(a) + y * sin(a) + np.sqrt(radius**2 - (x * sin(a) - y * cos(a)) ** 2) for a in angles(n)]
    points = np.array([[r * cos(a), r * sin(a)] for r, a in zip(reach, angles(n), strict=True)])

    def misses(p: np.ndarray) -> np.ndarray:
        return np.hypot(points[:, 0] - p[0], points[:, 1] - p[1]) - p[2]

    circle = least_squares(misses, [0.0, 0.0, 20.0]).x
    found = true_up(
        TrueUpInput(readings=lengths(reach), target="0.01 mm", screw_lead="3 mm", graduation="0.01 mm", unit="mm")
    )
    assert (found.offset_x_mm, found.offset_y_mm) == pytest.approx((circle[0], circle[1]), abs=1e-4)
    assert (circle[0], circle[1]) == pytest.approx((x, y), abs=1e-6)


def total_indicator_reading_at(readings: list[str], **more: object) -> object:
    given = {"readings": readings, "target": "0.0005 in", "screw_lead": "0.125 in", "graduation": "0.0005 in", **more}
    return true_up(TrueUpInput.model_validate(given))


# Common practice, no source: the path of a truing, TIR in inches; each round's offset is half of what it swings.
@pytest.mark.parametrize("total_indicator_reading", ["0.016", "0.008", "0.0025"])
def test_the_move_is_half_the_swing(total_indicator_reading: str) -> None:
    found = total_indicator_reading_at(
        [
            f"{total_indicator_reading} in",
            f"{float(total_indicator_reading) / 2} in",
            "0 in",
            f"{float(total_indicator_reading) / 2} in",
        ]
    )
    (move,) = found.moves
    assert float(move.move.value("in")) == pytest.approx(float(total_indicator_reading) / 2)
    assert (move.ease_jaw, move.drive_jaw) == (3, 1)
    assert move.turns == pytest.approx(float(total_indicator_reading) / 2 / 0.125)


def test_at_half_a_thou_it_is_true() -> None:
    assert total_indicator_reading_at(["0.0005 in", "0.0003 in", "0 in", "0.0002 in"]).stop is Stop.TRUE


@given(st.floats(0.01, 1), st.floats(0, 359), st.sampled_from(["outside", "bore"]))
def test_the_move_that_is_advised_brings_the_work_to_the_centre(offset: float, towards: float, surface: str) -> None:
    x, y = offset * cos(radians(towards)), offset * sin(radians(towards))
    sense = 1 if surface == "outside" else -1
    readings = [sense * (x * cos(a) + y * sin(a)) for a in angles(4)]
    found = true_up(
        TrueUpInput.model_validate(
            {
                "readings": lengths(readings),
                "surface": surface,
                "target": "0.001 mm",
                "screw_lead": "3 mm",
                "graduation": "0.0001 mm",
                "unit": "mm",
            }
        )
    )
    for move in found.moves:
        push = float(move.move.mm)
        way = {1: (-1, 0), 2: (0, -1), 3: (1, 0), 4: (0, 1)}[move.drive_jaw]  # a driven jaw pushes away from itself
        x, y = x + push * way[0], y + push * way[1]
    assert hypot(x, y) < 0.001


def work_for_the_test(swing_of_oval_mm: float) -> Level:
    """A start anywhere within 1 mm, a needle with noise of a fifth of its 0.01 mm line, a worn screw; true to
    0.02 mm.
    """
    return level_named("round_bar").model_copy(
        update={
            "offset_mm": 1.0,
            "noise_mm": 0.002,
            "hysteresis_mm": 0.001,
            "backlash_mm": 0.03,
            "waves": ((2, swing_of_oval_mm),),
        }
    )


def test_from_any_start_within_a_millimetre_three_rounds_are_enough_in_95_of_100() -> None:
    """The practice chuck, four readings, the hand off by up to a tenth: 4,000 runs, from round to oval by twice what is
    wanted.
    """
    good, used, stopped = 0, Counter[int](), Counter[str]()
    for run in range(4_000):
        hand = Random(run)
        chuck = SimulatedChuck(work_for_the_test(0.01 * (run % 5)), run)
        found = follow(chuck, partial(hand.uniform, 0.9, 1.1), most_rounds=3)
        used[found.rounds] += 1
        stopped[found.stop.value] += 1
        # Within what was wanted, or the offset is, and what is left is the work's own shape.
        good += found.total_indicator_reading_mm <= 0.02 or 2 * found.offset_mm <= 0.02
    print(
        f"within target or at the shape floor {good / 40:.2f} %; rounds moved {dict(sorted(used.items()))}; ended"
        f" {dict(stopped)}"
    )
    assert good >= 3_800


# Geometry, by another way: three jaw tips at 120°, one of them packed, and the circle through them found numerically.
@pytest.mark.parametrize(("diameter", "offset"), [(40.0, 3.0), (25.4, 0.5), (100.0, 20.0)])
def test_the_packing_gives_the_throw(diameter: float, offset: float) -> None:
    found = throw(ThrowInput(throw=f"{offset} mm", diameter=f"{diameter} mm", unit="mm"))
    packing, radius = float(found.packing.mm), diameter / 2

    def misses(p: np.ndarray) -> list[float]:
        jaw, x = p
        tips = [(jaw - packing, 0.0), *[(jaw * cos(a), jaw * sin(a)) for a in (2 * pi / 3, -2 * pi / 3)]]
        return [hypot(tip[0] - x, tip[1]) - radius for tip in tips[:2]]

    jaw, x = least_squares(misses, [radius, 0.0]).x
    assert abs(x) == pytest.approx(offset, rel=1e-4)
    assert jaw > radius


@given(st.floats(0.0001, 0.01), st.floats(0, 359))
def test_face_runout_and_tilt_are_one_number(lean: float, towards: float) -> None:
    """Sine of the tilt against the face's swing at a radius, and against two circles a distance apart."""
    radius, distance = 30.0, 80.0
    way = radians(towards)
    face = [-radius * lean * cos(a - way) for a in angles(8)]
    far = [lean * distance * cos(a - way) for a in angles(8)]
    rest = {"length": "50 mm", "target": "0.01 mm", "graduation": "0.001 mm", "unit": "mm"}
    by_face = tilt(TiltInput.model_validate({"face": lengths(face), "face_radius": f"{radius} mm", **rest}))
    by_circles = tilt(
        TiltInput.model_validate(
            {"near": lengths([0.0] * 8), "far": lengths(far), "distance": f"{distance} mm", **rest}
        )
    )
    assert by_face.lean == pytest.approx(by_circles.lean, rel=1e-4)
    total_indicator_reading = max(face) - min(face)
    assert asin(min(by_face.lean, 1)) == pytest.approx(lean, rel=1e-3)
    assert total_indicator_reading <= 2 * radius * by_face.lean * 1.001


@pytest.mark.parametrize("count", [4, 8, 12, 24])
def test_the_doubt_of_a_shape_is_what_noise_alone_swings_by(count: int) -> None:
    """Source: simulation with numpy, 40,000 rounds; the 95 % point of the residuals' range, within 2 %."""
    angles = np.arange(count) * 2 * np.pi / count
    fitted = np.c_[np.ones(count), np.cos(angles), np.sin(angles)]
    left = np.random.default_rng(7).standard_normal((40_000, count)) @ (np.eye(count) - fitted @ np.linalg.pinv(fitted))
    simulated = float(np.quantile(np.ptp(left, axis=1), 0.95))
    seen = seen_round(np.degrees(angles).tolist(), [0.0] * count, sense=1, drift=(0.0, 0.0), noise=1.0)
    assert seen.shape_uncertainty == pytest.approx(simulated, rel=0.02)


# A three-jaw by its tips: three points at 120° and equal radius but for what each is worn or packed by; the circle
# through them is solved
# for by scipy. What the advice packs must bring it to the centre. Source: geometry, a second way.
def centre_on_tips(short: Sequence[float], radius: float) -> tuple[float, float]:
    """Where a round of a radius stands between three tips that are each so much nearer to the axis than the scroll has
    them.
    """

    def missed(unknown: np.ndarray) -> list[float]:
        x, y, scroll = unknown
        tips = [(scroll - short[k]) * np.array([cos(2 * pi * k / 3), sin(2 * pi * k / 3)]) for k in range(3)]
        return [hypot(tip[0] - x, tip[1] - y) - radius for tip in tips]

    x, y, _ = least_squares(missed, [0.0, 0.0, radius], xtol=1e-15, ftol=1e-15, gtol=1e-15).x
    return float(x), float(y)


@given(st.lists(st.floats(0, 0.2), min_size=3, max_size=3), st.floats(8, 80))
def test_the_packing_of_a_three_jaw_brings_a_worn_scroll_to_the_centre(worn: list[float], radius: float) -> None:
    x, y = centre_on_tips(worn, radius)
    rays = [2 * pi * k / 3 for k in range(3)]
    along = [x * cos(at) + y * sin(at) + (radius**2 - (x * sin(at) - y * cos(at)) ** 2) ** 0.5 - radius for at in rays]
    found = three_jaw(
        ThreeJawInput(readings=lengths(along), target=Length.of("0.0001", "mm"), graduation=Length.of("0.0001", "mm"))
    )
    packed = list(worn)
    for one in found.packings:
        packed[one.jaw - 1] += float(one.thick.mm)
    before, after = hypot(x, y), hypot(*centre_on_tips(packed, radius))
    assert after < max(0.0140, before * 0.05)  # two thirds of the thinnest strip, which is left out


def test_the_packing_of_a_three_jaw_is_that_of_a_throw_while_it_is_small() -> None:
    thrown = throw(ThrowInput(throw="0.1 mm", diameter="60 mm", unit="mm"))
    found = three_jaw(
        ThreeJawInput(
            readings=lengths([0.1, -0.05, -0.05]), target=Length.of("0.01", "mm"), graduation=Length.of("0.001", "mm")
        )
    )
    assert float(found.packings[0].thick.mm) == pytest.approx(float(thrown.packing.mm), abs=0.0002)
