"""A callout gives a shaft its small letter and a bore its capital."""

from decimal import Decimal

import pytest

from nomisma.core.errors import InputError
from nomisma.core.fits.called_out import called_out
from nomisma.core.part.member import MemberKind


@pytest.mark.parametrize(
    ("kind", "text", "sentence"),
    [
        ("shaft", "25 H7", "names no shaft"),
        ("bore", "25 g6", "names no bore"),
        ("bore", "25 mm", "gives no limits"),
        ("shaft", "a shaft", ""),
    ],
)
def test_what_is_no_callout_of_that_member_is_refused(kind: MemberKind, text: str, sentence: str) -> None:
    with pytest.raises(InputError) as caught:
        called_out(kind, text)
    assert sentence in caught.value.sentence


def test_a_fit_gives_each_member_its_own_limits() -> None:
    hole, shaft = called_out("bore", "25 H7/g6"), called_out("shaft", "25 H7/g6")
    assert (hole.lower_mm, hole.upper_mm) == (25, Decimal("25.021"))
    assert shaft.upper_mm < hole.lower_mm
