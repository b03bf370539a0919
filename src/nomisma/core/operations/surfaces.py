"""What has to be cut of a part: its surfaces from the section, and from which end each can be reached."""

import re
from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Literal

from nomisma.core.errors import InputError
from nomisma.core.part.axial_lengths import axial_lengths
from nomisma.core.part.feature_kinds import feature_kind
from nomisma.core.part.hole_making import HoleMaking, making_of
from nomisma.core.part.lettered import LetteredFeature
from nomisma.core.part.section import Section, middle_mm
from nomisma.core.part.section_shapes import Cylinder, Groove
from nomisma.core.part.taper import taper_rate
from nomisma.core.threads.called_out import thread_called_out

End = Literal["right", "left"]
ENDS: tuple[End, End] = ("right", "left")
SurfaceKind = Literal[
    "outside",
    "bore",
    "taper",
    "groove",
    "v_groove",
    "face_groove",
    "edge",
    "thread",
    "inside_thread",
    "tapped",
    "knurl",
    "undercut",
]
"""What a lathe cuts in one go; each kind answers in core/operations/operations.py for how it is cut (`cutting_of`)."""


@dataclass(frozen=True, slots=True)
class Surface:
    """One surface: the letters it answers for, where it lies (mm from the left face), its diameter (mm) and the ends it
    can be cut from.

    `true_to`: the letter of what it must be true to. `lies_in`: of a groove, a taper or an edge, the outside it is cut
    in; an edge that is said of no outside stands at both ends. `thread`: of a thread and of the hole that is tapped,
    its callout. `hole`: how a hole is made. `throw_mm`: how far its axis lies off the part's.
    """

    kind: SurfaceKind
    letters: tuple[str, ...]
    from_mm: Decimal
    to_mm: Decimal
    diameter_mm: Decimal
    ends: frozenset[End]
    true_to: str = ""
    lies_in: str = ""
    thread: str = ""
    hole: HoleMaking = "bored"
    throw_mm: Decimal = Decimal(0)

    @property
    def letter(self) -> str:
        """The letter it is called by."""
        return self.letters[0]

    @property
    def from_both_ends(self) -> bool:
        """Whether either end reaches it; of a bore, that it goes through."""
        return len(self.ends) == 2

    @property
    def length_mm(self) -> Decimal:
        """How long it is along the axis, mm."""
        return self.to_mm - self.from_mm


def surfaces_of(features: Iterable[LetteredFeature], section: Section) -> list[Surface]:
    """The surfaces a lathe cuts: outsides, bores, grooves, tapers, edges; mm. Source: geometry.

    An outside is reached from an end where nothing between is larger; a bore where every bore between is at least as
    large, to an open face.

    >>> from nomisma.core.part.feature import Feature
    >>> from nomisma.core.part.section import section_of
    >>> plain = [LetteredFeature("A", Feature("outside_diameter", Decimal(20), Decimal(20))),
    ...          LetteredFeature("B", Feature("length", Decimal(30), Decimal(30)))]
    >>> [(one.letter, sorted(one.ends)) for one in surfaces_of(plain, section_of(plain))]
    [('A', ['left', 'right'])]
    """
    known = list(features)
    true_to = {one.letter: one.true_to for one in known}
    whole = whole_letter(known, section)
    left = {one.letter for one in known if one.is_left_as_it_is}
    turned = {one.letter for one in known if one.feature.of_kind.cut_as == "outside"}
    found = [
        _surface("outside", step, outside_ends(step, section), true_to, whole)
        for step in section.outside
        if step.letter in turned  # the others have their metal there
    ]
    found += _eccentric(section)
    found += _necks(section, turned, true_to, whole)
    found += [_surface("bore", bore, bore_ends(bore, section), true_to, whole) for bore in section.bores]
    of_letters: dict[tuple[str, ...], list[Groove]] = {}
    for groove in section.grooves:
        of_letters.setdefault(groove.letters, []).append(groove)
    for row in of_letters.values():
        groove, last = row[0], row[-1]
        host = next((one for one in section.outside if one.holds(groove.at_mm)), section.outside[-1])
        ends, far_mm = outside_ends(host, section), last.at_mm + last.width_mm
        found.append(
            Surface(
                "groove" if groove.angle_deg is None else "v_groove",
                groove.letters,
                groove.at_mm,
                far_mm,
                groove.floor_diameter_mm,
                ends,
                true_to.get(groove.letters[0], ""),
                host.letter,
            )
        )
    found += _face_grooves(section, true_to)
    found = _with_what_is_cut_on_them(_off_centre(found, section), known, left)
    found += [taper for one, host in _tapers(known, section) if (taper := _taper(one, host, section, true_to))]
    found = _with_fillets(found, known, section)
    found += _undercuts(known, section)
    found += _edges(known, section)
    return [one for one in found if one.ends]


