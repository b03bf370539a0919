"""What a job's part lends to the worksheets of lengths: its lengths as a chain, its steps as stops, its first groove, a bore's limits."""

from decimal import Decimal

from nomisma.core.part.member import member_of, of_member
from nomisma.core.part.section import middle_mm, section_of
from nomisma.core.quantity.display import show_exact
from nomisma.jobs.state import JobState

_IN_A_CHAIN = ("length", "height", "depth", "position", "groove_width")
_OF_STEPS = ("length", "height")


def chain_text(state: JobState) -> str:
    """The lengths of the part that is made, a line each, by their letters: the longest points on, the others back.

    Where there are several of its steps, these alone: positions and grooves lie within them.
    """
    found = [
        (limits.upper_mm, one.letter, one.kind, limits)
        for one in state.made
        if one.kind in _IN_A_CHAIN and (limits := one.both_limits)
    ]
    steps = [one for one in found if one[2] in _OF_STEPS]
    found = steps if len(steps) > 1 else found
    lines = [
        f"{'- ' if index else ''}{letter} {_number(limits.lower_mm, state)}/{_size(limits.upper_mm, state)}"
        for index, (_, letter, _kind, limits) in enumerate(sorted(found, key=lambda one: -one[0]))
    ]
    return "\n".join(lines) if len(lines) > 1 else ""


def stops_text(state: JobState) -> str:
    """The steps and grooves of the part, each as a stop where it ends, counted from the left face of the section."""
    section = section_of(state.lettered)
    if section is None:
        return ""
    lines = ["face, at 0"]
    lines += [
        f"turn {one.letter}, at {_size(one.to_mm, state)}, dial {_size(one.diameter_mm, state)}" for one in section.outside
    ]
    lines += [
        f"groove {one.letters[0]}, at {_size(one.at_mm + one.width_mm, state)}, dial {_size(one.floor_diameter_mm, state)}"
        for one in section.grooves
    ]
    return "\n".join(lines) if len(lines) > 2 else ""


def largest_outside(state: JobState) -> str:
    """The largest outside of the part, in its middle; empty where none is known."""
    sizes = [size for one in state.lettered if one.feature.of_kind.name == "outside_diameter" and (size := middle_mm(one))]
    return _size(max(sizes), state) if sizes else ""


def first_groove(state: JobState) -> dict[str, str]:
    """The first groove of the part: where it begins, how wide it is, and its floor, as drawn."""
    section = section_of(state.lettered)
    if section is None or not section.grooves:
        return {}
    one = section.grooves[0]
    return {
        "position": _size(one.at_mm, state), "width": _size(one.width_mm, state), "floor": _size(one.floor_diameter_mm, state),
        "outside": _size(section.outside_at(one.at_mm), state),
    }  # fmt: skip


def bore_ends(state: JobState) -> dict[str, str]:
    """The limits of a bore that is made, for a mandrel."""
    limits = state.both_limits
    member = member_of(state.kind)
    if member is None or limits is None:
        return {}
    ends = {"bore_lower": _size(limits.lower_mm, state), "bore_upper": _size(limits.upper_mm, state)}
    return of_member(member, shaft={}, bore=ends)


def _size(mm: Decimal, state: JobState) -> str:
    return show_exact(mm, state.unit).replace("−", "-")


def _number(mm: Decimal, state: JobState) -> str:
    return _size(mm, state).rsplit(" ", 1)[0]
