"""Logging a reading: how it was taken, whether it is to be believed, and writing it; correcting one by superseding."""

from dataclasses import replace
from decimal import Decimal
from typing import cast
from uuid import UUID, uuid4

from nomisma.core.cutting.amount import DialReads, line_on_diameter
from nomisma.core.cutting.dialled import Dialled
from nomisma.core.cutting.findings import meant_otherwise
from nomisma.core.errors import InputError
from nomisma.core.fits.partner import LARGEST_SPREAD
from nomisma.core.materials.material import material_named
from nomisma.core.materials.temperature import check_measured_at
from nomisma.core.measuring.conditions import CONDITIONS
from nomisma.core.measuring.misread import MisreadInput, misread
from nomisma.core.measuring.pins import PinBracketInput, pin_bracket
from nomisma.core.measuring.place import parse_place
from nomisma.core.part.feature import Acceptance, cut_direction, toward_metal
from nomisma.core.part.feature_kinds import feature_kind
from nomisma.core.quantity.callout import pins_tried
from nomisma.core.quantity.display import show_exact
from nomisma.core.quantity.fields import celsius
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import parse_length
from nomisma.jobs.state import JobState
from nomisma.store import readings, shop
from nomisma.store.append import append
from nomisma.store.live import announce
from nomisma.store.models import Instrument, Reading, ReadingDoubt
from nomisma.store.readings import uncertainty_of
from nomisma.store.taken import Taken, taken_again, taken_with
from nomisma.web.at_hand import AtHand, at_hand
from nomisma.web.cutting import bench_of, cut_row, expected_size_mm
from nomisma.web.gate import check_correction
from nomisma.web.reading_form import Doubted, feature_log
from nomisma.web.visit import Form, Visit, now


def log_reading(visit: Visit, form: Form, state: JobState) -> Reading:
    """Write one reading and commit it. Raises InputError; a repeat of the same form is harmless.

    A number without a unit is in the unit the instrument reads.
    """
    if sent_before := _sent_before(visit, form, state):
        return sent_before
    state.must_be_open()
    state.must_count()
    choice = _choice(visit, form, state)
    size, half_bracket = read_size(form, choice, state.acceptance)
    taken = _taken(visit, form, choice, half_bracket)
    place = _place(form, size.unit)
    piece = form.text("piece", longest=40) if state.in_hand.made_here else ""
    if half_bracket is None:
        _ask_first(visit, form, state, size, choice, place, piece)
        choice.must_reach(size, "size")
    row = append(
        visit.db,
        Reading(
            id=form.client_id(),
            job_id=state.job.id,
            feature_id=state.feature_id,
            place=place,
            piece=piece,
            cut_number=_cut_number(visit, form, state, piece) if state.in_hand.made_here else 0,
            limits_id=state.limits.id if state.limits else None,
            conditions=",".join(_conditions(form)),
            by_id=visit.account.id,
            reason="",
            withdrawn=False,
            doubt_id=_doubt_id(visit, form, state),
            **taken.columns(size),
        ),
    )
    stoned = form.text("cut_since") == "stoned"
    if state.in_hand.made_here and (stoned or (_cut(form) and _said_dialled(form, state))):
        cut = cut_row(visit, form, state, row, None if stoned else _dialled(visit, form, state, piece))
        if cut is not None:
            append(visit.db, cut)
    announce(visit.db, state.job.number, "reading")
    visit.db.commit()
    return row


def _sent_before(visit: Visit, form: Form, state: JobState) -> Reading | None:
    """The row of the same form sent earlier with the same size: a repeat after a lost answer, from whatever queue."""
    row = visit.db.get(Reading, form.client_id()) if form.text("client_id") else None
    same = row is not None and row.feature_id == state.feature_id and row.size_text == _tidy(form)
    return row if same else None


def _tidy(form: Form) -> str:
    try:
        return parse_length(form.text("size"), "in").text
    except InputError:
        return form.text("size")


def _choice(visit: Visit, form: Form, state: JobState) -> AtHand:
    wanted = _as_it_is_now(visit, form.text("instrument_id", needed=True))
    found = next((choice for choice in at_hand(visit, state.kind) if choice.id == wanted), None)
    if found is None:
        raise InputError("That instrument is not one for this.", "Choose one from the list.", field="instrument_id")
    return found


