"""The mating partner: as measured at several places, or as a callout on a drawing."""

import re
from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from pydantic import Field

from nomisma.core.errors import AmbiguousLength, InputError
from nomisma.core.fits.called_out import called_out
from nomisma.core.materials.material import SOURCE as MATERIAL_SOURCE
from nomisma.core.materials.material import material_named
from nomisma.core.materials.temperature import growth
from nomisma.core.model import Model
from nomisma.core.part.member import MemberKind, other_member
from nomisma.core.quantity.display import both, fraction_text, show_small
from nomisma.core.quantity.fields import Celsius, Difference, Size
from nomisma.core.quantity.length import MM_PER_INCH, Length, Unit, in_unit, round_to
from nomisma.core.working import ARITHMETIC, Step

MOST_READINGS = 200
# Two readings of one size never differ by more than this share of it; a wrong unit or a slipped point does.
LARGEST_SPREAD = Decimal("0.05")


class PartnerInput(Model):
    """The partner: readings with what one reading is worth (expanded uncertainty, k = 2), or a callout.

    `places` says where each reading was taken ("near end 0°"), for taper and ovality. `shared_uncertainty` is the part
    of the uncertainty that the same instrument brings to every reading. `temperature_c` and `material` correct readings
    of a part that is not at 20 °C.
    """

    kind: MemberKind
    readings: list[Size] = Field(default=[], max_length=MOST_READINGS)
    places: list[str] = Field(default=[], max_length=MOST_READINGS)
    uncertainty: Difference | None = None
    shared_uncertainty: Difference | None = None
    callout: str | None = None
    temperature_c: Celsius | None = None
    material: str = ""


@dataclass(frozen=True, slots=True)
class Partner:
    """The partner's extremes in mm, what each is worth (expanded, mm, by the factor `coverage`), and where the extremes
    came from.
    """

    kind: MemberKind
    smallest_mm: Decimal
    largest_mm: Decimal
    uncertainty_mm: Decimal
    unit: Unit
    origin: Literal["measured", "callout"]
    nominal: Length | None = None
    code: str | None = None
    shared_mm: Decimal = Decimal(0)
    coverage: Decimal = Decimal(2)
    working: tuple[Step, ...] = ()

    @property
    def made_kind(self) -> MemberKind:
        """What is made to go with it."""
        return other_member(self.kind)

    @property
    def mean_mm(self) -> Decimal:
        """Halfway between the extremes, mm."""
        return (self.smallest_mm + self.largest_mm) / 2


def partner_from(given: PartnerInput) -> Partner:
    """The partner from readings or a callout; exactly one of the two. Raises InputError. Source: arithmetic.

    >>> partner_from(PartnerInput(kind="bore", callout="25 H7")).largest_mm
    Decimal('25.021')
    """
    if bool(given.readings) == bool(given.callout):
        raise InputError(
            "The partner is needed once: its readings, or its callout.",
            "Enter what you measured, or what the drawing says (25 H7, 0.3755/0.3760).",
            field="partner",
        )
    if given.callout:
        return _from_callout(given.kind, given.callout)
    if given.uncertainty is None:
        raise InputError(
            "It is not said what a reading of the partner is worth.",
            "Give the expanded uncertainty of the instrument (0 to leave it out on purpose).",
            field="partner.uncertainty",
        )
    if given.uncertainty.mm < 0:
        raise InputError("An uncertainty is never below zero.", "Leave out the sign.", field="partner.uncertainty")
    sizes = sorted(given.readings, key=lambda length: length.mm)
    smallest, largest = sizes[0], sizes[-1]
    if largest.mm - smallest.mm > largest.mm * LARGEST_SPREAD:
        raise AmbiguousLength(
            f"The readings go from {smallest} to {largest}: too far apart for one size.",
            "Check the unit and the decimal point of each.",
            field="partner.readings",
            value=str(largest),
        )
    shared = given.shared_uncertainty.mm if given.shared_uncertainty else Decimal(0)
    if not 0 <= shared <= given.uncertainty.mm:
        raise InputError(
            "The shared part of the uncertainty is not within the whole.",
            "It is what the instrument brings to every reading: at most the uncertainty itself.",
            field="partner.shared_uncertainty",
        )
    unit = given.readings[0].unit
    low, high, steps = _at_20_c(given, smallest.mm, largest.mm, unit)
    return Partner(
        given.kind,
        low,
        high,
        given.uncertainty.mm,
        unit,
        "measured",
        shared_mm=shared,
        working=(*steps, *form_steps(given.readings, given.places, unit)),
    )


