"""How a reading was taken: with which instrument in which state, carried by what, how warm; what it says and
is worth.
"""

from dataclasses import dataclass
from datetime import datetime, timedelta
from decimal import Decimal
from functools import lru_cache
from typing import Any
from uuid import UUID

from sqlalchemy.orm import Session as OrmSession

from nomisma.core.materials.temperature import at_20_c
from nomisma.core.measuring.indirect import IndirectReading, indirect_reading
from nomisma.core.measuring.uncertainty import (
    UncertaintyInput,
    UncertaintyResult,
    ZeroState,
    measuring_uncertainty,
)
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import split_sizes
from nomisma.store.by_version import by_version
from nomisma.store.checks import check_then, newest_check
from nomisma.store.models import Instrument, InstrumentCheck, Reading

FRESH = timedelta(hours=24)
"""How long a zero check counts: a working day. Source: common practice, no source."""
_TAIL = Decimal("1e-9")


@dataclass(frozen=True, slots=True)
class MeasuringMethod:
    """One way of taking a reading. `transfer` carried the size to the instrument; `half_bracket_mm` between two pins;

    `of_difference`: what counts is the difference of two readings, so that the zero falls out; `indirect`: the readings
    a size follows from.
    """

    instrument: Instrument
    zero: ZeroState = "not_said"
    zero_error_mm: Decimal = Decimal(0)
    transfer: Instrument | None = None
    temperature_c: Decimal | None = None
    material: str = ""
    half_bracket_mm: Decimal | None = None
    of_difference: bool = False
    indirect: IndirectReading | None = None

    @property
    def is_plain(self) -> bool:
        """Whether the instrument's own figures say all."""
        plain = not (self.transfer or self.half_bracket_mm or self.of_difference or self.indirect)
        return self.zero == "not_said" and plain and self.temperature_c is None

    def believed_mm(self, read_mm: Decimal) -> Decimal:
        """What was read (mm), less the zero error, brought to 20 °C. Raises OutOfRange, NotDefined."""
        if self.indirect:
            size = self.indirect.size_mm(self.zero_error_mm)
        else:
            size = read_mm - (Decimal(0) if self.of_difference else self.zero_error_mm)
        if self.temperature_c is None or not self.material:
            return size
        return at_20_c(size, self.temperature_c, self.material).quantize(_TAIL)

    def budget(self, size_mm: Decimal, *, repeats: int = 1) -> UncertaintyResult:
        """The whole budget of one reading of a size (mm), or of the mean of repeats. Raises InputError."""
        row = self.instrument
        figures = (row.resolution_mm, row.permitted_error_mm, row.repeatability_mm)
        carried = self.transfer.repeatability_mm if self.transfer else Decimal(0)
        warm = (
            (size_mm, self.temperature_c, self.material) if self.temperature_c is not None and self.material else None
        )
        return _budget(
            row.unit,
            figures,
            repeats,
            self.zero,
            carried,
            self.half_bracket_mm + row.permitted_error_mm if self.half_bracket_mm is not None else Decimal(0),
            warm,
            self.of_difference,
            self.indirect.sensitivity if self.indirect else Decimal(1),
        )

    def columns(self, read: Length) -> dict[str, Any]:
        """A reading's columns for what was read and how."""
        size_mm = self.believed_mm(read.mm)
        worth = None if self.is_plain else self.budget(size_mm).expanded_uncertainty.mm.quantize(_TAIL)
        return {
            "size_mm": size_mm,
            "size_text": read.text,
            "size_unit": read.unit,
            "read_mm": read.mm if size_mm != read.mm else None,
            "zero_error_mm": self.zero_error_mm,
            "temperature_c": self.temperature_c,
            "material": self.material if self.temperature_c is not None else "",
            "half_bracket_mm": self.half_bracket_mm,
            "uncertainty_mm": worth,
            "instrument_id": self.instrument.id,
            "transfer_id": self.transfer.id if self.transfer else None,
        }


@lru_cache(maxsize=1024)  # a shop has few instruments, and asks of each again and again
def _budget(
    unit: Unit,
    figures: tuple[Decimal, Decimal, Decimal],
    repeats: int,
    zero: ZeroState,
    carried_mm: Decimal,
    half_bracket_mm: Decimal,
    warm: tuple[Decimal, Decimal | None, str] | None,
    of_difference: bool,
    sensitivity: Decimal,
) -> UncertaintyResult:
    """The budget from plain figures (mm); `warm` is size, temperature and material where the part's temperature was
    taken.
    """
    resolution, permitted_error, repeatability = (Length(mm, unit) for mm in figures)
    size, temperature_c, material = warm or (None, None, "")
    return measuring_uncertainty(
        UncertaintyInput(
            resolution=resolution,
            permitted_error=permitted_error,
            repeatability=repeatability,
            repeats=repeats,
            zero=zero,
            transfer_repeatability=Length(carried_mm, unit),
            half_bracket=Length(half_bracket_mm, unit),
            of_difference=of_difference,
            sensitivity=sensitivity,
            size=Length(size, unit) if size else None,
            temperature_c=temperature_c,
            material=material,
        )
    )


def zero_state(check: InstrumentCheck | None, at: datetime) -> ZeroState:
    """Whether an instrument's zero is known at a time."""
    if check is None:
        return "not_said"
    return "fresh" if at - check.at <= FRESH else "stale"


def method_now(session: OrmSession, instrument: Instrument, at: datetime, **how: Any) -> MeasuringMethod:
    """A reading taken now with an instrument, its newest zero check counted."""
    check = newest_check(session, instrument.first_id)
    error = check.zero_error_mm if check else Decimal(0)
    return MeasuringMethod(instrument, zero_state(check, at), error, **how)


@by_version("shop")
def _instrument(session: OrmSession, row_id: UUID) -> Instrument:
    """An instrument as it was entered in one of its rows."""
    return session.get_one(Instrument, row_id)


@by_version("job")
def method_of(session: OrmSession, row: Reading) -> MeasuringMethod:
    """How a logged reading was taken, from its row; its zero by the check that counted then, never by a later one."""
    instrument = _instrument(session, row.instrument_id)
    transfer = _instrument(session, row.transfer_id) if row.transfer_id else None
    check = check_then(session, instrument.first_id, row.at) if row.zero_error_mm or row.uncertainty_mm else None
    return MeasuringMethod(
        instrument,
        zero_state(check, row.at),
        row.zero_error_mm,
        transfer,
        row.temperature_c,
        row.material,
        row.half_bracket_mm,
        **way_taken(row.size_text, row.size_unit, bracketed=row.half_bracket_mm is not None),
    )


def way_taken(text: str, unit: Unit, *, bracketed: bool) -> dict[str, Any]:
    """How the texts of a reading make its size: indirectly, as the difference of two, or plainly (pins in a bracket are
    neither).
    """
    indirect = None if bracketed else indirect_reading(text, unit)
    return {"indirect": indirect, "of_difference": not indirect and not bracketed and len(split_sizes(text)) == 2}
