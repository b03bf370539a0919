"""Logging what the indicator says: one place, a whole round in one line, or the highest and the lowest; marks on
rounds.
"""

from dataclasses import dataclass
from decimal import Decimal
from typing import Literal
from uuid import UUID, uuid4, uuid5

from sqlalchemy.orm import Session

from nomisma.core.errors import InputError, needed, refused_as
from nomisma.core.number import is_whole, number_from
from nomisma.core.quantity.length import Length
from nomisma.core.quantity.writing import split_sizes
from nomisma.core.truing.course import advise
from nomisma.core.truing.needle import needle_reading
from nomisma.jobs.holding.truing_state import SAFETY, TruingState, as_read, set_up_of
from nomisma.jobs.standing.state import JobState
from nomisma.store.append import AlreadySent, append, sent_before
from nomisma.store.live import announce
from nomisma.store.models import Account, Truing, TruingEvent, TruingReading
from nomisma.store.truing import events_of, rounds_of

_NAMESPACE = UUID("5b2f1d0a-0c86-4d0e-9f53-7f0a4c1f9d11")
LAST_DEGREE = Decimal("359.99999")
"""Once round is 0 again."""


@dataclass(frozen=True, slots=True, kw_only=True)
class NeedleEntry:
    """What the indicator said, as typed: at one place, a whole round in one line, or the highest and the lowest of a
    turn.
    """

    id: UUID
    size: str = ""
    place: str = ""
    highest: str = ""
    lowest: str = ""
    highest_at_deg: str = ""
    circle: str = "near"
    tightened: bool = False
    round: str = ""


def _must_be_open(job: JobState | None) -> None:
    if job is not None:
        job.must_be_open()


def set_up_truing(session: Session, job: JobState, truing: Truing) -> Truing:
    """A new set-up of a job; the rounds of the one before stay in the record. Commits nothing. Raises HandedOver."""
    job.must_be_open()
    return append(session, truing)


def log_truing(session: Session, truing: TruingState, entry: NeedleEntry, *, by: Account, job: JobState | None) -> str:
    """Write what was read; what is to be said about it, if anything. A repeat is harmless.

    `job`: none in practice. Raises InputError, HandedOver.
    """
    _must_be_open(job)
    if kept := sent_before(session, TruingReading, entry.id, truing_id=truing.truing.id):
        _must_be_the_same(kept, truing, entry)
        return ""
    writing = _Writing(session, truing, entry, by)
    rows = writing.ends() if entry.highest or entry.lowest else writing.places()
    for row in rows:
        append(session, row)
    if job is not None:
        announce(session, job.job.number, "reading")
    return writing.refused_whole(rows[0].round) or _again(truing, rows)


def _must_be_the_same(kept: TruingReading, truing: TruingState, entry: NeedleEntry) -> None:
    """Raises AlreadySent where an entry that was kept says another reading now."""
    first = next(iter(split_sizes(entry.highest or entry.size)), "")
    if read_value(first, truing).mm != kept.read_mm:
        raise AlreadySent(
            f"This form had been sent before with something else in it; the first one stands: {kept.read_text}."
        )


def read_value(text: str, truing: TruingState, field: str = "size") -> Length:
    """One reading of the needle. Raises InputError, with the likely meaning where it is out of its range."""
    return needle_reading(
        text, truing.unit, range_mm=truing.set_up.range.mm if truing.set_up.range else None, field=field
    )


