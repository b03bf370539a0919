"""What a job's part lends to the worksheets of lengths: its lengths as a chain, its steps as stops, its first groove, a
bore's limits.
"""

from decimal import Decimal

from markupsafe import Markup

from nomisma.core.lengths.chain import ChainResult
from nomisma.core.part.axial_lengths import AxialLength, axial_lengths
from nomisma.core.part.feature_kinds import feature_kind
from nomisma.core.part.member import member_of, of_member
from nomisma.core.part.section import middle_mm, section_of
from nomisma.core.quantity.display import show_exact
from nomisma.jobs.standing.state import JobState
from nomisma.web.drawings.section import Span
from nomisma.web.frame.part_section import section_of_job

_OF_STEPS = feature_kind("outside_diameter").long_by


def chain_text(state: JobState) -> str:
    """Lengths of the part that is made which make a chain, a line each, by their letters: the longest points on, the
    others back.

    Its steps; where it has one alone, that and its deepest bore from a face; else that and a groove by its position.
    """
    limits = {one.letter: one.both_limits for one in state.made}
    known = [one for one in _axial_lengths(state) if limits.get(one.letter)]
    known.sort(key=lambda one: one.from_mm - one.to_mm)
    steps = [one for one in known if one.kind in _OF_STEPS or feature_kind(one.kind).is_whole]
    depths = [one for one in known if one.kind == "depth"][:1]
    position = next((one for one in known if one.kind == "position"), None)
    beside = [
        one
        for one in known
        if position and one.kind == "groove_width" and {one.from_mm, one.to_mm} & {position.from_mm, position.to_mm}
    ]
    groove = [position, *beside[:1]] if position else []
    found = steps if len(steps) > 1 else [*steps, *(depths or groove)]
    lines = [
        f"{'- ' if index else ''}{one.letter} {_number(both.lower_mm, state)}/{_size(both.upper_mm, state)}"
        for index, one in enumerate(found)
        if (both := limits[one.letter])
    ]
    return "\n".join(lines) if steps and len(lines) > 1 else ""


def _axial_lengths(state: JobState) -> list[AxialLength]:
    section = section_of(state.lettered)
    return axial_lengths(state.lettered, section) if section else []


def stops_text(state: JobState) -> str:
    """The steps and grooves of the part, each as a stop where it ends, counted from the left face of the section."""
    section = section_of(state.lettered)
    if section is None:
        return ""
    lines = ["face, at 0"]
    lines += [
        f"turn {one.letter}, at {_size(one.to_mm, state)}, dial {_size(one.diameter_mm, state)}"
        for one in section.outside
    ]
    lines += [
        f"groove {one.letters[0]}, at {_size(one.at_mm + one.width_mm, state)}, dial"
        f" {_size(one.floor_diameter_mm, state)}"
        for one in section.grooves
    ]
    return "\n".join(lines) if len(lines) > 2 else ""


def largest_outside(state: JobState) -> str:
    """The largest outside of the part, in its middle; empty where none is known."""
    sizes = [
        size for one in state.lettered if one.feature.of_kind.name == "outside_diameter" and (size := middle_mm(one))
    ]
    return _size(max(sizes), state) if sizes else ""


def first_groove(state: JobState) -> dict[str, str]:
    """The first groove of the part: where it begins, how wide it is, and its floor, as drawn."""
    section = section_of(state.lettered)
    if section is None or not section.grooves:
        return {}
    one = section.grooves[0]
    return {
        "position": _size(one.at_mm, state),
        "width": _size(one.width_mm, state),
        "floor": _size(one.floor_diameter_mm, state),
        "outside": _size(section.outside_at(one.at_mm), state),
    }


def shoulder_of(state: JobState) -> dict[str, str]:
    """Of the feature in hand: how far its shoulder lies from the face it is turned from, and from which outside down to
    its own.

    Its shoulder is where the larger outside beside it begins; the face is the part's end on the other side. A step
    between two larger ones has two, so none is said; a length that ends at no shoulder is the length alone.
    """
    section, limits = section_of(state.lettered), state.both_limits
    if section is None:
        return {}
    steps = sorted(section.outside, key=lambda one: one.from_mm)
    at = next((n for n, one in enumerate(steps) if state.letter in (one.letter, one.along_letter)), None)
    if at is None:
        long_mm = limits.aim_mm if limits and state.kind in (*_OF_STEPS, "depth") else None
        return {"length": _size(long_mm, state)} if long_mm is not None else {}
    step = steps[at]
    larger = [
        one for one in (*steps[max(at - 1, 0) : at], *steps[at + 1 : at + 2]) if one.diameter_mm > step.diameter_mm
    ]
    if not larger:
        return {}
    found = {
        "from_diameter": _size(max(one.diameter_mm for one in larger), state),
        "to_diameter": _size(step.diameter_mm, state),
    }
    if len(larger) > 1 or section.lengths_not_said:
        return found
    from_face_mm = step.to_mm if larger[0].from_mm >= step.to_mm else section.length_mm - step.from_mm
    own_mm = limits.aim_mm if limits and state.letter == step.along_letter else None
    is_at_the_face = from_face_mm == step.to_mm - step.from_mm
    return found | {"length": _size(own_mm if own_mm is not None and is_at_the_face else from_face_mm, state)}


def blank_of(state: JobState) -> dict[str, str]:
    """How long the part is, where that was said, and its largest outside, as drawn; empty where its section is not
    known.
    """
    section = section_of(state.lettered)
    if section is None:
        return {}
    sizes = {"finished_diameter": section.diameter_mm}
    if not section.lengths_not_said:
        sizes["finished_length"] = section.length_mm
    return {name: _size(mm, state) for name, mm in sizes.items()} | {"pieces": str(state.in_force.pieces_wanted)}


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


def chain_on_section(state: JobState, result: ChainResult) -> Markup:
    """The part in section with the links of a chain that are its features under it, and what is left at the end; empty
    where none are.
    """
    lies = {one.letter: one for one in _axial_lengths(state)}
    spans = tuple(
        Span(one.name, lies[one.name].from_mm, lies[one.name].to_mm, points_back=one.points_back)
        for one in result.links
        if one.name in lies
    )
    if len(spans) < 2:
        return Markup("")
    return section_of_job(state, "part", spans + (_left_over(spans) if len(spans) == len(result.links) else ()))


def _left_over(spans: tuple[Span, ...]) -> tuple[Span, ...]:
    """The one stretch of the link that points on which those that point back leave; nothing where they leave several,
    or none.
    """
    whole = [one for one in spans if not one.points_back]
    taken = sorted((one.from_mm, one.to_mm) for one in spans if one.points_back)
    if len(whole) != 1 or not taken:
        return ()
    ends = [whole[0].from_mm, *(mm for pair in taken for mm in pair), whole[0].to_mm]
    gaps = [(left, right) for left, right in zip(ends[::2], ends[1::2], strict=True) if right > left]
    return (Span("left over", *gaps[0]),) if len(gaps) == 1 else ()
