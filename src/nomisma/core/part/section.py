"""The part in section, laid out from its features: steps of the outside, bores, grooves and edges along the axis."""

from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from decimal import Decimal

from nomisma.core.part.along import Extent
from nomisma.core.part.lettered import LetteredFeature, lengths_behind, whole_length
from nomisma.core.quantity.length import Length

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
    """The whole, from face to face; `chamfer_mm` of its outer edges; `assumed`: what was drawn so because nobody said otherwise.

    `lengths_not_said`: the letters of the outsides among it whose length nobody said, so that the whole length is not known either.
    `lies`: each letter whose place along the axis is known, with where it begins and ends, mm from the left face, as it was said.
    """

    length_mm: Decimal
    outside: tuple[Step, ...]
    bores: tuple[Step, ...]
    grooves: tuple[Groove, ...]
    chamfer_mm: Decimal
    chamfer_letter: str
    elsewhere: tuple[str, ...]
    assumed: tuple[str, ...]
    lengths_not_said: tuple[str, ...] = ()
    lies: tuple[tuple[str, Decimal, Decimal], ...] = ()

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

    Where a feature lies is as its line says it (`AxialPlace`). Of the others, outside steps stand one behind the other from the left, in the
    order of their letters; a bore with a depth comes in from the left face, one without goes through. A length with no diameter before it is the
    whole. Sizes are the middles of their limits, and what is assumed is listed. Source: common practice, no source.

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
    bores, grooves = _bores(sheet, outside), _grooves(sheet, outside)
    chamfer = next((one for _, one in sheet.of("chamfer") if not one.along.is_said), None)
    sheet.draw(chamfer)
    return Section(
        length_mm=outside[-1].to_mm,
        outside=tuple(outside),
        bores=tuple(bores),
        grooves=tuple(grooves),
        chamfer_mm=_size(chamfer) if chamfer else Decimal(0),
        chamfer_letter=chamfer.letter if chamfer else "",
        elsewhere=tuple(one.letter for one in sheet.known if one.letter not in sheet.drawn),
        assumed=tuple(sheet.assumed),
        lengths_not_said=tuple(sheet.lengths_not_said),
        lies=tuple((letter, *extent) for letter, extent in sheet.lies.items()),
    )


@dataclass
class _Sheet:
    """What is being laid out: the features of a known size, which of them have their place by now, and what was assumed for it."""

    known: list[LetteredFeature]
    drawn: set[str] = field(default_factory=set)
    assumed: list[str] = field(default_factory=list)
    lengths_not_said: list[str] = field(default_factory=list)
    lies: dict[str, Extent] = field(default_factory=dict)
    whole_mm: Decimal = Decimal(0)

    def put(self, one: LetteredFeature, long_mm: Decimal, or_else: Extent, along: LetteredFeature | None = None) -> Extent:
        """Where a feature of that length lies: as it is said, else where it stands otherwise; noted for what is counted from it."""
        extent = one.along.extent_mm(long_mm, self.whole_mm, self.lies) if one.along.is_said else or_else
        if extent is None:
            self.assumed.append(f"where {one.letter} is")
        self.lies |= dict.fromkeys((part.letter for part in self.draw(one, along)), extent or or_else)
        return extent or or_else

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
    pairs = lengths_behind(sheet.known, "outside_diameter")
    whole = whole_length(sheet.known)
    lengths = _lengths(sheet, pairs, whole)
    reaches = [_reach(one, long_mm) for (one, _), long_mm in zip(pairs, lengths, strict=True)]
    sheet.whole_mm = _size(whole) if whole else max([sum(lengths, Decimal(0)), *reaches], default=Decimal(0))
    steps: list[Step] = []
    at_mm = Decimal(0)
    for (one, along), long_mm in zip(pairs, lengths, strict=True):
        begins, at_mm = sheet.put(one, long_mm, (at_mm, at_mm + long_mm), along)
        steps.append(Step(one.letter, _size(one), begins, at_mm, along.letter if along else ""))
    return _side_by_side(sheet, steps)