def _as_it_is_now(visit: Visit, wanted: str) -> str:
    """The choice with its instruments' newest rows: one may have been changed since the page was opened, or while it waited."""
    newest = {row.first_id: row.id for row in shop.instruments(visit.db)}
    parts = []
    for part in wanted.split("+"):
        try:
            row = visit.db.get(Instrument, UUID(part))
        except ValueError:
            return wanted
        parts.append(str(newest.get(row.first_id, part)) if row else part)
    return "+".join(parts)


def read_size(form: Form, choice: AtHand, acceptance: Acceptance) -> tuple[Length, Decimal | None]:
    """What was read; pins give the middle of their bracket and half of it (mm). Raises InputError."""
    if not choice.brackets:
        return form.size("size", choice.unit), None
    text = form.text("size", needed=True, longest=60)
    try:
        go, no_go = pins_tried(text, choice.unit)
        error = Length(choice.instrument.permitted_error_mm, choice.unit)
        found = pin_bracket(PinBracketInput(go=go, no_go=no_go, pin_error=error, acceptance=acceptance))
    except InputError as error:
        error.field = "size"
        raise
    half = (found.greatest.mm - found.least.mm) / 2
    return Length((found.least.mm + found.greatest.mm) / 2, choice.unit, text), half


def _taken(visit: Visit, form: Form, choice: AtHand, half_bracket: Decimal | None) -> Taken:
    temperature = _temperature(form)
    material = form.text("material", longest=40) if temperature is not None else ""
    if temperature is not None:
        if not material:
            raise InputError(
                "A temperature is given, but not what the part is made of.", "Choose its material.", field="temperature_c"
            )
        material_named(material, field="temperature_c")
    return taken_with(
        visit.db, choice.instrument, now(), transfer=choice.transfer, temperature_c=temperature, material=material,
        half_bracket_mm=half_bracket,
    )  # fmt: skip


def _temperature(form: Form) -> Decimal | None:
    """The part's temperature in °C; with F at its end it was typed in °F. Raises InputError."""
    text = form.text("temperature_c", longest=20)
    if not text:
        return None
    try:
        value = celsius(text)
    except InputError as error:
        raise error.at("temperature_c") from None
    check_measured_at(value, text)
    return value.quantize(Decimal("0.01"))


def _place(form: Form, unit: Unit) -> str:
    """The place chosen, or one in words: 12.5 mm 45°. Raises InputError."""
    other = form.text("place_other", longest=40)
    return parse_place(other or form.text("place", needed=True), unit).text


def _conditions(form: Form) -> list[str]:
    return [name for name in CONDITIONS if form.text(f"condition_{name}") == "yes"]


def _doubt_before(visit: Visit, form: Form, state: JobState) -> ReadingDoubt | None:
    """What was asked about just before, if this answers it: the same size again confirms it."""
    if not form.text("doubt_id"):
        return None
    row = visit.db.get(ReadingDoubt, form.id("doubt_id"))
    return row if row and row.job_id == state.job.id else None


def _doubt_id(visit: Visit, form: Form, state: JobState) -> UUID | None:
    doubt = _doubt_before(visit, form, state)
    return doubt.id if doubt else None


def _ask_first(visit: Visit, form: Form, state: JobState, size: Length, choice: AtHand, place: str, piece: str) -> None:
    """Keep a size that is not what was to be expected, or was not taken well, and ask. Raises Doubted, InputError."""
    doubt = _doubt_before(visit, form, state)
    confirmed = doubt is not None and doubt.size_mm == size.mm
    if not confirmed:
        found = misread(_expectation(visit, form, state, size, choice.instrument, piece))
        about_dial = _ask_about_the_dial(visit, form, state, size, piece) if state.in_hand.made_here else ""
        sentence = about_dial or (
            found.sentence if found.suspected else " ".join(CONDITIONS[name] for name in _conditions(form))
        )
        if found.suspected and not found.step and not about_dial:
            _check_likely(size, state)  # a wrong unit or a slipped point is no misread
        if sentence:
            raise Doubted(sentence, _keep_doubt(visit, state, size, choice.instrument, place, sentence))
    _check_likely(size, state)