def _eccentric(section: Section) -> Iterator[Surface]:
    """The outside turned off centre, where there is one; of several nobody said how they stand to each other."""
    for one in section.eccentrics if len(section.eccentrics) == 1 else ():
        step = next(each for each in section.outside if each.letter == one.letters[0])
        ends = outside_ends(step, section)
        yield Surface("outside", one.letters, one.from_mm, one.to_mm, one.diameter_mm, ends, throw_mm=one.throw_mm)


def _off_centre(found: list[Surface], section: Section) -> list[Surface]:
    """The surfaces, the holes of the eccentric on its axis; those of several eccentrics are not planned."""
    throws = {letter: one.throw_mm for one in section.eccentrics for letter in one.holes}
    return [
        replace(one, throw_mm=throws.get(one.letter, one.throw_mm))
        for one in found
        if one.letter not in throws or len(section.eccentrics) == 1
    ]


def _necks(section: Section, turned: Collection[str], true_to: Mapping[str, str], whole: str) -> Iterator[Surface]:
    """The outsides that no end reaches past what is larger: cut as grooves, in the larger of the two that they lie
    between.
    """
    steps = section.outside
    for place, step in enumerate(steps):
        if step.letter not in turned or outside_ends(step, section):
            continue
        left = next((one for one in steps[:place][::-1] if outside_ends(one, section)), None)
        right = next((one for one in steps[place + 1 :] if outside_ends(one, section)), None)
        beside = [one for one in (left, right) if one is not None and one.letter in turned]
        host = max(beside, key=lambda one: one.diameter_mm, default=None)
        if host is not None:
            made = _surface("groove", step, outside_ends(host, section), true_to, whole)
            yield replace(made, lies_in=host.letter)


def _face_grooves(section: Section, true_to: Mapping[str, str]) -> Iterator[Surface]:
    """Each groove in a face, from the end whose face it is in."""
    for one in section.face_grooves:
        ends = _ends(one.to_mm == section.length_mm, one.from_mm == 0)
        runs_with = true_to.get(one.letters[0], "")
        yield Surface("face_groove", one.letters, one.from_mm, one.to_mm, one.outer_mm, ends, runs_with)


def _with_fillets(found: list[Surface], known: Sequence[LetteredFeature], section: Section) -> list[Surface]:
    """The surfaces, each with the letters of the fillets at its shoulder: the tool that finishes it leaves them.

    A fillet that is said of no diameter stands at every shoulder, and goes by the first that has one.
    """
    for one in known:
        if one.feature.of_kind.cut_as != "fillet":
            continue
        hosts = [surface for surface in found if _has_corner(surface, section)]
        said = [surface for surface in hosts if surface.letter == one.along.on]
        host = next(iter(said or ([] if one.along.on else hosts)), None)
        if host is not None:
            found[found.index(host)] = replace(host, letters=(*host.letters, one.letter))
    return found


def _has_corner(surface: Surface, section: Section) -> bool:
    """Whether a diameter ends at a shoulder: an outside beside a larger one, a bore that does not go through."""
    if surface.kind == "bore":
        return not surface.from_both_ends
    beside = [one for one in section.outside if one.to_mm == surface.from_mm or one.from_mm == surface.to_mm]
    return surface.kind == "outside" and any(one.diameter_mm > surface.diameter_mm for one in beside)


def _undercuts(known: Sequence[LetteredFeature], section: Section) -> Iterator[Surface]:
    """Each undercut at a shoulder, in the smaller of the two outsides that meet there; one that is said to lie on an
    outside, in that.
    """
    for one in known:
        if one.feature.of_kind.cut_as != "undercut":
            continue
        at_mm = (one.along.extent_mm(Decimal(0), section.length_mm, {}) or (None,))[0] if one.along.starts else None
        meeting = [
            step for step in section.outside if at_mm in (step.from_mm, step.to_mm) or step.letter == one.along.on
        ]
        host = min(meeting, key=lambda step: step.diameter_mm, default=None)
        if host is not None:
            where = at_mm if at_mm is not None else host.from_mm
            ends = outside_ends(host, section)
            yield Surface("undercut", (one.letter,), where, where, host.diameter_mm, ends, one.true_to, host.letter)