def _lengths(
    sheet: _Sheet, pairs: list[tuple[LetteredFeature, LetteredFeature | None]], whole: LetteredFeature | None
) -> list[Decimal]:
    """How long each step is, mm: as said, else its share of what the whole leaves, else as drawn where nobody said."""
    said = [_said_long(one, along) for one, along in pairs]
    rest_mm = (_size(whole) if whole else Decimal(0)) - sum((long for long in said if long is not None), Decimal(0))
    found = []
    for (one, _), long in zip(pairs, said, strict=True):
        if long is None and rest_mm <= 0:
            sheet.assumed.append(f"how long {one.letter} is")
            sheet.lengths_not_said.append(one.letter)
        shared = rest_mm / said.count(None) if rest_mm > 0 and long is None else _size(one) * _UNSAID
        found.append(shared if long is None else long)
    return found


def _said_long(one: LetteredFeature, along: LetteredFeature | None) -> Decimal | None:
    if one.said_long_mm is not None:
        return one.said_long_mm
    return _size(along) if along else None


def _reach(one: LetteredFeature, long_mm: Decimal) -> Decimal:
    """How far from the face it is counted from it ends, mm; 0 where it is counted from no face of the part."""
    starts = one.along.starts
    return starts.mm + long_mm if starts and not one.along.letter else Decimal(0)


def _side_by_side(sheet: _Sheet, steps: list[Step]) -> list[Step]:
    """The steps from left to right without gap or overlap, as far as they can be drawn; what was filled is noted."""
    laid: list[Step] = []
    at_mm = Decimal(0)
    for step in sorted(steps, key=lambda one: one.from_mm):
        begins = max(step.from_mm, at_mm)
        if step.to_mm <= begins:
            sheet.drawn -= {step.letter, step.along_letter}
            continue
        if begins > at_mm:
            sheet.assumed.append(f"what is left of {step.letter}")
            if laid:
                laid[-1] = replace(laid[-1], to_mm=begins)
            else:
                begins = Decimal(0)
        laid.append(replace(step, from_mm=begins))
        at_mm = step.to_mm
    if laid and at_mm < sheet.whole_mm:
        sheet.assumed.append(f"what is right of {laid[-1].letter}")
    return laid


def _bores(sheet: _Sheet, outside: list[Step]) -> list[Step]:
    steps: list[Step] = []
    length_mm = outside[-1].to_mm
    for one, depth in lengths_behind(sheet.known, "bore"):
        if not one.through and not one.along.is_said:
            sheet.assumed.append(f"that {one.letter} {'comes in from the left' if depth else 'goes through'}")
        deep_mm = _said_long(one, depth)
        deep_mm = length_mm if deep_mm is None else min(deep_mm, length_mm)
        begins, ends = sheet.put(one, deep_mm, (Decimal(0), deep_mm), depth)
        begins, ends = max(begins, Decimal(0)), min(ends, length_mm)
        if begins < ends:
            steps.append(Step(one.letter, _size(one), begins, ends, depth.letter if depth else ""))
    return steps


def _grooves(sheet: _Sheet, outside: list[Step]) -> list[Groove]:
    body = max(outside, key=lambda step: step.diameter_mm)
    return [_groove(sheet, index, one, outside, body) for index, one in sheet.of("groove_width")]


def _groove(sheet: _Sheet, index: int, one: LetteredFeature, outside: list[Step], body: Step) -> Groove:
    floor = sheet.behind(index, "groove_floor_diameter")
    position = sheet.behind(index + 1 if floor else index, "position")
    at_mm = (body.from_mm + body.to_mm - _size(one)) / 2
    if position:
        place = replace(position.along, starts=Length(_size(position), "mm"))
        begins, _ = place.extent_mm(_size(one), sheet.whole_mm, sheet.lies) or (_size(position), 0)
        at_mm = min(max(begins, Decimal(0)), outside[-1].to_mm)
    else:
        sheet.assumed.append(f"where {one.letter} is")
    around = next((step for step in outside if step.from_mm <= at_mm < step.to_mm), body)
    if not floor:
        sheet.assumed.append(f"how deep {one.letter} is")
    floor_mm = _size(floor) if floor else around.diameter_mm * _FLOOR
    letters = tuple(part.letter for part in sheet.draw(one, floor, position))
    sheet.lies |= dict.fromkeys(letters, (at_mm, at_mm + _size(one)))
    return Groove(letters, at_mm, _size(one), floor_mm)
