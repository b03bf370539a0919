"""The mating partner: as measured at several places, or as a callout on a drawing."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from pydantic import Field

from nomisma.core.errors import AmbiguousLength, InputError
from nomisma.core.fits.member import MemberKind, called_out
from nomisma.core.model import Model
from nomisma.core.quantity.display import fraction_text
from nomisma.core.quantity.fields import Difference, Size
from nomisma.core.quantity.length import MM_PER_INCH, Length, Unit, in_unit, round_to

MOST_READINGS = 200
# Two readings of one size never differ by more than this share of it; a wrong unit or a slipped point does.
LARGEST_SPREAD = Decimal("0.05")


class PartnerInput(Model):
    """The partner: readings with what one reading is worth (expanded uncertainty, k = 2), or a callout."""

    kind: MemberKind
    readings: list[Size] = Field(default=[], max_length=MOST_READINGS)
    uncertainty: Difference | None = None
    callout: str | None = None


@dataclass(frozen=True, slots=True)
class Partner:
    """The partner's extremes in mm, what each is worth (expanded, mm), and where the extremes came from."""

    kind: MemberKind
    smallest_mm: Decimal
    largest_mm: Decimal
    uncertainty_mm: Decimal
    unit: Unit
    origin: Literal["measured", "callout"]
    nominal: Length | None = None
    code: str | None = None

    @property
    def made_kind(self) -> MemberKind:
        """What is made to go with it."""
        return "bore" if self.kind == "shaft" else "shaft"

    @property
    def mean_mm(self) -> Decimal:
        """Halfway between the extremes, mm."""
        return (self.smallest_mm + self.largest_mm) / 2


def partner_from(given: PartnerInput) -> Partner:
    """The partner from readings or a callout; exactly one of the two. Raises InputError. Source: arithmetic."""
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
    return Partner(given.kind, smallest.mm, largest.mm, given.uncertainty.mm, given.readings[0].unit, "measured")


def _from_callout(kind: MemberKind, text: str) -> Partner:
    found = called_out(kind, text, field="partner.callout")
    return Partner(kind, found.lower_mm, found.upper_mm, Decimal(0), found.unit, "callout", found.nominal, found.code)


def likely_nominal(partner: Partner) -> Length:
    """The nominal the partner was probably made to: its callout's, else the nearest 1/64 in or 0.5 mm.

    Source: common practice, no source. It is a proposal; the drawing decides.

    >>> str(likely_nominal(Partner("shaft", Decimal("24.978"), Decimal("24.981"), Decimal(0), "mm", "measured")))
    '25 mm'
    """
    if partner.nominal:
        return partner.nominal
    if partner.unit == "mm":
        halves = max(round_to(partner.mean_mm * 2, 0), Decimal(1))
        return Length.of((halves / 2).normalize() + 0, "mm")
    parts = max(int(round_to(in_unit(partner.mean_mm, "in") * 64, 0)), 1)
    return Length(parts * MM_PER_INCH / 64, "in", fraction_text(parts, 64))