def _edges(known: Sequence[LetteredFeature], section: Section) -> Iterator[Surface]:
    """The edges of each outside they are said of; those of none, or of one from face to face, together at both ends."""
    steps = {step.letter: step for step in section.outside if step.from_mm > 0 or step.to_mm < section.length_mm}
    letters: dict[str, list[str]] = {}
    for one in known:
        if one.feature.kind == "countersink":
            yield from _countersink(one, section)
        elif one.feature.of_kind.cut_as == "edge":
            letters.setdefault(one.along.on if one.along.on in steps else "", []).append(one.letter)
    for host, own in letters.items():
        if host:
            step = steps[host]
            faces: dict[End, bool] = {"left": step.from_mm == 0, "right": step.to_mm == section.length_mm}
            ends = frozenset(end for end, there in faces.items() if there) or outside_ends(step, section)
            yield Surface("edge", tuple(own), step.from_mm, step.to_mm, step.diameter_mm, ends, lies_in=host)
        else:
            yield Surface("edge", tuple(own), Decimal(0), section.length_mm, section.diameter_mm, frozenset(ENDS))


def _countersink(one: LetteredFeature, section: Section) -> Iterator[Surface]:
    """The mouth of the hole it is said of, else of the widest that it opens; at the end that is said, else where a
    blind hole comes in, else on the right.
    """
    opens_mm = middle_mm(one) or Decimal(0)
    narrower = [bore for bore in section.bores if bore.diameter_mm < opens_mm]
    named = [bore for bore in narrower if bore.letter == one.along.on]
    hole = max(named or ([] if one.along.on else narrower), key=lambda bore: bore.diameter_mm, default=None)
    if hole is None:
        return
    said = [end for end in ENDS if end == one.along.face]
    ends = frozenset([*said, *(end for end in ENDS if end in bore_ends(hole, section))][:1])
    yield Surface("edge", (one.letter,), hole.from_mm, hole.to_mm, hole.diameter_mm, ends, lies_in=hole.letter)


LARGEST_TAPPED_MM = Decimal(16)
"""A larger inside thread is cut with a tool, not tapped: no hand turns such a tap true. Source: common practice, no
source (M16, 5/8).
"""


def _with_what_is_cut_on_them(
    found: list[Surface], known: Sequence[LetteredFeature], left: Collection[str]
) -> list[Surface]:
    """The surfaces, and threads and knurls cut on them; a hole that is tapped knows for which thread it is drilled.

    `left`: the letters of what is left as it is, which is not cut, though something on it may be.
    """
    hosts = {one.letter: one for one in found if one.kind in ("outside", "bore")}
    cut = []
    for one in known:
        host = hosts.get(one.along.on)
        kind = _cut_on(one, host) if host is not None else None
        if host is None or kind is None:
            continue
        callout = thread_called_out(one.written).words if kind != "knurl" else ""
        cut.append(
            replace(host, kind=kind, letters=(one.letter,), true_to=one.true_to, lies_in=host.letter, thread=callout)
        )
    tapped = {one.lies_in: one.thread for one in cut if one.kind == "tapped"}
    said = {one.letter: making_of(one.written)[0] for one in known}
    made: list[Surface] = []
    for surface in found:
        making: HoleMaking = "tapped" if surface.letter in tapped else said[surface.letter]
        if surface.letter not in left:
            made.append(replace(surface, hole=making, thread=tapped.get(surface.letter, "")))
    return [*made, *cut]


def _cut_on(one: LetteredFeature, host: Surface) -> SurfaceKind | None:
    """What is cut on a surface for a feature that lies on it: a thread of its side, a knurl on an outside; None of
    anything else.
    """
    kind = one.feature.of_kind
    if kind.cut_on != host.kind:
        return None
    if kind.cut_as == "knurl":
        return "knurl"
    if host.kind == "outside":
        return "thread"
    said = thread_called_out(one.written)
    is_tapped = said.thread.diameter_mm <= LARGEST_TAPPED_MM and said.starts == 1 and not said.is_free
    return "tapped" if is_tapped else "inside_thread"


def _tapers(known: Sequence[LetteredFeature], section: Section) -> Iterator[tuple[LetteredFeature, Cylinder | None]]:
    """Each taper with the outside it lies in: the one it is said to lie on, else the one right behind it, which gives
    its large end.
    """
    steps = {step.letter: step for step in section.outside}
    for one, behind in zip(known, [*known[1:], None], strict=True):
        if one.feature.of_kind.cut_as == "taper":
            yield one, steps.get(one.along.on or (behind.letter if behind else ""))


def _taper(one: LetteredFeature, host: Cylinder | None, section: Section, true_to: Mapping[str, str]) -> Surface | None:
    if host is None:
        return None
    ends = outside_ends(host, section)
    begins, over = host.from_mm, min(_over_mm(one, host), host.to_mm - host.from_mm)
    if falls_to_the_right(host, section):
        begins = host.to_mm - over
    return Surface(
        "taper",
        (one.letter,),
        begins,
        begins + over,
        host.diameter_mm,
        ends,
        true_to.get(one.letter, ""),
        host.letter,
    )


