"""Kinds of instrument: how each is read, and sensible defaults for one that is entered in the shop."""

from decimal import Decimal
from typing import Literal

from pydantic import Field

from nomisma.core.errors import NotDefined
from nomisma.core.part.feature_kinds import Measures, feature_kinds
from nomisma.core.quantity.length import MM_PER, Unit
from nomisma.core.table import NumberText, Row, loaded, rows_of

MEASURES_WORDS: dict[Measures, str] = {
    "shaft": "shafts",
    "bore": "bores",
    "both": "shafts and bores",
    "length": "lengths and heights",
    "thread": "pitch diameters of threads",
}
How = Literal["reads", "transfer", "bracket"]
SOURCE = (
    "common practice, no source; micrometers and calipers after ISO 3611 and ISO 13385-1 as recalled, to be checked"
)


class InstrumentKind(Row):
    """One kind: lengths are text in `unit`; `unsure` names the values recalled without certainty.

    `how`: it reads a size, hands it to a micrometer (transfer), or brackets it between two pins. `points`: how many
    touch.
    """

    name: str
    title: str
    measures: Measures
    how: How
    unit: Unit
    resolution: NumberText
    permitted_error: NumberText
    repeatability: NumberText
    range_from: NumberText
    range_to: NumberText
    points: int
    standard: str
    check_every_days: int = Field(alias="every")

    def checked_at_mm(self, from_mm: Decimal) -> Decimal | None:
        """At what size (mm) its zero is usually looked at, where it reads from `from_mm` on: its least, 0 where its
        faces close.

        None where only what is marked on its standard says it: a bore's setting ring. Source: common practice, no
        source.

        >>> instrument_kinds()["micrometer_thou"].checked_at_mm(Decimal("25.4"))
        Decimal('25.4')
        >>> instrument_kinds()["bore_gauge"].checked_at_mm(Decimal(18)) is None
        True
        """
        return from_mm if self.how == "reads" and self.measures != "bore" else None

    @property
    def usual_range_mm(self) -> tuple[Decimal, Decimal] | None:
        """From where to where one of its kind usually reads, mm; none where the table says none."""
        if not (self.range_from and self.range_to):
            return None
        return Decimal(self.range_from) * MM_PER[self.unit], Decimal(self.range_to) * MM_PER[self.unit]

    @property
    def family(self) -> str:
        """What it is, whatever it reads in: a dial indicator in inch and one in mm are both indicators."""
        return self.name.removesuffix(f"_{self.unit}")


@loaded
def instrument_kinds() -> dict[str, InstrumentKind]:
    """Every kind by name. Source: instrument_kinds.csv, where each value's source stands.

    >>> instrument_kinds()["three_point_bore"].points
    3
    """
    return {row.name: row for row in rows_of("measuring", "instrument_kinds.csv", InstrumentKind)}


@loaded
def usual_are_kinds() -> None:
    """What a feature is usually measured with begins the name of a kind of instrument. Raises ValueError.

    Source: none, bookkeeping.

    >>> usual_are_kinds()
    """
    for feature in feature_kinds().values():
        for usual in feature.usual:
            if not any(name.startswith(usual) for name in instrument_kinds()):
                kinds = ", ".join(instrument_kinds())
                raise ValueError(f"kind {feature.name}, usual: no instrument is a “{usual}”: {kinds}")


def is_of_family(kind: str, family: str) -> bool:
    """Whether an instrument's kind is one of a family; no for a kind of the shop's own.

    Source: instrument_kinds.csv.

    >>> is_of_family("indicator_mm", "indicator"), is_of_family("caliper", "indicator")
    (True, False)
    """
    found = instrument_kinds().get(kind)
    return found is not None and found.family == family


def instrument_kind(name: str, *, field: str = "instrument_kind") -> InstrumentKind:
    """The kind of that name. Raises NotDefined with the list.

    Source: instrument_kinds.csv.

    >>> instrument_kind("telescoping_gauge").how
    'transfer'
    """
    try:
        return instrument_kinds()[name]
    except KeyError:
        raise NotDefined(
            f"“{name[:40]}” is not a kind of instrument here.",
            f"Choose one of {', '.join(instrument_kinds())}.",
            field=field,
            value=name,
        ) from None
