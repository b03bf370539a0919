"""The part in section, laid out from its features: steps of the outside, bores, grooves and edges along the axis."""

from collections.abc import Iterable
from dataclasses import dataclass, field
from decimal import Decimal

from nomisma.core.part.part_check import LetteredFeature

_UNSAID = Decimal(1)
"""How long a step is drawn whose length nobody said, in parts of its diameter. Source: this tool's own choice."""
_FLOOR = Decimal("0.9")
"""The floor of a groove whose depth nobody said, in parts of the diameter around it. Source: this tool's own choice."""


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
    sheet = _Sheet([one for one in features if middle_mm(one)])
    outside = _outside(sheet)
    if not outside:
        return None
    length_mm = outside[-1].to_mm
    bores, grooves = _bores(sheet, length_mm), _grooves(sheet, outside)
    chamfer = next((one for one in sheet.known if one.feature.kind == "chamfer"), None)
    sheet.draw(chamfer)
    return Section(
        length_mm=length_mm,
        outside=tuple(outside),
        bores=tuple(bores),
        grooves=tuple(grooves),
        chamfer_mm=_size(chamfer) if chamfer else Decimal(0),
        chamfer_letter=chamfer.letter if chamfer else "",
        elsewhere=tuple(one.letter for one in sheet.known if one.letter not in sheet.drawn),
        assumed=tuple(sheet.assumed),
    )


@dataclass
class _Sheet:
    """What is being laid out: the features of a known size, which of them have their place by now, and what was assumed for it."""

    known: list[LetteredFeature]
    drawn: set[str] = field(default_factory=set)
    assumed: list[str] = field(default_factory=list)

    def draw(self, *features: LetteredFeature | None) -> tuple[LetteredFeature, ...]:
        """Take features as placed; those of them that there are."""
        there = tuple(one for one in features if one is not None)
        self.drawn |= {one.letter for one in there}
        return there

    def of(self, kind: str) -> list[tuple[int, LetteredFeature]]:
        """The features of a kind with where they stand among the others."""
        return [(index, one) for index, one in enumerate(self.known) if one.feature.of_kind.name == kind]

    def behind(self, index: int, *kinds: str) -> LetteredFeature | None:
        """The feature right behind one, where it says how far that one goes."""
        following = self.known[index + 1] if index + 1 < len(self.known) else None
        return following if following is not None and following.feature.of_kind.name in kinds else None


def middle_mm(one: LetteredFeature) -> Decimal | None:
    """The size (mm) a feature is drawn with: the middle of its limits, its one limit, or its nominal; None where none is known.

    Source: geometry.

    >>> from nomisma.core.part.feature import Feature
    >>> middle_mm(LetteredFeature("A", Feature("length", Decimal(40), Decimal(41))))
    Decimal('40.5')
    """
    target = one.feature.target_mm
    size = target if target is not None else one.nominal_mm
    return size if size is not None and size > 0 else None


def _size(one: LetteredFeature) -> Decimal:
    return middle_mm(one) or Decimal(0)


def _outside(sheet: _Sheet) -> list[Step]:
    pairs = [(one, sheet.behind(index, "length", "height")) for index, one in sheet.of("outside_diameter")]
    paired = {along.letter for _, along in pairs if along}
    whole = next((one for _, one in sheet.of("length") if one.letter not in paired), None)
    said_mm = sum((_size(along) for _, along in pairs if along), Decimal(0))
    unsaid = [one for one, along in pairs if not along]
    rest_mm = _size(whole) - said_mm if whole else Decimal(0)
    steps: list[Step] = []
    at_mm = Decimal(0)
    for one, along in pairs:
        if along:
            long_mm = _size(along)
        elif rest_mm > 0:
            long_mm = rest_mm / len(unsaid)
            sheet.draw(whole)
        else:
            long_mm = _size(one) * _UNSAID
            sheet.assumed.append(f"how long {one.letter} is")
        steps.append(Step(one.letter, _size(one), at_mm, at_mm + long_mm, along.letter if along else ""))
        sheet.draw(one, along)
        at_mm += long_mm
    return steps


def _bores(sheet: _Sheet, length_mm: Decimal) -> list[Step]:
    steps: list[Step] = []
    for index, one in sheet.of("bore"):
        depth = sheet.behind(index, "depth")
        if not one.through:
            sheet.assumed.append(f"that {one.letter} {'comes in from the left' if depth else 'goes through'}")
        deep_mm = min(_size(depth), length_mm) if depth else length_mm
        steps.append(Step(one.letter, _size(one), Decimal(0), deep_mm, depth.letter if depth else ""))
        sheet.draw(one, depth)
    return steps


def _grooves(sheet: _Sheet, outside: list[Step]) -> list[Groove]:
    body = max(outside, key=lambda step: step.diameter_mm)
    return [_groove(sheet, index, one, outside, body) for index, one in sheet.of("groove_width")]


def _groove(sheet: _Sheet, index: int, one: LetteredFeature, outside: list[Step], body: Step) -> Groove:
    floor = sheet.behind(index, "groove_floor_diameter")
    position = sheet.behind(index + 1 if floor else index, "position")
    at_mm = _size(position) if position else (body.from_mm + body.to_mm - _size(one)) / 2
    around = next((step for step in outside if step.from_mm <= at_mm < step.to_mm), body)
    if not position:
        sheet.assumed.append(f"where {one.letter} is")
    if not floor:
        sheet.assumed.append(f"how deep {one.letter} is")
    floor_mm = _size(floor) if floor else around.diameter_mm * _FLOOR
    letters = tuple(part.letter for part in sheet.draw(one, floor, position))
    return Groove(letters, at_mm, _size(one), floor_mm)
