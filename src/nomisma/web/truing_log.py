"""Logging what the indicator says: one place, a whole round in one line, or the highest and the lowest; marks on rounds."""

from decimal import Decimal
from uuid import UUID, uuid4, uuid5

from nomisma.core.errors import InputError, OutOfRange, refused_as
from nomisma.core.number import is_whole, number_from
from nomisma.core.quantity.display import show
from nomisma.core.quantity.length import Length
from nomisma.core.quantity.writing import parse_length
from nomisma.core.truing.course import advise
from nomisma.core.truing.four_jaw import LARGEST_SWING_MM
from nomisma.store.append import append
from nomisma.store.live import announce
from nomisma.store.models import TruingEvent, TruingReading
from nomisma.store.truing import events_of, rounds_of
from nomisma.web.tools.tool import split_sizes
from nomisma.web.truing_view import TruingView, as_read, set_up_of
from nomisma.web.visit import Form, Visit

_NAMESPACE = UUID("5b2f1d0a-0c86-4d0e-9f53-7f0a4c1f9d11")
LAST_DEGREE = Decimal("359.99999")
"""Once round is 0 again."""


def log_truing(visit: Visit, form: Form, view: TruingView, job_number: int | None) -> str:
    """Write what was read and commit it; what is to be said about it, if anything. Raises InputError; a repeat is harmless."""
    if form.text("client_id") and visit.db.get(TruingReading, form.client_id()) is not None:
        return ""
    rows = _ends(visit, form, view) if form.text("highest") or form.text("lowest") else _places(visit, form, view)
    for row in rows:
        append(visit.db, row)
    if job_number is not None:
        announce(visit.db, job_number, "reading")
    visit.db.commit()
    return _refused_whole(visit, view, rows[0].round) or _again(view, rows)


def read_value(text: str, view: TruingView, field: str = "size") -> Length:
    """One reading of the needle. Raises InputError, with the likely meaning where it is out of its range."""
    try:
        found = parse_length(text, view.unit, positive=False)
    except InputError as error:
        raise error.at(field) from None
    most = view.set_up.range.mm if view.set_up.range else Decimal(LARGEST_SWING_MM)
    if abs(found.mm) <= most:
        return found
    meant, typed = "", abs(found.value("in"))
    if found.unit == "in" and view.unit == "in":
        meant = (
            f" Thou are written “{text.strip()} thou”." if typed >= 1 else f" Millimetres are written “{text.strip()} mm”."
        )
    raise OutOfRange(
        f"{found} is past the indicator's range of {show(most, view.unit)}.",
        "Check the unit and the point; if the needle has gone round, bring the work nearer by the chuck's rings and read again."
        + meant,
        field=field,
        value=text,
    )


def _places(visit: Visit, form: Form, view: TruingView) -> list[TruingReading]:
    """One reading at the place chosen, or a whole round with spaces between."""
    texts = split_sizes(form.text("size", needed=True, longest=1000))
    if len(texts) > 1:
        if len(texts) != len(view.places):
            raise InputError(
                f"{len(texts)} readings for {len(view.places)} places.",
                f"One was missed, or one too many: type one, or all {len(view.places)} from jaw 1 on.",
                field="size",
                value=form.shown("size"),
            )
        values = [read_value(text, view) for text in texts]
        return [_row(visit, form, view, index, value, part=index) for index, value in enumerate(values)]
    chosen = form.text("place", needed=True)
    names = [place.name for place in view.places]
    if chosen not in names:
        raise InputError(f"“{chosen[:40]}” is not a place of this round.", "Choose one from the list.", field="place")
    return [_row(visit, form, view, names.index(chosen), read_value(texts[0], view))]


def _ends(visit: Visit, form: Form, view: TruingView) -> list[TruingReading]:
    """The highest and the lowest of a turn, and where the highest is."""
    high, low = (read_value(form.text(name, needed=True, longest=60), view, name) for name in ("highest", "lowest"))
    if high.mm < low.mm:
        raise InputError("The highest reading is below the lowest.", "Exchange them.", field="highest")
    at = _degrees(form.text("highest_at_deg", needed=True, longest=10))
    number = view.next_round + (view.open_round is not None)
    if view.open_round:
        _mark(visit, view, "set_aside", {"round": view.open_round.number}, uuid4())
    return [
        _row(visit, form, view, index, value, part=index, kind=kind, at_deg=at, number=number)
        for index, (kind, value) in enumerate((("highest", high), ("lowest", low)))
    ]