def _keep_doubt(
    visit: Visit, state: JobState, size: Length, instrument: Instrument, place: str, sentence: str
) -> ReadingDoubt:
    row = ReadingDoubt(
        id=uuid4(), job_id=state.job.id, feature_id=state.feature_id, place=place, size_mm=size.mm, size_text=size.text, size_unit=size.unit,
        instrument_id=instrument.id, sentence=sentence, by_id=visit.account.id,
    )  # fmt: skip
    append(visit.db, row)
    visit.db.commit()
    return row


def _expectation(
    visit: Visit, form: Form, state: JobState, size: Length, instrument: Instrument, piece: str
) -> MisreadInput:
    """What is known to hold a reading against: other places, the dial, the size before the cut, the limits."""
    extremes = state.own_readings.of_piece(piece) if state.in_hand.made_here else state.own_readings
    known = [Length(mm, size.unit) for mm in (extremes.smallest_mm, extremes.largest_mm)] if extremes.count else []
    cut = state.in_hand.made_here and _came_off(form)
    feature = state.feature
    return MisreadInput(
        kind=state.kind,
        reading=size,
        instrument_unit=cast(Unit, instrument.unit),
        uncertainty=Length(uncertainty_of(instrument), size.unit),
        others=[] if cut else known,
        before=known if cut else [],
        expected=_from_the_dial(visit, form, state, known, piece, cast(Unit, instrument.unit))
        if _cut(form) and cut and known
        else None,
        lower=Length(feature.lower_mm, size.unit) if feature.lower_mm is not None else None,
        upper=Length(feature.upper_mm, size.unit) if feature.upper_mm is not None else None,
        form_seen=Length(_form_seen_mm(visit, state, piece), size.unit),
    )


def _form_seen_mm(visit: Visit, state: JobState, piece: str) -> Decimal:
    """How far apart the standing readings of one cut of a piece lay at most (mm): work that was oval then is oval now."""
    by_cut: dict[int, list[Decimal]] = {}
    for one in feature_log(visit, state):
        if one.stands and one.row.piece == piece:
            by_cut.setdefault(one.row.cut_number, []).append(one.row.size_mm)
    return max((max(sizes) - min(sizes) for sizes in by_cut.values()), default=Decimal(0))


def _cut(form: Form) -> bool:
    """Whether a cut was taken with the tool since the last reading."""
    return form.text("cut_since") == "cut"


def _came_off(form: Form) -> bool:
    """Whether metal came off since the last reading, by the tool or by stone or cloth."""
    return form.text("cut_since") in ("cut", "stoned")


def _said_dialled(form: Form, state: JobState) -> str:
    """What was dialled at the cross-slide, as typed; nothing of a feature it does not cut."""
    return form.text("dialled", longest=120) if feature_kind(state.kind).coached_by == "cross_slide" else ""


def _dialled(visit: Visit, form: Form, state: JobState, piece: str) -> Dialled:
    """What was dialled, on diameter; 0 is the same dial again. Raises InputError."""
    return bench_of(visit, state, piece).dialled(form.text("dialled", longest=120))


def _ask_about_the_dial(visit: Visit, form: Form, state: JobState, size: Length, piece: str) -> str:
    """What the amount dialled may have meant, where what came off fits that and not the amount; empty where nothing does."""
    if not (_cut(form) and _said_dialled(form, state)):
        return ""
    bench = bench_of(visit, state, piece)
    before, dialled = bench.size_mm, bench.dialled(form.text("dialled", longest=120)).total
    if before is None or not dialled.mm:
        return ""
    removed = state.feature.metal_removed(before, size.mm)
    if removed <= 0 or abs(removed - dialled.mm) < dialled.mm / 2:
        return ""
    line = (
        line_on_diameter(bench.machine.dial_line_mm, cast(DialReads, bench.machine.dial_reads))
        if bench.machine
        else Decimal(0)
    )
    words = meant_otherwise(dialled_mm=float(dialled.mm), removed_mm=float(removed), line_mm=float(line))
    if not words:
        return ""
    took = show_exact(removed, state.unit)
    return f"{took} came off, and {form.text('dialled')} was dialled: that fits if it is {words}. Type what was dialled, like 28 lines."


