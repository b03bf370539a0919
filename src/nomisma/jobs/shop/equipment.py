"""What the shop works with: machines, chucks and instruments entered or superseded, and an instrument checked on its
standard.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from typing import cast, get_args
from uuid import UUID

from sqlalchemy.orm import Session

from nomisma.core.cutting.speeds import speed_list
from nomisma.core.errors import InputError, NotDefined, OutOfRange, needed
from nomisma.core.measuring.instrument_kinds import instrument_kind
from nomisma.core.measuring.zero_check import ZeroCheckInput, zero_check
from nomisma.core.part.feature_kinds import Measures
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import parse_length, split_sizes
from nomisma.jobs.shop.rights import Action, must
from nomisma.store import shop
from nomisma.store.append import append
from nomisma.store.models import Account, Chuck, Instrument, InstrumentCheck, Machine

MEASURES: tuple[Measures, ...] = get_args(Measures)
"""What an instrument measures."""


@dataclass(frozen=True, slots=True)
class MachineGiven:
    """A lathe: its cross-slide dial, its speeds, and by name what has room on it; `supersedes_id`: the row it takes the
    place of.
    """

    id: UUID
    name: str
    unit: Unit
    dial_line: Length
    dial_reads: str
    dial_turn: Length | None = None
    backlash: Length | None = None
    most_cut: Length | None = None
    readout: bool = False
    speeds: str = ""
    most_rpm: int | None = None
    most_force_n: Decimal | None = None
    room: Mapping[str, Length] | None = None
    supersedes_id: UUID | None = None


@dataclass(frozen=True, slots=True)
class ChuckGiven:
    """An independent four-jaw: the lead of its screws and the speed marked on it."""

    id: UUID
    name: str
    unit: Unit
    screw_lead: Length
    most_rpm: int | None = None
    supersedes_id: UUID | None = None


@dataclass(frozen=True, slots=True)
class InstrumentGiven:
    """An instrument: what it reads to, what it may be out, its spread, its range and standard, and when it is due."""

    id: UUID
    name: str
    unit: Unit
    measures: str
    resolution: Length
    permitted_error: Length
    repeatability: Length
    kind: str = ""
    range_from: Length | None = None
    range_to: Length | None = None
    standard: str = ""
    due_on: date | None = None


@dataclass(frozen=True, slots=True)
class CheckGiven:
    """A check of an instrument: its standard, and what it read of it, as typed."""

    id: UUID
    standard: Length
    read: str
    note: str = ""


def enter_machine(session: Session, given: MachineGiven, *, by: Account) -> Machine:
    """A machine, or the row that supersedes one. Raises NotAllowed, OutOfRange, InputError. Commits nothing; sent twice
    it is one.
    """
    must(by, Action.SET_UP_SHOP)
    if given.dial_turn and given.dial_turn.mm < given.dial_line.mm:
        raise OutOfRange(
            "One turn shows less than one line.", "Give what one whole turn of the dial shows.", field="dial_turn"
        )
    speed_list(given.speeds)
    before = session.get(Machine, given.supersedes_id) if given.supersedes_id else None
    lengths = {name: cast(Length | None, getattr(given, name)) for name in ("dial_turn", "backlash", "most_cut")}
    row = Machine(
        id=given.id,
        name=needed(given.name, "name"),
        unit=given.unit,
        by_id=by.id,
        dial_line_mm=given.dial_line.mm,
        dial_line_text=given.dial_line.text,
        dial_reads=given.dial_reads,
        readout=given.readout,
        speeds=given.speeds,
        most_rpm=given.most_rpm,
        most_force_n=given.most_force_n,
        room={name: str(length) for name, length in (given.room or {}).items()},
        supersedes_id=before.id if before else None,
        **{f"{name}_mm": length.mm for name, length in lengths.items() if length},
        **{f"{name}_text": length.text for name, length in lengths.items() if length},
    )
    return append(session, row)


def enter_chuck(session: Session, given: ChuckGiven, *, by: Account) -> Chuck:
    """A chuck, or the row that supersedes one: what was learned of it stays with it. Raises NotAllowed, InputError.
    Commits nothing.
    """
    must(by, Action.SET_UP_SHOP)
    before = session.get(Chuck, given.supersedes_id) if given.supersedes_id else None
    if given.supersedes_id and before is None:
        raise InputError("That chuck is not in the shop.", "Choose it again.", field="name")
    row = Chuck(
        id=given.id,
        name=needed(given.name, "name"),
        unit=given.unit,
        by_id=by.id,
        screw_lead_mm=given.screw_lead.mm,
        screw_lead_text=given.screw_lead.text,
        most_rpm=given.most_rpm,
        of_id=before.first_id if before else None,
        supersedes_id=before.id if before else None,
    )
    return append(session, row)


def instrument_numbered(session: Session, first_id: UUID) -> Instrument:
    """An instrument as it is entered now, by the id it was first entered with. Raises NotDefined."""
    found = next((row for row in shop.instruments(session) if row.first_id == first_id), None)
    if found is None:
        raise NotDefined("There is no such instrument.", "Look for it in the Shop.", field="number")
    return found


def enter_instrument(
    session: Session, given: InstrumentGiven, *, by: Account, before: Instrument | None = None
) -> Instrument:
    """An instrument, or the row that supersedes one: readings keep what was true of theirs. Raises NotAllowed,
    InputError, NotDefined.

    Commits nothing; sent twice it is one.
    """
    must(by, Action.SET_UP_SHOP)
    if sent_before := session.get(Instrument, given.id):
        before = session.get(Instrument, sent_before.supersedes_id) if sent_before.supersedes_id else None
    if given.repeatability.mm < 0:
        raise InputError("A spread is never below zero.", "Leave out the sign.", field="repeatability")
    low, high = given.range_from, given.range_to
    if high and (low.mm if low else 0) >= high.mm:
        raise InputError("The range ends before it begins.", "Exchange the two, or leave both out.", field="range_to")
    if given.kind:
        instrument_kind(given.kind, field="kind")
    sizes = {name: cast(Length, getattr(given, name)) for name in ("resolution", "permitted_error", "repeatability")}
    row = Instrument(
        id=given.id,
        name=needed(given.name, "name"),
        unit=given.unit,
        measures=given.measures,
        kind=given.kind,
        standard=given.standard,
        due_on=given.due_on,
        of_id=before.first_id if before else None,
        supersedes_id=before.id if before else None,
        by_id=by.id,
        **{f"{name}_mm": size.mm for name, size in sizes.items()},
        **{f"{name}_text": size.text for name, size in sizes.items()},
        range_from_mm=low.mm if low else None,
        range_from_text=low.text if low else "",
        range_to_mm=high.mm if high else None,
        range_to_text=high.text if high else "",
    )
    return append(session, row)


def log_check(session: Session, instrument: Instrument, given: CheckGiven, *, by: Account) -> InstrumentCheck:
    """A check of an instrument on its standard; everybody who measures may. Raises InputError. Commits nothing; sent
    twice it is one.
    """
    unit = instrument.unit
    try:
        sizes = [parse_length(part, unit, positive=False) for part in split_sizes(needed(given.read, "read"))]
        permitted = Length(instrument.permitted_error_mm, unit)
        found = zero_check(ZeroCheckInput(standard=given.standard, readings=sizes, permitted_error=permitted))
    except InputError as error:
        error.field = "read"
        raise
    row = InstrumentCheck(
        id=given.id,
        instrument_id=instrument.id,
        of_id=instrument.first_id,
        standard_mm=given.standard.mm,
        standard_text=given.standard.text,
        read_text=given.read,
        unit=unit,
        zero_error_mm=found.zero_error.mm,
        permitted_error_mm=instrument.permitted_error_mm,
        note=given.note,
        by_id=by.id,
    )
    return append(session, row)
