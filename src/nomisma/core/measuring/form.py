"""Form of a bore or a shaft from readings at places: taper, bell-mouth, barrel, ovality, and what cannot be seen."""

from collections import defaultdict
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import AmbiguousLength, OutOfRange
from nomisma.core.measuring.place import Place, parse_place
from nomisma.core.model import Model
from nomisma.core.part.feature import toward_metal
from nomisma.core.part.feature_kinds import KindName, feature_kind
from nomisma.core.quantity.display import both, show_small
from nomisma.core.quantity.fields import Difference, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import ARITHMETIC, COMMON_PRACTICE, Step

Shape = Literal["unknown", "straight", "tapered", "bell_mouthed", "barrelled", "waisted"]
SHAPE_WORDS: dict[Shape, str] = {
    "unknown": "form not to be told from these places", "straight": "straight, as far as these readings can tell",
    "tapered": "tapered", "bell_mouthed": "bell-mouthed", "barrelled": "barrelled: largest in the middle",
    "waisted": "waisted: smallest in the middle",
}  # fmt: skip
MOST = 200


class PlacedReading(Model):
    """One reading (or the mean of repeats) and where it was taken: mouth 0°, 12.5 mm 90°."""

    place: str
    size: Size


class FormInput(Model):
    """Readings of one bore or shaft at places. `length` is how long the feature is; `resolution` what the instrument
    shows; `points` how many touch (two cannot see odd lobes)."""

    kind: KindName
    readings: list[PlacedReading] = Field(min_length=1, max_length=MOST)
    length: Size | None = None
    resolution: Difference = Length(Decimal(0))
    points: int = Field(default=2, ge=1, le=3)


class FormSection(Model):
    """All directions at one depth: mean, ovality there; `share` of the length from the mouth or near end (0 to 1)."""

    name: str
    share: float
    depth: Difference | None = None
    mean: Size
    smallest: Size
    largest: Size
    ovality: Difference | None = None


class FormResult(Model):
    """`taper`: how much larger the end it widens to, from the first depth read to the last; `taper_per_length` on
    diameter per unit of length, between those depths.

    `go_side`: the worst place for the mate to pass (smallest of a bore, largest of a shaft).
    """

    kind: KindName
    shape: Shape
    sections: list[FormSection]
    taper: Difference | None = None
    larger_end: str = ""
    taper_per_length: float | None = None
    bow: Difference | None = None
    ovality: Difference | None = None
    ovality_at: str = ""
    go_side: Size
    go_side_at: str
    sentence: str
    unseen: list[str]
    working: list[Step]


@dataclass(frozen=True, slots=True)
class _Placed:
    place: Place
    mm: Decimal


@calculation(
    name="form",
    title="The form of a bore or a shaft from its readings",
    validity="Readings of one feature at named or measured places; two-point instruments see diameters, not odd lobes.",
    source="arithmetic; least squares for taper; names of forms: common practice, no source",
    example={
        "kind": "bore",
        "readings": [
            {"place": "mouth 0°", "size": "25.012 mm"}, {"place": "mouth 90°", "size": "25.014 mm"},
            {"place": "middle 0°", "size": "25.006 mm"}, {"place": "middle 90°", "size": "25.007 mm"},
            {"place": "deep 0°", "size": "25.005 mm"}, {"place": "deep 90°", "size": "25.006 mm"},
        ],
        "length": "30 mm", "resolution": "0.001 mm",
    },
)  # fmt: skip
def form(given: FormInput) -> FormResult:
    """Taper, bow, ovality, the shape's name, the go side's worst place, and what these places cannot show.

    Source: arithmetic; common practice (a go gauge meets the worst place, not the mean). Raises AmbiguousLength,
    OutOfRange.

    >>> form(FormInput(kind="bore", readings=[{"place": "mouth", "size": "25.02 mm"}, {"place": "deep",
    ...     "size": "25.00 mm"}],
    ...     resolution="0.001 mm")).shape
    'tapered'
    """
    unit = given.readings[0].size.unit
    placed = [_Placed(parse_place(one.place, unit, field="readings"), one.size.mm) for one in given.readings]
    _check(given, placed)
    sections = _sections(placed, given.length.mm if given.length else None, unit)
    fit = _line(sections)
    bow = _bow(sections)
    shape = _shape(given, sections, fit, bow)
    oval = max(
        (one for one in sections if one.ovality), key=lambda one: one.ovality.mm if one.ovality else 0, default=None
    )
    pick = min if toward_metal(feature_kind(given.kind).material_side) == -1 else max
    worst = pick(placed, key=lambda one: one.mm)
    taper = abs(fit[1]) if fit else None
    larger = "" if not fit or not fit[1] else sections[-1].name if fit[1] > 0 else sections[0].name
    unseen = _unseen(given, placed, sections)
    apart = given.length.mm * Decimal(repr(sections[-1].share - sections[0].share)) if given.length and fit else None
    per_length = float(taper / apart) if taper is not None and apart else None
    return FormResult(
        kind=given.kind,
        shape=shape,
        sections=sections,
        taper=Length(taper, unit) if taper is not None else None,
        larger_end=larger,
        taper_per_length=per_length,
        bow=Length(bow, unit) if bow is not None else None,
        ovality=oval.ovality if oval else None,
        ovality_at=oval.name if oval else "",
        go_side=Length(worst.mm, unit),
        go_side_at=worst.place.text,
        sentence=_sentence(shape, taper, larger, bow, oval, unit),
        unseen=unseen,
        working=_working(sections, taper, larger, bow, worst, unit),
    )


