"""Gears over pins against handbook table values, and against a pin laid numerically on drawn involutes."""

from math import cos, hypot, pi, radians, sin, tan

import numpy as np
import pytest
from scipy.optimize import brentq, minimize_scalar

from nomisma.core.calculation import BadInput
from nomisma.core.registry import calculation_named
from nomisma.core.truing.over_pins import OverPinsResult


def over(teeth: int, angle: float, **more: object) -> OverPinsResult:
    asked = {"teeth": teeth, "diametral_pitch": 1, "pressure_angle_deg": angle, **more}
    found = calculation_named("over_pins").run({key: value for key, value in asked.items() if value is not None})
    assert isinstance(found, OverPinsResult)
    return found


# Source: machinists' handbooks, table of measurement over 1.728-inch wires of external spur gears of 1 diametral
# pitch; recalled, not
# looked up. That recollection and formula agree to the last digit is the second check.
@pytest.mark.parametrize(
    ("teeth", "angle", "inches"),
    [(6, 14.5, 8.2846), (6, 20, 8.3032), (8, 14.5, 10.3160), (8, 20, 10.3271), (28, 14.5, 30.4374)],
)
def test_the_handbooks_wires(teeth: int, angle: float, inches: float) -> None:
    assert float(over(teeth, angle).over_pins.value("in")) == pytest.approx(inches, abs=6e-5)


def flank_miss(centre: float, base: float, half_space: float, pin: float, side: int) -> float:
    """How far a pin at `centre` up the middle of a space is from just touching its flank: nearest distance less its
    radius.
    """

    def distance(roll: float) -> float:
        radius = base * hypot(1, roll)
        turned = roll - np.arctan(roll)
        angle = half_space + side * turned  # measured from the middle of the space, at the base circle `half_space`
        return hypot(radius * sin(angle), radius * cos(angle) - centre)

    found = minimize_scalar(distance, bounds=(0.0, 1.6), method="bounded", options={"xatol": 1e-12})
    return float(found.fun) - pin / 2


@pytest.mark.parametrize("internal", [False, True])
@pytest.mark.parametrize(("teeth", "angle", "module"), [(24, 20.0, 2.0), (40, 14.5, 1.5), (31, 25.0, 3.0)])
def test_a_pin_laid_on_drawn_flanks_lies_where_it_is_computed(
    teeth: int, angle: float, module: float, internal: bool
) -> None:
    found = over(teeth, angle, diametral_pitch=None, module=f"{module} mm", internal=internal, unit="mm")
    alpha, d = radians(angle), module * teeth
    inv = tan(alpha) - alpha
    base, pin = d * cos(alpha) / 2, float(found.pin.mm)
    side = -1 if internal else 1
    half_space = (pi * module / 2) / d - side * inv
    guess = found.pin_centre_radius_mm
    centre = brentq(lambda c: flank_miss(c, base, half_space, pin, side), guess - 0.3 * module, guess + 0.3 * module)
    assert centre == pytest.approx(guess, abs=1e-4)
    across = 2 * centre * (1 if teeth % 2 == 0 else cos(pi / 2 / teeth))
    assert float(found.over_pins.mm) == pytest.approx(across + side * pin, abs=3e-4)


# Source: a second program (pin laid on the flank, Newton's method), figures recomputed here from the pin's centre.
@pytest.mark.parametrize(
    ("teeth", "pin", "internal", "jaw_bore"), [(27, "3.456 mm", False, 58.8108), (61, "3.36 mm", True, 117.3979)]
)
def test_three_pins_of_an_odd_gear_stand_on_the_pin_circle(
    teeth: int, pin: str, internal: bool, jaw_bore: float
) -> None:
    found = over(teeth, 20, diametral_pitch=None, module="2 mm", pin=pin, internal=internal, unit="mm")
    side = -1 if internal else 1
    assert float(found.jaw_bore.mm) == pytest.approx(jaw_bore, abs=1e-4)
    assert float(found.jaw_bore.mm) == pytest.approx(
        2 * found.pin_centre_radius_mm + side * float(found.pin.mm), abs=1e-4
    )
    assert found.over_pins.mm < found.jaw_bore.mm
    assert f"{found.over_pins.mm:.3f} mm, for the micrometer" in found.sentence
    assert f"circle of {found.jaw_bore.mm:.3f} mm" in found.sentence


def test_an_even_gear_has_one_size_for_micrometer_and_jaws() -> None:
    found = over(28, 20)
    assert found.jaw_bore == found.over_pins


def test_thinner_teeth_measure_more_between_pins_inside() -> None:
    """40 teeth, module 2: each tooth 0.1 mm thinner widens the space it faces."""
    found = over(40, 20, diametral_pitch=None, module="2 mm", internal=True, thinning="0.1 mm", unit="mm")
    assert float(found.over_pins.mm) == pytest.approx(75.6764, abs=1e-4)


def test_inch_and_metric_are_the_same_gear() -> None:
    inch, metric = over(30, 20, diametral_pitch=25.4), over(30, 20, diametral_pitch=None, module="1 mm")
    assert float(inch.over_pins.mm) == pytest.approx(float(metric.over_pins.mm), abs=1e-5)


def test_thinner_teeth_measure_less_over_pins() -> None:
    assert over(30, 20, thinning="0.002 in").over_pins.mm < over(30, 20).over_pins.mm


@pytest.mark.parametrize(
    ("more", "sentence"),
    [
        ({"module": "2 mm"}, "a diametral pitch or a module"),
        ({"diametral_pitch": None}, "a diametral pitch or a module"),
        ({"pin": "0.1 in"}, "does not rest in these teeth"),
        ({"diametral_pitch": 5000}, "none a lathe's chuck holds"),
    ],
)
def test_a_gear_that_is_none_has_its_sentence(more: dict[str, object], sentence: str) -> None:
    with pytest.raises(BadInput, match=sentence):
        over(28, 20, **more)


def test_a_pin_below_the_tips_is_warned_of() -> None:
    assert any("do not stand above the tips" in note for note in over(28, 20, pin="1.45 in").notes)
