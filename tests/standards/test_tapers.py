"""Published tapers: the rate by its own large end, small end and length.

Source: self-holding Morse tapers as in handbook tables (ASME B5.10-1994, Table 1), recalled: diameter at the gauge
line, at the small end, plug depth (inch), taper per foot. Each row is checked by its redundancy: (large − small) /
length × 12 is the rate. Metric 1:20: ISO 296:1991.
"""

from decimal import Decimal

import pytest

from nomisma.core.part.taper import taper_over, taper_rate
from nomisma.core.quantity.writing import parse_length

MORSE = [
    ("1", "0.475", "0.369", "2-1/8", "0.59858"),
    ("2", "0.700", "0.572", "2-9/16", "0.59941"),
    ("3", "0.938", "0.778", "3-3/16", "0.60235"),
    ("4", "1.231", "1.020", "4-1/16", "0.62326"),
    ("5", "1.748", "1.475", "5-3/16", "0.63151"),
]


@pytest.mark.parametrize(("number", "large", "small", "length", "per_foot"), MORSE)
def test_morse_tapers_by_their_rate_meet_both_their_ends(
    number: str, large: str, small: str, length: str, per_foot: str
) -> None:
    change = taper_over(taper_rate(f"{per_foot} per foot"), parse_length(f"{length} in"))
    assert abs(change.value("in") - (Decimal(large) - Decimal(small))) < Decimal("0.0005"), number


def test_the_metric_taper_of_one_in_twenty() -> None:
    assert taper_over(taper_rate("1:20"), parse_length("80 mm")).mm == 4
    assert abs(taper_rate("2.864192°") - Decimal("0.05")) < Decimal("1e-7")  # 2°51'51", ISO 1119:2011, recalled
