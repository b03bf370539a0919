"""The steps an instrument is misread by."""

from decimal import Decimal

from nomisma.core.quantity.misread_steps import misread_steps


def test_steps_rise_and_are_said_with_their_amount() -> None:
    for unit in ("in", "mm"):
        steps = misread_steps(unit)
        assert [one.step for one in steps] == sorted(one.step for one in steps)
        for one in steps:
            assert one.unit in one.said or "inch" in one.said


def test_a_turn_of_an_inch_thimble_is_forty_to_the_inch() -> None:
    assert Decimal("0.025") in {one.step for one in misread_steps("in")}
    assert {one.mm for one in misread_steps("in") if one.step == Decimal("0.025")} == {Decimal("0.635")}


def test_a_turn_of_a_metric_thimble_is_half_a_millimetre() -> None:
    assert misread_steps("mm")[0].step == Decimal("0.5")