@dataclass(frozen=True, slots=True)
class _Writing:
    """One entry on its way to rows of the log."""

    session: Session
    truing: TruingState
    entry: NeedleEntry
    by: Account

    def places(self) -> list[TruingReading]:
        """One reading at the place chosen, or a whole round with spaces between. Raises InputError."""
        texts, wanted = split_sizes(needed(self.entry.size, "size")), len(self.truing.places)
        if len(texts) > 1:
            if len(texts) != wanted:
                raise InputError(
                    f"{len(texts)} readings for {wanted} places.",
                    f"One was missed, or one too many: type one, or all {wanted} from jaw 1 on.",
                    field="size",
                    value=self.entry.size[:200],
                )
            values = [read_value(text, self.truing) for text in texts]
            return [self._row(index, value, part=index) for index, value in enumerate(values)]
        names = [place.name for place in self.truing.places]
        if self.entry.place not in names:
            raise InputError(
                f"“{self.entry.place[:40]}” is not a place of this round.", "Choose one from the list.", field="place"
            )
        return [self._row(names.index(self.entry.place), read_value(texts[0], self.truing))]

    def ends(self) -> list[TruingReading]:
        """The highest and the lowest of a turn, and where the highest is. Raises InputError."""
        truing = self.truing
        high, low = (
            self._end(name, text) for name, text in (("highest", self.entry.highest), ("lowest", self.entry.lowest))
        )
        if high.mm < low.mm:
            raise InputError("The highest reading is below the lowest.", "Exchange them.", field="highest")
        at = _degrees(self.entry.highest_at_deg)
        number = truing.next_round + (truing.open_round is not None)
        if truing.open_round:
            _mark(self.session, truing, "set_aside", {"round": truing.open_round.number}, id=uuid4(), by=self.by)
        return [
            self._row(index, value, part=index, kind=kind, at_deg=at, number=number)
            for index, (kind, value) in enumerate((("highest", high), ("lowest", low)))
        ]

    def _end(self, name: str, text: str) -> Length:
        return read_value(needed(text, name), self.truing, name)

    def _row(
        self,
        place: int,
        value: Length,
        *,
        part: int = 0,
        kind: str = "place",
        at_deg: Decimal | None = None,
        number: int | None = None,
    ) -> TruingReading:
        truing, entry = self.truing, self.entry
        return TruingReading(
            id=uuid5(_NAMESPACE, f"{entry.id}/{part}") if part else entry.id,
            truing_id=truing.truing.id,
            round=number or self._round_number(),
            circle="far" if entry.circle == "far" and truing.truing.far_mm is not None else "near",
            kind=kind,
            place=place,
            at_deg=at_deg if at_deg is not None else Decimal(f"{truing.places[place].at_deg:.5f}"),
            read_mm=value.mm,
            read_text=value.text,
            read_unit=value.unit,
            tightened=entry.tightened,
            by_id=self.by.id,
        )

    def _round_number(self) -> int:
        """The round the page was at: what waited while the server was away belongs to the round it was read for."""
        truing = self.truing
        asked = int(self.entry.round) if is_whole(self.entry.round) else truing.next_round
        return asked if truing.open_round and asked == truing.open_round.number else max(asked, truing.next_round)

    def refused_whole(self, number: int) -> str:
        """A whole round that cannot be one (its swing is past the range) is set aside, and that is said."""
        row = self.truing.truing
        logged = rounds_of(self.session, row, events_of(self.session, [row.id]))
        found = next(one for one in logged if one.number == number)
        if not found.whole:
            return ""
        try:
            advise(set_up_of(row), as_read(found, self.truing.unit))
        except InputError as error:
            why = {"round": number, "why": error.problem}
            _mark(self.session, self.truing, "set_aside", why, id=uuid4(), by=self.by)
            return f"{error.problem} {error.remedy} This round is kept, and set aside."
        return ""


def _degrees(text: str) -> Decimal:
    how = "Give it in degrees from jaw 1, 0 to 359: jaw 2 is 90."
    needed(text, "highest_at_deg")
    with refused_as(f"“{text}” is not a direction.", how, field="highest_at_deg"):
        return number_from(text.replace("°", ""), least=0, most=LAST_DEGREE)


def _again(truing: TruingState, rows: list[TruingReading]) -> str:
    """A place read twice in a round: says whether it still reads the same."""
    if truing.open_round is None or len(rows) > 1:
        return ""
    before = truing.open_round.by_place.get(rows[0].place)
    if before is None or rows[0].round != truing.open_round.number:
        return ""
    name = truing.places[rows[0].place].name
    if abs(before.read_mm - rows[0].read_mm) <= truing.truing.graduation_mm * 2:
        return f"{name.capitalize()} read again: it still says the same."
    return (
        f"{name.capitalize()} read {before.read_text} first and {rows[0].read_text} now: something moved, or one was"
        " misread. The newer one counts; if in doubt, read the whole round again."
    )


def _mark(
    session: Session, truing: TruingState, kind: str, detail: dict[str, object], *, id: UUID, by: Account
) -> None:
    append(session, TruingEvent(id=id, truing_id=truing.truing.id, kind=kind, detail=detail, by_id=by.id))


def mark_round(
    session: Session,
    truing: TruingState,
    kind: Literal["confirmed", "set_aside"],
    *,
    by: Account,
    sent_id: UUID,
    job: JobState | None,
) -> None:
    """Confirm the newest round, or set it aside to read it again; commits nothing. Raises InputError, HandedOver."""
    _must_be_open(job)
    found = truing.open_round or (truing.logged[-1] if truing.logged else None)
    if found is None:
        raise InputError("Nothing was read yet.", "Read the first round.", field="size")
    _mark(session, truing, kind, {"round": found.number}, id=sent_id, by=by)


def declare_true(
    session: Session, truing: TruingState, ticked: frozenset[str], *, by: Account, sent_id: UUID, job: JobState
) -> None:
    """Ready to cut, with every safety step said; commits nothing. Raises InputError, HandedOver."""
    job.must_be_open()
    needed = [name for name, _ in SAFETY]
    missing = [name for name in needed if name not in ticked]
    if missing:
        raise InputError(
            f"{len(missing)} of the {len(needed)} steps {'is' if len(missing) == 1 else 'are'} not ticked.",
            "Do each at the machine, then tick it.",
            field="ready",
        )
    detail = {"steps": needed, "round": truing.logged[-1].number if truing.logged else 0}
    _mark(session, truing, "ready", detail, id=sent_id, by=by)