def _degrees(text: str) -> Decimal:
    how = "Give it in degrees from jaw 1, 0 to 359: jaw 2 is 90."
    with refused_as(f"“{text}” is not a direction.", how, field="highest_at_deg"):
        return number_from(text.replace("°", ""), least=0, most=LAST_DEGREE)


def _row(
    visit: Visit, form: Form, view: TruingView, place: int, value: Length, *, part: int = 0, kind: str = "place",
    at_deg: Decimal | None = None, number: int | None = None,
) -> TruingReading:  # fmt: skip
    own = form.client_id()
    return TruingReading(
        id=uuid5(_NAMESPACE, f"{own}/{part}") if part else own,
        truing_id=view.truing.id,
        round=number or _round_number(form, view),
        circle="far" if form.text("circle") == "far" and view.truing.far_mm is not None else "near",
        kind=kind,
        place=place,
        at_deg=at_deg if at_deg is not None else Decimal(f"{view.places[place].at_deg:.5f}"),
        read_mm=value.mm,
        read_text=value.text,
        read_unit=value.unit,
        tightened=form.text("tightened") == "tight",
        by_id=visit.account.id,
    )


def _round_number(form: Form, view: TruingView) -> int:
    """The round the page was at: what waited while the server was away belongs to the round it was read for."""
    text = form.text("round", longest=6)
    asked = int(text) if is_whole(text) else view.next_round
    return asked if view.open_round and asked == view.open_round.number else max(asked, view.next_round)


def _refused_whole(visit: Visit, view: TruingView, number: int) -> str:
    """A whole round that cannot be one (its swing is past the range) is set aside, and that is said."""
    found = next(
        one for one in rounds_of(visit.db, view.truing, events_of(visit.db, [view.truing.id])) if one.number == number
    )
    if not found.whole:
        return ""
    try:
        advise(set_up_of(view.truing), as_read(found, view.unit))
    except InputError as error:
        _mark(visit, view, "set_aside", {"round": number, "why": error.problem}, uuid4())
        visit.db.commit()
        return f"{error.problem} {error.remedy} This round is kept, and set aside."
    return ""


def _again(view: TruingView, rows: list[TruingReading]) -> str:
    """A place read twice in a round: says whether it still reads the same."""
    if view.open_round is None or len(rows) > 1:
        return ""
    before = view.open_round.by_place.get(rows[0].place)
    if before is None or rows[0].round != view.open_round.number:
        return ""
    name = view.places[rows[0].place].name
    if abs(before.read_mm - rows[0].read_mm) <= view.truing.graduation_mm * 2:
        return f"{name.capitalize()} read again: it still says the same."
    return (
        f"{name.capitalize()} read {before.read_text} first and {rows[0].read_text} now: something moved, or one was misread. "
        "The newer one counts; if in doubt, read the whole round again."
    )


def _mark(visit: Visit, view: TruingView, kind: str, detail: dict[str, object], id: UUID) -> None:
    append(visit.db, TruingEvent(id=id, truing_id=view.truing.id, kind=kind, detail=detail, by_id=visit.account.id))


def mark_round(visit: Visit, form: Form, view: TruingView, kind: str) -> None:
    """Confirm the newest round, or set it aside to read it again. Raises InputError."""
    found = view.open_round or (view.logged[-1] if view.logged else None)
    if found is None:
        raise InputError("Nothing was read yet.", "Read the first round.", field="size")
    _mark(visit, view, kind, {"round": found.number}, form.client_id())
    visit.db.commit()


def say_ready(visit: Visit, form: Form, view: TruingView, needed: tuple[str, ...]) -> None:
    """Ready to cut, with every safety step said. Raises InputError."""
    missing = [name for name in needed if form.text(name) != "yes"]
    if missing:
        raise InputError(
            f"{len(missing)} of the {len(needed)} steps {'is' if len(missing) == 1 else 'are'} not ticked.",
            "Do each at the machine, then tick it.",
            field="ready",
        )
    detail = {"steps": list(needed), "round": view.logged[-1].number if view.logged else 0}
    _mark(visit, view, "ready", detail, form.client_id())
    visit.db.commit()