def falls_to_the_right(host: Cylinder, section: Section) -> bool:
    """Whether a taper's small end is to the right: it begins with its large end, unless its outside comes out at the
    left face and stands against what is larger. Source: common practice, no source.

    >>> pin = Cylinder("A", Decimal(20), Decimal(0), Decimal(10))
    >>> falls_to_the_right(pin, Section(Decimal(10), (pin,), (), (), Decimal(0), "", (), ()))
    True
    """
    beside = next((one for one in section.outside if one.from_mm == host.to_mm), None)
    before = next((one for one in section.outside if one.to_mm == host.from_mm), None)
    stands_against = beside is not None and beside.diameter_mm >= host.diameter_mm
    return not (stands_against and (before is None or before.diameter_mm < host.diameter_mm))


def _over_mm(one: LetteredFeature, host: Cylinder) -> Decimal:
    """Over what length a taper goes, mm: its change of diameter by its rate; all along its outside where that cannot be
    read.
    """
    change, rate_text = middle_mm(one), _OVER.split(one.written)[0]
    try:
        rate = taper_rate(rate_text)
    except InputError:
        return host.to_mm - host.from_mm
    return (change / rate).quantize(Decimal("0.0001")).normalize() if change else host.to_mm - host.from_mm


_OVER = re.compile(r"\s+over\s+", re.IGNORECASE)


def whole_letter(features: Iterable[LetteredFeature], section: Section) -> str:
    """The letter of the length from face to face, which facing makes; empty where none is said. Source: geometry.

    >>> from nomisma.core.part.feature import Feature
    >>> from nomisma.core.part.section import section_of
    >>> plain = [LetteredFeature("A", Feature("outside_diameter", Decimal(20), Decimal(20))),
    ...          LetteredFeature("B", Feature("length", Decimal(30), Decimal(30)))]
    >>> whole_letter(plain, section_of(plain))
    'B'
    """
    found = axial_lengths(features, section)
    return next(
        (
            one.letter
            for one in found
            if feature_kind(one.kind).may_be_whole and one.to_mm - one.from_mm == section.length_mm
        ),
        "",
    )


def _surface(
    kind: SurfaceKind, step: Cylinder, ends: frozenset[End], true_to: Mapping[str, str], whole: str
) -> Surface:
    letters = tuple(letter for letter in (step.letter, step.along_letter) if letter and letter != whole)
    return Surface(kind, letters, step.from_mm, step.to_mm, step.diameter_mm, ends, true_to.get(step.letter, ""))


def outside_ends(step: Cylinder, section: Section) -> frozenset[End]:
    """From which ends an outside is reached: past nothing larger. Source: geometry.

    >>> pin = Cylinder("A", Decimal(20), Decimal(0), Decimal(10))
    >>> sorted(outside_ends(pin, Section(Decimal(10), (pin,), (), (), Decimal(0), "", (), ())))
    ['left', 'right']
    """
    right = all(one.diameter_mm <= step.diameter_mm for one in section.outside if one.from_mm >= step.to_mm)
    left = all(one.diameter_mm <= step.diameter_mm for one in section.outside if one.to_mm <= step.from_mm)
    return _ends(right, left)


def is_threaded(bore: Surface, surfaces: Sequence[Surface]) -> bool:
    """Whether a bore carries a thread: nothing is held in it then. Source: common practice, no source.

    >>> hole = Surface("bore", ("A",), Decimal(0), Decimal(10), Decimal(20), frozenset({"left"}))
    >>> thread = Surface("inside_thread", ("B",), Decimal(0), Decimal(10), Decimal(20), frozenset(), lies_in="A")
    >>> is_threaded(hole, [hole]), is_threaded(hole, [hole, thread])
    (False, True)
    """
    return any(one.kind in ("inside_thread", "tapped") and one.lies_in in bore.letters for one in surfaces)


def bore_ends(bore: Cylinder, section: Section) -> frozenset[End]:
    """From which ends a bore is reached: through bores at least as large. Source: geometry.

    >>> bore = Cylinder("B", Decimal(8), Decimal(4), Decimal(10))
    >>> sorted(bore_ends(bore, Section(Decimal(10), (), (bore,), (), Decimal(0), "", (), ())))
    ['right']
    """
    right = _open(bore.to_mm, section.length_mm, bore, section)
    left = _open(Decimal(0), bore.from_mm, bore, section)
    return _ends(right, left)


def _open(from_mm: Decimal, to_mm: Decimal, bore: Cylinder, section: Section) -> bool:
    """Whether bores at least as large lead through all of a stretch."""
    at_mm = from_mm
    for one in sorted(section.bores, key=lambda step: step.from_mm):
        if one.diameter_mm >= bore.diameter_mm and one.holds(at_mm):
            at_mm = one.to_mm
    return at_mm >= to_mm


def _ends(right: bool, left: bool) -> frozenset[End]:
    return frozenset(end for end, reached in zip(ENDS, (right, left), strict=True) if reached)
