"""The part in section, laid out from its features: steps of the outside, bores, grooves and edges along the axis."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from decimal import Decimal

from nomisma.core.part.feature_kinds import KindName
from nomisma.core.part.part_check import LetteredFeature

ALONG: dict[str, KindName] = {"outside_diameter": "length", "bore": "depth"}
"""Which size, said right behind it, is how far a diameter goes along the axis; behind an outside also a height."""
_UNSAID = Decimal(1)
"""How long a step is drawn whose length nobody said, in parts of its diameter. Source: this tool's own choice."""


@dataclass(frozen=True, slots=True)
class Step:
    """A cylinder of the section: its diameter and where it begins and ends along the axis, mm, with the letters that say so."""

    letter: str
    diameter_mm: Decimal
    from_mm: Decimal
    to_mm: Decimal
    along_letter: str = ""


@dataclass(frozen=True, slots=True)
class Groove:
    """A groove of the outside: where it begins, how wide it is and its floor's diameter, mm."""

    letters: tuple[str, ...]
    at_mm: Decimal
    width_mm: Decimal
    floor_diameter_mm: Decimal


@dataclass(frozen=True, slots=True)
class Section:
    """The whole, from face to face; `chamfer_mm` of its outer edges; `assumed`: what was drawn so because nobody said otherwise."""

    length_mm: Decimal
    outside: tuple[Step, ...]
    bores: tuple[Step, ...]
    grooves: tuple[Groove, ...]
    chamfer_mm: Decimal
    chamfer_letter: str
    elsewhere: tuple[str, ...]
    assumed: tuple[str, ...]

    @property
    def diameter_mm(self) -> Decimal:
        """The largest outside, mm."""
        return max(step.diameter_mm for step in self.outside)

    def outside_at(self, along_mm: Decimal) -> Decimal:
        """The outside diameter (mm) of the step that holds a place along the axis; of the last one past its end."""
        return next(
            (step.diameter_mm for step in self.outside if step.from_mm <= along_mm < step.to_mm),
            self.outside[-1].diameter_mm,
        )


def section_of(features: Iterable[LetteredFeature]) -> Section | None:
    """The section that the features describe, as one would sketch it from their lines; None without an outside of a known size.

    Outside steps stand one behind the other from the left, in the order of their letters; a bore with a depth comes in from the
    left face, one without goes through. A length with no diameter before it is the whole. Sizes are the middles of their limits. Source:
    common practice, no source; which end a bore is on is not said by a line, and what is assumed is listed.

    >>> from nomisma.core.part.feature import Feature
    >>> plain = [LetteredFeature("A", Feature("outside_diameter", Decimal(20), Decimal(20))),
    ...          LetteredFeature("B", Feature("length", Decimal(30), Decimal(30)))]
    >>> found = section_of(plain); found.length_mm, found.outside[0].to_mm, found.assumed
    (Decimal('30'), Decimal('30'), ())
    """
    known = [one for one in features if middle_mm(one)]
    outside, assumed, used = _outside(known)
    if not outside:
        return None
    length_mm = outside[-1].to_mm
    bores, more, bore_letters = _bores(known, length_mm)
    grooves, also, groove_letters = _grooves(known, outside)
    chamfer = next((one for one in known if one.feature.kind == "chamfer"), None)
    drawn = {*used, *bore_letters, *groove_letters, *([chamfer.letter] if chamfer else [])}
    return Section(
        length_mm=length_mm,
        outside=tuple(outside),
        bores=tuple(bores),
        grooves=tuple(grooves),
        chamfer_mm=(middle_mm(chamfer) or Decimal(0)) if chamfer else Decimal(0),
        chamfer_letter=chamfer.letter if chamfer else "",
        elsewhere=tuple(one.letter for one in known if one.letter not in drawn),
        assumed=(*assumed, *more, *also),
    )


def middle_mm(one: LetteredFeature) -> Decimal | None:
    """The size (mm) a feature is drawn with: the middle of its limits, its one limit, or its nominal; None where none is known."""
    target = one.feature.target_mm
    size = target if target is not None else one.nominal_mm
    return size if size is not None and size > 0 else None


def _size(one: LetteredFeature) -> Decimal:
    return middle_mm(one) or Decimal(0)


def _behind(known: Sequence[LetteredFeature], index: int, *kinds: str) -> LetteredFeature | None:
    """The feature right behind one, where it says how far that one goes."""
    following = known[index + 1] if index + 1 < len(known) else None
    return following if following is not None and following.feature.of_kind.name in kinds else None


def _outside(known: list[LetteredFeature]) -> tuple[list[Step], list[str], set[str]]:
    pairs = [
        (one, _behind(known, index, "length", "height"))
        for index, one in enumerate(known)
        if one.feature.of_kind.name == "outside_diameter"
    ]
    paired = {along.letter for _, along in pairs if along}
    whole = next((one for one in known if one.feature.kind == "length" and one.letter not in paired), None)
    said_mm = sum((_size(along) for _, along in pairs if along), Decimal(0))
    unsaid = [one for one, along in pairs if not along]
    rest_mm = _size(whole) - said_mm if whole else Decimal(0)
    steps: list[Step] = []
    assumed: list[str] = []
    at_mm = Decimal(0)
    for one, along in pairs:
        if along:
            long_mm = _size(along)
        elif rest_mm > 0:
            long_mm = rest_mm / len(unsaid)
        else:
            long_mm = _size(one) * _UNSAID
            assumed.append(f"how long {one.letter} is")
        steps.append(Step(one.letter, _size(one), at_mm, at_mm + long_mm, along.letter if along else ""))
        at_mm += long_mm
    used = {one.letter for one, _ in pairs} | paired | ({whole.letter} if whole and rest_mm > 0 and unsaid else set())
    return steps, assumed, used


def _bores(known: list[LetteredFeature], length_mm: Decimal) -> tuple[list[Step], list[str], set[str]]:
    steps: list[Step] = []
    assumed: list[str] = []
    used: set[str] = set()
    for index, one in enumerate(known):
        if one.feature.kind != "bore":
            continue
        depth = _behind(known, index, "depth")
        deep_mm = min(_size(depth), length_mm) if depth else length_mm
        if depth and not one.through:
            assumed.append(f"that {one.letter} comes in from the left")
        elif not one.through:
            assumed.append(f"that {one.letter} goes through")
        steps.append(Step(one.letter, _size(one), Decimal(0), deep_mm, depth.letter if depth else ""))
        used |= {one.letter, depth.letter} if depth else {one.letter}
    return steps, assumed, used


def _grooves(known: list[LetteredFeature], outside: list[Step]) -> tuple[list[Groove], list[str], set[str]]:
    found: list[Groove] = []
    assumed: list[str] = []
    used: set[str] = set()
    for index, one in enumerate(known):
        if one.feature.kind != "groove_width":
            continue
        floor = _behind(known, index, "groove_floor_diameter")
        position = _behind(known, index + 1 if floor else index, "position")
        body = max(outside, key=lambda step: step.diameter_mm)
        at_mm = _size(position) if position else (body.from_mm + body.to_mm - _size(one)) / 2
        around = next((step for step in outside if step.from_mm <= at_mm < step.to_mm), body)
        if not position:
            assumed.append(f"where {one.letter} is")
        if not floor:
            assumed.append(f"how deep {one.letter} is")
        floor_mm = _size(floor) if floor else around.diameter_mm * Decimal("0.9")
        letters = tuple(part.letter for part in (one, floor, position) if part)
        found.append(Groove(letters, at_mm, _size(one), floor_mm))
        used |= set(letters)
    return found, assumed, used
