"""Inch threads against the tables of ASME B1.1 as recalled."""

from decimal import Decimal

import pytest

from nomisma.core.threads.b1_1 import inch_limits
from nomisma.core.threads.called_out import thread_called_out
from nomisma.core.threads.of_class import limits_of


@pytest.mark.parametrize(
    ("text", "crest", "pitch"),
    [("1/4-20 UNC 2A", "0.2408 0.2489", "0.2127 0.2164"), ("3/8-16 UNC 2A", "0.3643 0.3737", "0.3287 0.3331"),
     ("1/2-13 UNC 2A", "0.4876 0.4985", "0.4435 0.4485"), ("3/4-10 UNC 2A", "0.7353 0.7482", "0.6773 0.6832"),
     ("1-8 UNC 2A", "0.9830 0.9980", "0.9100 0.9168"), ("1/2-20 UNF 2A", "0.4906 0.4987", "0.4619 0.4662"),
     ("10-32 UNF 2A", "0.1831 0.1891", "0.1658 0.1688"), ("5/8-11 UNC 2A", "0.6113 0.6234", "0.5589 0.5644"),
        ("7/16-14 UNC 2A", "0.4258 0.4361", "0.3850 0.3897"),
        ("9/16-12 UNC 2A", "0.5495 0.5609", "0.5016 0.5068"),
        ("7/8-9 UNC 2A", "0.8592 0.8731", "0.7946 0.8009"),
        ("1/2-13 UNC 3A", "0.4891 0.5000", "0.4463 0.4500"),
     ("1/4-20 UNC 2B", "0.196 0.207", "0.2175 0.2224"), ("3/8-16 UNC 2B", "0.307 0.321", "0.3344 0.3401"),
     ("1/2-13 UNC 2B", "0.417 0.434", "0.4500 0.4565"), ("3/4-10 UNC 2B", "0.642 0.663", "0.6850 0.6927"),
     ("1-8 UNC 2B", "0.865 0.890", "0.9188 0.9276"), ("10-32 UNF 2B", "0.156 0.164", "0.1697 0.1736"),
     ("1/2-13 UNC 3B", "0.4167 0.4284", "0.4500 0.4548")],
)  # fmt: skip
def test_inch_threads_by_their_classes(text: str, crest: str, pitch: str) -> None:
    """Source: ASME B1.1, Table of limits of size (recalled)."""
    said = thread_called_out(text, "in")
    found = limits_of(said, said.side)
    shown = [
        [format((end / Decimal("25.4")).normalize(), "f") for end in (one.lower_mm, one.upper_mm)]
        for one in (found.crest, found.pitch)
    ]
    assert [[Decimal(end) for end in ends] for ends in shown] == [
        [Decimal(end) for end in ends.split()] for ends in (crest, pitch)
    ]


def test_an_inch_class_of_a_special_is_reckoned_with_nine_pitches() -> None:
    """Source: ASME B1.1 (recalled): UNEF and UN with nine pitches of engagement, UNC and UNF with a diameter."""
    one = (Decimal("25.4"), Decimal("25.4") / 20, "2A")
    short, long = (inch_limits(*one, engaged_as_long_as_wide=wide).pitch for wide in (False, True))
    assert short.upper_mm - short.lower_mm < long.upper_mm - long.lower_mm