def _check(given: FormInput, placed: list[_Placed]) -> None:
    sizes = [one.mm for one in placed]
    if max(sizes) - min(sizes) > max(sizes) * Decimal("0.05"):
        raise AmbiguousLength(
            f"The readings go from {Length(min(sizes), given.readings[0].size.unit)} to"
            f" {Length(max(sizes), given.readings[0].size.unit)}: too far apart for one feature.",
            "Check the unit and the decimal point of each.",
            field="readings",
        )
    deepest = max((one.place.depth_mm or Decimal(0) for one in placed), default=Decimal(0))
    if given.length and deepest > given.length.mm:
        raise OutOfRange(
            f"A place {Length(deepest, given.length.unit)} deep is past the end of a feature {given.length} long.",
            "Correct the depth or the length.",
            field="length",
        )


def _sections(placed: list[_Placed], length_mm: Decimal | None, unit: Unit) -> list[FormSection]:
    """Places at one depth together, from the mouth inwards."""
    deepest = max((one.place.depth_mm or Decimal(0) for one in placed), default=Decimal(0))
    whole = length_mm or deepest or Decimal(1)
    groups: dict[Decimal, list[_Placed]] = defaultdict(list)
    for one in placed:
        at = one.place.along(whole)
        if at is not None:
            groups[at].append(one)
    found = []
    for at, ones in sorted(groups.items()):
        by_direction: dict[int | None, list[Decimal]] = defaultdict(list)
        for one in ones:
            by_direction[one.place.direction_deg].append(one.mm)
        means = [sum(sizes, Decimal(0)) / len(sizes) for sizes in by_direction.values()]
        seen = len([key for key in by_direction if key is not None]) > 1
        known = length_mm is not None or ones[0].place.depth_mm is not None
        found.append(
            FormSection(
                name=_name_of(ones[0].place),
                share=float(at / whole),
                depth=Length(at, unit) if known else None,
                mean=Length(sum(means, Decimal(0)) / len(means), unit),
                smallest=Length(min(means), unit),
                largest=Length(max(means), unit),
                ovality=Length(max(means) - min(means), unit) if seen else None,
            )
        )
    return found


def _name_of(place: Place) -> str:
    name = place.text if place.direction_deg is None else place.text.rsplit(" ", 1)[0]
    return "deep end" if name == "deep" else name


def _line(sections: list[FormSection]) -> tuple[Decimal, Decimal] | None:
    """Least squares through the sections' means: size at the mouth and gain to the far end (mm). Source: arithmetic."""
    if len(sections) < 2:
        return None
    xs = [Decimal(repr(one.share)) for one in sections]
    ys = [one.mean.mm for one in sections]
    x_mean, y_mean = sum(xs, Decimal(0)) / len(xs), sum(ys, Decimal(0)) / len(ys)
    across = sum(((x - x_mean) ** 2 for x in xs), Decimal(0))
    slope = sum(((x - x_mean) * (y - y_mean) for x, y in zip(xs, ys, strict=True)), Decimal(0)) / across
    return y_mean - slope * x_mean, slope * (xs[-1] - xs[0])


def _bow(sections: list[FormSection]) -> Decimal | None:
    """How much larger the inside is than the straight line between the ends (mm); below zero: smaller."""
    if len(sections) < 3:
        return None
    first, last = sections[0], sections[-1]
    offs = []
    for one in sections[1:-1]:
        part = Decimal(repr((one.share - first.share) / (last.share - first.share)))
        offs.append(one.mean.mm - (first.mean.mm + part * (last.mean.mm - first.mean.mm)))
    return max(offs, key=abs)