def _from_the_dial(visit: Visit, form: Form, state: JobState, known: list[Length], piece: str, unit: Unit) -> Length | None:
    """The size to expect after a cut, where it was said how much was dialled on diameter; by this set-up's cuts if there are any."""
    if not _said_dialled(form, state):
        return None
    dialled = _dialled(visit, form, state, piece)
    # A tool touched on anew takes nothing of what the last cut left standing.
    anew = form.text("new_set_up") == "yes"
    found = None if anew else expected_size_mm(visit, state, piece, dialled)
    if found is not None and found > 0:
        return Length(found, unit)
    middle = (known[0].mm + known[-1].mm) / 2
    expected = middle - cut_direction(state.kind) * dialled.total.mm
    if expected <= 0:
        raise InputError(
            f"A cut of {dialled.total} would leave nothing.", "Give what was dialled on diameter.", field="dialled"
        )
    return Length(expected, unit)


def _cut_number(visit: Visit, form: Form, state: JobState, piece: str) -> int:
    """The number of the cut this reading follows."""
    return readings.last_cut_number(visit.db, state.feature_id, piece) + _came_off(form)


def _check_likely(size: Length, state: JobState) -> None:
    """Asks before a size is believed that is nowhere near what is known of it."""
    extremes, feature, wanted = state.own_readings, state.feature, state.requirement
    if extremes.count:
        _check_spread(size, extremes.smallest_mm, extremes.largest_mm, state)
    elif feature.lower_mm is not None and feature.upper_mm is not None:
        _check_against(size, feature.lower_mm, feature.upper_mm, "the limits")
    elif wanted is not None and wanted.nominal_mm:
        _check_against(size, wanted.nominal_mm, wanted.nominal_mm, "its size")


def _check_spread(size: Length, smallest_mm: Decimal, largest_mm: Decimal, state: JobState) -> None:
    """A partner's size hardly changes from place to place; a part being cut may be far from its last reading, not that far."""
    if not cut_or_at_hand(state):
        return
    share = Decimal("0.5") if state.in_hand.made_here else LARGEST_SPREAD
    if size.mm < smallest_mm * (1 - share) or size.mm > largest_mm * (1 + share):
        seen = Length(largest_mm, size.unit)
        raise InputError(
            f"{size} is far from the other readings (near {seen}).",
            "Check the unit and the decimal point.",
            field="size",
            value=size.text,
        )


def cut_or_at_hand(state: JobState) -> bool:
    """Whether readings of the feature in hand lie near each other: not where it may be anything from nothing up, like a runout."""
    return toward_metal(state.feature.side) != 0 or not state.in_hand.made_here


def _check_against(size: Length, lower_mm: Decimal, upper_mm: Decimal, what: str) -> None:
    if size.mm < lower_mm / 3 or size.mm > upper_mm * 3:
        ends = dict.fromkeys(str(Length(mm, size.unit)) for mm in (lower_mm, upper_mm))
        raise InputError(
            f"{size} is nowhere near {what} ({' to '.join(ends)}).",
            "Check the unit and the decimal point.",
            field="size",
            value=size.text,
        )


def supersede(visit: Visit, form: Form, state: JobState, reading: Reading) -> Reading:
    """Write the row that supersedes a reading: a new size taken in the same way, or a withdrawal. Raises InputError."""
    check_correction(visit, state, reading)
    reason = form.text("reason", needed=True, longest=300)
    withdrawn = form.text("what") == "withdraw"
    taken = taken_again(visit.db, reading)
    if withdrawn:
        shown = reading.size_mm if reading.read_mm is None else reading.read_mm
        size = Length(shown, cast(Unit, reading.size_unit), reading.size_text)
    elif reading.half_bracket_mm is not None:
        size, half = read_size(form, AtHand(taken.instrument), state.acceptance)
        taken = replace(taken, half_bracket_mm=half)
    else:
        size = form.size("size", state.unit)
    limits = state.at(reading.feature_id).limits
    row = append(
        visit.db,
        Reading(
            id=form.client_id(),
            job_id=state.job.id,
            feature_id=reading.feature_id,
            place=reading.place,
            piece=reading.piece,
            cut_number=reading.cut_number,
            conditions=reading.conditions,
            limits_id=limits.id if limits else None,
            supersedes_id=reading.id,
            reason=reason,
            withdrawn=withdrawn,
            by_id=visit.account.id,
            **taken.columns(size),
        ),
    )
    announce(visit.db, state.job.number, "reading")
    visit.db.commit()
    return row
