"""The members of a fit: the other one is the other one, and each has its own answer."""

from typing import get_args

import pytest

from nomisma.core.errors import NotDefined
from nomisma.core.part.feature_kinds import feature_kind
from nomisma.core.part.member import MEMBER_FEATURE, MemberKind, member_named, member_of, of_member, other_member


@pytest.mark.parametrize("kind", get_args(MemberKind))
def test_members_go_with_each_other_and_lie_on_opposite_sides(kind: MemberKind) -> None:
    other = other_member(kind)
    assert other_member(other) == kind
    assert {feature_kind(MEMBER_FEATURE[one]).material_side for one in (kind, other)} == {"external", "internal"}


@pytest.mark.parametrize("kind", get_args(MemberKind))
def test_each_has_the_answer_of_its_own(kind: MemberKind) -> None:
    assert of_member(kind, shaft="shaft", bore="bore") == kind == member_of(MEMBER_FEATURE[kind])


def test_what_is_no_member_is_told() -> None:
    with pytest.raises(NotDefined, match="Choose shaft or bore"):
        member_named("length")
    assert member_of("length") is None