def _shape(
    given: FormInput, sections: list[FormSection], fit: tuple[Decimal, Decimal] | None, bow: Decimal | None
) -> Shape:
    if fit is None:
        return "unknown"
    enough = max(given.resolution.mm * 2, Decimal("0.0005"))
    ends = sections[-1].mean.mm - sections[0].mean.mm
    if bow is not None and abs(bow) > enough and abs(bow) >= abs(ends):
        return "barrelled" if bow > 0 else "waisted"
    if (
        bow is not None
        and feature_kind(given.kind).has_mouth
        and -ends > enough
        and _opens_at_the_mouth(sections, enough)
    ):
        return "bell_mouthed"
    return "tapered" if abs(fit[1]) > enough else "straight"


BELL_SLOPES = 3
"""How many times steeper than inside a bore opens at its mouth to be called bell-mouthed. Source: this tool's own
choice.
"""


def _opens_at_the_mouth(sections: list[FormSection], enough: Decimal) -> bool:
    """Whether the mouth is wider than the line inside leads to, and opens much more steeply; depths may be unevenly
    spaced.
    """
    mouth, second, last = sections[0], sections[1], sections[-1]
    near, rest = Decimal(repr(second.share - mouth.share)), Decimal(repr(last.share - second.share))
    at_mouth, inside = (second.mean.mm - mouth.mean.mm) / near, (last.mean.mm - second.mean.mm) / rest
    beyond = mouth.mean.mm - (second.mean.mm - inside * near)
    return beyond > enough and abs(at_mouth) > BELL_SLOPES * abs(inside)


def _unseen(given: FormInput, placed: list[_Placed], sections: list[FormSection]) -> list[str]:
    """What these readings cannot show, in words. Source: common practice, no source."""
    found = []
    if given.points == 2:
        found.append("A two-point instrument cannot see an odd number of lobes: three-lobed work reads round.")
    elif given.points == 3:
        found.append("A three-point instrument averages an oval: it cannot see an even number of lobes.")
    if len(sections) < 2:
        found.append("One depth only: taper and bell-mouth are not seen.")
    elif len(sections) == 2:
        found.append("Two depths only: barrel, waist and bell-mouth cannot be told from taper.")
    if given.points != 3 and not any(one.ovality for one in sections):
        found.append("One direction only: ovality is not seen.")
    if any(one.place.share is None and one.place.depth_mm is None for one in placed):
        found.append("Places without a depth count for the worst place only.")
    return found


def _sentence(
    shape: Shape, taper: Decimal | None, larger: str, bow: Decimal | None, oval: FormSection | None, unit: Unit
) -> str:
    words = SHAPE_WORDS[shape]
    parts = [words[0].upper() + words[1:]]
    if taper and shape in ("tapered", "bell_mouthed"):
        parts.append(f"{show_small(taper, unit)} larger at the {larger}")
    if bow is not None and shape in ("barrelled", "waisted"):
        parts.append(f"by {show_small(abs(bow), unit)}")
    if oval and oval.ovality and oval.ovality.mm:
        parts.append(f"oval by {show_small(oval.ovality.mm, unit)} at the {oval.name}")
    return ", ".join(parts) + "."


def _working(
    sections: list[FormSection], taper: Decimal | None, larger: str, bow: Decimal | None, worst: _Placed, unit: Unit
) -> list[Step]:
    decimals = 5 if unit == "in" else 4
    steps = [
        Step(
            name=f"At the {one.name}",
            formula="mean of the directions; ovality is greatest less smallest",
            values=(
                f"{both(one.smallest.mm, unit, decimals=decimals)} to {both(one.largest.mm, unit, decimals=decimals)}"
            ),
            result=both(one.mean.mm, unit, decimals=decimals)
            + (f", oval {show_small(one.ovality.mm, unit)}" if one.ovality else ""),
            source=ARITHMETIC,
        )
        for one in sections
    ]
    if taper is not None:
        over = " between the first and the last depth read"
        steps.append(
            Step(
                name="Taper",
                formula="least squares line through the means, end to end",
                values=f"{len(sections)} depths",
                result=f"{show_small(taper, unit)}{over}" + (f", larger at the {larger}" if larger else ""),
                source=ARITHMETIC,
            )
        )
    if bow is not None:
        steps.append(
            Step(
                name="Bow",
                formula="the inside place farthest from the line between the ends",
                result=show_small(bow, unit, signed=True),
                source=ARITHMETIC,
            )
        )
    steps.append(
        Step(
            name="Go side",
            formula="smallest place of a bore, largest of a shaft: what the mate must pass",
            result=f"{both(worst.mm, unit, decimals=decimals)} at {worst.place.text}",
            source=COMMON_PRACTICE,
        )
    )
    return steps
