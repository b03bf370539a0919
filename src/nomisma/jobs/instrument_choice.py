"""The instruments at hand for a shaft or a bore; a gauge that only carries a size stands with the micrometer that reads it."""

from dataclasses import dataclass
from decimal import Decimal
from typing import cast

from sqlalchemy.orm import Session

from nomisma.core.errors import OutOfRange
from nomisma.core.measuring.instrument_kinds import How, instrument_kinds
from nomisma.core.part.feature_kinds import KindName, feature_kind
from nomisma.core.quantity.length import Length, Unit
from nomisma.store import shop
from nomisma.store.models import Instrument
from nomisma.store.readings import uncertainty_of


@dataclass(frozen=True, slots=True)
class InstrumentChoice:
    """One choice: an instrument, and the gauge that carries the size to it where one does."""

    instrument: Instrument
    transfer: Instrument | None = None

    @property
    def id(self) -> str:
        """What the form sends."""
        return f"{self.instrument.id}+{self.transfer.id}" if self.transfer else str(self.instrument.id)

    @property
    def name(self) -> str:
        """As it is said at the bench."""
        return f"{self.transfer.name} → {self.instrument.name}" if self.transfer else self.instrument.name

    @property
    def unit(self) -> Unit:
        """What it reads in."""
        return cast(Unit, self.instrument.unit)

    def reaches(self, size_mm: Decimal) -> bool:
        """Whether a size (mm) lies in the range of what touches it; an instrument without a range reads everything."""
        reads = self.transfer or self.instrument
        return reads.range_to_mm is None or (reads.range_from_mm or Decimal(0)) <= size_mm <= reads.range_to_mm

    def must_reach(self, size: Length, field: str) -> None:
        """Refuse a size the instrument cannot reach. Raises OutOfRange."""
        reads = self.transfer or self.instrument
        if not self.reaches(size.mm):
            raise OutOfRange(
                f"{size} is outside what {reads.name} reads ({reads.range_from_text or 0} to {reads.range_to_text} {reads.unit}).",
                "Check the reading, or choose the instrument you used.",
                field=field,
                value=size.text,
            )

    @property
    def brackets(self) -> bool:
        """Whether it gives a bracket, not a number."""
        return how(self.instrument) == "bracket"


def how(instrument: Instrument) -> How:
    """How an instrument is read, by its kind."""
    kind = instrument_kinds().get(instrument.kind)
    return kind.how if kind else "reads"


def instrument_choices(session: Session, kind: KindName) -> list[InstrumentChoice]:
    """What the shop has for a kind of feature: plain ones first, then every gauge with every micrometer that can read it."""
    everything = shop.instruments(session)
    suited = [row for row in everything if row.measures in feature_kind(kind).instruments]
    plain = [InstrumentChoice(row) for row in suited if how(row) != "transfer"]
    gauges = [row for row in suited if how(row) == "transfer"]
    readers = [row for row in everything if row.measures == "shaft" and how(row) == "reads"]
    return plain + [InstrumentChoice(reader, gauge) for gauge in gauges for reader in readers]


def likeliest(
    choices: list[InstrumentChoice], last: str, unit: Unit, size_mm: Decimal | None = None, *, usual: tuple[str, ...] = ()
) -> InstrumentChoice | None:
    """The one used last; else of the `usual` kinds, in their order, what reads the unit before what does not; else the finest that
    reads the job's unit (a micrometer, not a caliper); else the finest.

    `size_mm`: what is to be measured, where it is known: only what reaches it comes into question.
    """
    if size_mm is not None:
        choices = [choice for choice in choices if choice.reaches(size_mm)] or choices
    used = [choice for choice in choices if choice.id == last]
    finest = sorted(
        choices,
        key=lambda choice: (
            bool(usual) and choice.unit != unit,
            _rank(choice, usual),
            choice.transfer is not None or choice.brackets,
            choice.unit != unit,
            uncertainty_of(choice.instrument),
        ),
    )
    return next(iter([*used, *finest]), None)


def _rank(choice: InstrumentChoice, usual: tuple[str, ...]) -> int:
    return next((rank for rank, name in enumerate(usual) if choice.instrument.kind.startswith(name)), len(usual))
