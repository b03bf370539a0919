"""The members of a fit: the shaft and the hole it goes into, and what holds of the one and not of the other."""

from typing import TypeVar, assert_never

from nomisma.core.errors import NotDefined
from nomisma.core.part.feature_kinds import KindName, feature_kind, feature_kinds
from nomisma.core.part.requirement import Member

MemberKind = Member
T = TypeVar("T")
MEMBER_FEATURE: dict[MemberKind, KindName] = {
    kind.member: kind.name for kind in feature_kinds().values() if kind.member
}
"""Which kind of feature each member of a fit is. Source: ISO 286-1:2010, 3.2 (shaft: external, hole: internal feature
of size).
"""


def member_named(text: str, *, field: str = "kind") -> MemberKind:
    """The member of a fit by its name. Raises NotDefined. Source: ISO 286-1:2010, 3.2; without unit.

    >>> member_named("bore")
    'bore'
    """
    for kind in MEMBER_FEATURE:
        if text == kind:
            return kind
    raise NotDefined(f"“{text[:40]}” is no member of a fit.", "Choose shaft or bore.", field=field, value=text)


def member_of(kind: KindName) -> MemberKind | None:
    """Which member of a fit a kind of feature is; None of one that is no feature of size. Source: ISO 286-1:2010, 3.2;
    without unit.

    >>> member_of("outside_diameter"), member_of("bore"), member_of("depth")
    ('shaft', 'bore', None)
    """
    return feature_kind(kind).member


def spoken_of_as(kind: KindName) -> MemberKind:
    """As which member what is made of a kind is spoken of, in the words of a cut: what is opened as a bore, all else as
    a shaft.

    What no slide cuts from one side (a runout, a position) is spoken of as an outside. Source: none, wording; without
    unit.

    >>> spoken_of_as("depth"), spoken_of_as("length"), spoken_of_as("runout")
    ('bore', 'shaft', 'shaft')
    """
    side = feature_kind(kind).material_side
    match side:
        case "internal":
            return "bore"
        case "external" | "two_sided" | "upper_only":
            return "shaft"
        case _:
            assert_never(side)


def other_member(kind: MemberKind) -> MemberKind:
    """What goes with a member: a bore with a shaft, a shaft with a bore. Source: ISO 286-1:2010, 3.2; without unit.

    >>> other_member("shaft")
    'bore'
    """
    return of_member(kind, shaft="bore", bore="shaft")


def of_member(kind: MemberKind, *, shaft: T, bore: T) -> T:
    """What holds of a member, where something different holds of the other. Source: as its caller's; unit as what it is
    given.

    >>> of_member("bore", shaft="small letters", bore="capitals")
    'capitals'
    """
    match kind:
        case "shaft":
            return shaft
        case "bore":
            return bore
        case _:
            assert_never(kind)
