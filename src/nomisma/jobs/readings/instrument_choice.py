"""The instruments at hand for a shaft or a bore; a gauge that only carries a size stands with the micrometer that reads
it.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from decimal import Decimal

from sqlalchemy.orm import Session

from nomisma.core.errors import OutOfRange
from nomisma.core.measuring.instrument_kinds import How, instrument_kinds, is_of_family
from nomisma.core.measuring.suited import is_finer
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
        return self.instrument.unit

    def reaches(self, size_mm: Decimal) -> bool:
        """Whether a size (mm) lies in the range of what touches it; an instrument without a range reads everything."""
        return self._short_of(size_mm) is None

    def _short_of(self, size_mm: Decimal) -> Instrument | None:
        """What does not reach a size (mm): the gauge that takes it, or the micrometer that reads the gauge; none where
        both do.
        """
        both = (self.transfer, self.instrument)
        return next((one for one in both if one and not _reads(one, size_mm)), None)

    def usually_reaches(self, size_mm: Decimal) -> bool:
        """Whether what touches a size (mm) reaches it by its own range, or where nobody entered one by that of its
        kind.
        """
        both = (self.transfer, self.instrument)
        return all(_reads(one, size_mm, usual=True) for one in both if one)

    @property
    def span_mm(self) -> Decimal:
        """How much its range holds, mm: the less, the nearer it is made to the size; far for one without a range."""
        ends = self.instrument.range_from_mm or Decimal(0), self.instrument.range_to_mm
        return ends[1] - ends[0] if ends[1] is not None else Decimal(1_000_000)

    def must_reach(self, size: Length, field: str) -> None:
        """Refuse a size the instrument cannot reach. Raises OutOfRange."""
        reads = self._short_of(size.mm)
        if reads is not None:
            raise OutOfRange(
                f"{size} is outside what {reads.name} reads ({reads.range_from_text or 0} to {reads.range_to_text}"
                f" {reads.unit}).",
                "Check the reading, or choose the instrument you used.",
                field=field,
                value=size.text,
            )

    @property
    def brackets(self) -> bool:
        """Whether it gives a bracket, not a number."""
        return how(self.instrument) == "bracket"


def _reads(one: Instrument, size_mm: Decimal, *, usual: bool = False) -> bool:
    kind = instrument_kinds().get(one.kind)
    ends = (one.range_from_mm or Decimal(0), one.range_to_mm) if one.range_to_mm is not None else None
    if ends is None and usual and kind is not None:
        ends = kind.usual_range_mm
    return ends is None or ends[0] <= size_mm <= ends[1]


def how(instrument: Instrument) -> How:
    """How an instrument is read, by its kind."""
    kind = instrument_kinds().get(instrument.kind)
    return kind.how if kind else "reads"


def instrument_choices(session: Session, kind: KindName) -> list[InstrumentChoice]:
    """What the shop has for a kind of feature: plain ones first, then every gauge with every micrometer that can read
    it.
    """
    everything = shop.instruments(session)
    suited = [row for row in everything if row.measures in feature_kind(kind).instruments]
    plain = [InstrumentChoice(row) for row in suited if how(row) != "transfer"]
    gauges = [row for row in suited if how(row) == "transfer"]
    readers = [row for row in everything if row.measures == "shaft" and how(row) == "reads"]
    return plain + [InstrumentChoice(reader, gauge) for gauge in gauges for reader in readers]


def offered(choices: list[InstrumentChoice], unit: Unit, sizes_mm: Iterable[Decimal]) -> list[InstrumentChoice]:
    """What can read any of these sizes (mm), that of the job's unit and nearest to them first; all of them where no
    size is known.

    One whose range nobody entered is not known to fall short: it stands last where its kind usually does not reach.

    Slips of the other unit are not offered: no pile of them makes a size of this one.
    """
    sizes = list(sizes_mm)
    able = [
        one
        for one in choices
        if (not sizes or any(one.reaches(mm) for mm in sizes))
        and (one.unit == unit or not is_of_family(one.instrument.kind, "slip_gauges"))
    ]
    return sorted(
        able or choices,
        key=lambda one: (
            bool(sizes) and not any(one.usually_reaches(mm) for mm in sizes),
            one.unit != unit,
            one.transfer is not None or one.brackets,
            one.span_mm,
            one.name,
        ),
    )


def finer_than(
    chosen: InstrumentChoice, choices: Iterable[InstrumentChoice], size_mm: Decimal
) -> InstrumentChoice | None:
    """The finest that reads a size (mm) itself, where it is enough finer than the chosen one to measure again with;
    else none.
    """
    plain = [one for one in choices if not one.transfer and not one.brackets and one.reaches(size_mm)]
    finest = min(plain, key=lambda one: uncertainty_of(one.instrument), default=None)
    if finest is None or not is_finer(uncertainty_of(finest.instrument), uncertainty_of(chosen.instrument)):
        return None
    return finest


def likeliest(
    choices: list[InstrumentChoice],
    last: str,
    unit: Unit,
    size_mm: Decimal | None = None,
    *,
    usual: tuple[str, ...] = (),
) -> InstrumentChoice | None:
    """The one used last; else of the `usual` kinds, in their order, what reads the unit before what does not; else the
    finest that reads the job's unit (a micrometer, not a caliper); else the finest.

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
