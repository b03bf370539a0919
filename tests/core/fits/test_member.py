"""A callout gives a shaft its small letter and a bore its capital, and the other member is the other one."""

from decimal import Decimal
from typing import get_args

import pytest

from nomisma.core.errors import InputError
from nomisma.core.fits.member import MEMBER_FEATURE, MemberKind, called_out, other_member
from nomisma.core.part.feature_kinds import feature_kind


@pytest.mark.parametrize("kind", get_args(MemberKind))
def test_members_go_with_each_other_and_lie_on_opposite_sides(kind: MemberKind) -> None:
    other = other_member(kind)
    assert other_member(other) == kind
    assert {feature_kind(MEMBER_FEATURE[one]).material_side for one in (kind, other)} == {"external", "internal"}


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
