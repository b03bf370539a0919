"""The diameters of the basic profile."""

from decimal import Decimal

import pytest

from nomisma.core.threads.limits import basic_minor_diameter_mm, basic_pitch_diameter_mm


@pytest.mark.parametrize(("major", "pitch"), [("8", "1.25"), ("24", "2"), ("12.7", "1.953846")])
def test_the_flanks_of_the_basic_profile_meet_at_half_the_pitch(major: str, pitch: str) -> None:
    """Source: ISO 68-1: of the sharp height H = √3/2·P an eighth is cut off outside, a quarter inside; half a pitch
    wide at the pitch line.
    """
    d, p = Decimal(major), Decimal(pitch)
    sharp = Decimal(3).sqrt() / 2 * p
    assert basic_pitch_diameter_mm(d, p) == pytest.approx(d - 2 * (sharp / 2 - sharp / 8), abs=Decimal("1e-8"))
    assert basic_minor_diameter_mm(d, p) == pytest.approx(d - 2 * (sharp - sharp / 8 - sharp / 4), abs=Decimal("1e-8"))