def _at_20_c(given: PartnerInput, low_mm: Decimal, high_mm: Decimal, unit: Unit) -> tuple[Decimal, Decimal, list[Step]]:
    """Sizes as they are at 20 °C. Source: ISO 1; expansion from the table of materials."""
    if given.temperature_c is None or given.temperature_c == 20:
        return low_mm, high_mm, []
    if not given.material:
        raise InputError(
            "A temperature is given, but not what the partner is made of.",
            "Choose its material, so that its expansion is known.",
            field="partner.material",
        )
    material = material_named(given.material, field="partner.material")
    factor = growth(given.temperature_c, given.material, field="partner.temperature_c")
    step = Step(
        name="Partner brought to 20 °C",
        formula="size at 20 °C = reading / (1 + α·(t − 20 °C)); the instrument taken to be at 20 °C",
        values=f"α = {material.alpha_per_k * 1e6:.1f} µm/(m·K), {material.title}; t = {given.temperature_c} °C",
        result=f"{both(low_mm / factor, unit, decimals=5)} to {both(high_mm / factor, unit, decimals=5)}",
        source=f"ISO 1:2022; {MATERIAL_SOURCE}",
    )
    return low_mm / factor, high_mm / factor, [step]


_ENDS = {"near": "near end", "far": "far end", "mouth": "mouth", "middle": "middle", "deep": "deep"}
_ANGLE = re.compile(r"([0-9]{1,3})\s*°")


def form_steps(readings: Sequence[Length], places: Sequence[str], unit: Unit) -> list[Step]:
    """Taper and ovality from places × directions, as working; empty where the places do not show them.

    Source: arithmetic. Two-point readings cannot see an odd number of lobes, and the step says so.

    >>> at = ["near end 0°", "near end 90°", "far end 0°", "far end 90°"]
    >>> [s.name for s in form_steps([Length.of(v, "mm") for v in ("24.98", "24.981", "24.99", "24.991")], at, "mm")]
    ['Taper, near end to far end', 'Ovality, 0° to 90°']
    """
    if len(places) != len(readings):
        return []
    by_end: dict[str, list[Decimal]] = {}
    by_angle: dict[str, list[Decimal]] = {}
    for size, place in zip(readings, places, strict=True):
        end = next((title for word, title in _ENDS.items() if word in place.lower()), "")
        angle = _ANGLE.search(place)
        if end:
            by_end.setdefault(end, []).append(size.mm)
        if angle:
            by_angle.setdefault(f"{int(angle[1])}°", []).append(size.mm)
    found = []
    for name, groups, note in (
        ("Taper", by_end, "mean of each end"),
        ("Ovality", by_angle, "mean of each direction; odd lobes hide"),
    ):
        if len(groups) > 1:
            means = {key: sum(sizes, Decimal(0)) / len(sizes) for key, sizes in groups.items()}
            small, large = (pick(means, key=lambda key: means[key]) for pick in (min, max))
            first, last = next(iter(means)), list(means)[-1]
            found.append(
                Step(
                    name=f"{name}, {first} to {last}",
                    formula=f"greatest less smallest {note}",
                    values=(
                        f"{large} {both(means[large], unit, decimals=5)}; {small}"
                        f" {both(means[small], unit, decimals=5)}"
                    ),
                    result=f"{show_small(means[large] - means[small], unit)}, largest at {large}",
                    source=ARITHMETIC,
                )
            )
    return found


def _from_callout(kind: MemberKind, text: str) -> Partner:
    found = called_out(kind, text, field="partner.callout")
    return Partner(kind, found.lower_mm, found.upper_mm, Decimal(0), found.unit, "callout", found.nominal, found.code)


def likely_nominal(partner: Partner) -> Length:
    """The nominal the partner was probably made to: its callout's, else the nearest 1/64 in or 0.5 mm of its own unit,
    or a whole millimetre or a 1/16 in of the other where its mean lies far nearer to that: 0.6692 in is 17 mm.

    Source: common practice, no source. It is a proposal; the drawing decides.

    >>> str(likely_nominal(Partner("shaft", Decimal("24.978"), Decimal("24.981"), Decimal(0), "mm", "measured")))
    '25 mm'
    """
    if partner.nominal:
        return partner.nominal
    metric, inch = (_nearest_mm(partner.mean_mm, 2), _nearest_fraction(partner.mean_mm, 64))
    own = metric if partner.unit == "mm" else inch
    other = _nearest_fraction(partner.mean_mm, 16) if partner.unit == "mm" else _nearest_mm(partner.mean_mm, 1)
    off = abs(other.mm - partner.mean_mm)
    return other if off <= OTHER_WITHIN_MM and 4 * off < abs(own.mm - partner.mean_mm) else own


OTHER_WITHIN_MM = Decimal("0.05")
"""How near a round size of the other unit must lie to be proposed. Source: this tool's own choice."""


def _nearest_mm(mean_mm: Decimal, parts: int) -> Length:
    return Length.of((max(round_to(mean_mm * parts, 0), Decimal(1)) / parts).normalize() + 0, "mm")


def _nearest_fraction(mean_mm: Decimal, parts: int) -> Length:
    count = max(int(round_to(in_unit(mean_mm, "in") * parts, 0)), 1)
    return Length(count * MM_PER_INCH / parts, "in", fraction_text(count, parts))
