"""The set-up of a truing from its form: surface, places, indicator, chuck, and how true it is wanted."""

from typing import get_args
from uuid import UUID

from nomisma.core.errors import InputError
from nomisma.core.measuring.instrument_kinds import is_of_family
from nomisma.core.number import is_whole
from nomisma.core.order.set_ups import WORKED_WORDS
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.truing.surface import Grip, places_of, surfaces, uses
from nomisma.jobs.standing.state import JobState
from nomisma.store import shop
from nomisma.store.models import Chuck, Instrument, Truing
from nomisma.store.truing import chucks
from nomisma.web.frame.visit import Form, Visit

NAMES = (
    "surface", "feature", "planned_set_up", "piece", "grip",
    "places", "teeth", "chuck_id", "screw_lead", "keys", "instrument_id", "unit", "graduation", "range", "needle_turn",
    "use",
    "target", "far", "length",
)  # fmt: skip
OWN_SWING = "own"
GRIPS = get_args(Grip)


def indicators(visit: Visit) -> list[Instrument]:
    """What a round can be read with."""
    return [row for row in shop.instruments(visit.db) if is_of_family(row.kind, "indicator")]


def typed_of(visit: Visit, truing: Truing | None, unit: Unit) -> dict[str, str]:
    """The form's fields from the set-up before, or how most begin: with the first chuck and indicator that read in the
    job's unit.
    """
    if truing is None:
        chuck = next((row for row in chucks(visit.db) if row.unit == unit), None)
        indicator = next((row for row in indicators(visit) if row.unit == unit), None)
        return {
            "surface": "outside",
            "grip": "",
            "places": "4",
            "keys": "one",
            "unit": unit,
            "use": "second_operation",
            "chuck_id": str(chuck.id) if chuck else "",
            "instrument_id": str(indicator.id) if indicator else "",
        }
    lengths = {
        name: getattr(truing, f"{name}_text")
        for name in ("screw_lead", "graduation", "range", "needle_turn", "target", "far", "length")
    }
    return {
        "surface": truing.surface,
        "grip": truing.grip,
        "places": str(truing.places),
        "teeth": str(truing.teeth or ""),
        "keys": truing.keys,
        "chuck_id": str(truing.chuck_id or ""),
        "instrument_id": str(truing.instrument_id or ""),
        "unit": truing.unit,
        "use": truing.use or OWN_SWING,
        **lengths,
    }


def set_up_from(visit: Visit, form: Form, state: JobState) -> Truing:
    """A row from the form. Raises InputError with the field's name."""
    chuck, indicator = _chosen_chuck(visit, form), chosen_indicator(visit, form)
    unit: Unit = "mm" if (indicator.unit if indicator else form.unit()) == "mm" else "in"
    surface = form.choice("surface", tuple(surfaces()))
    grip = _grip(form)
    places, teeth = _places(form, surface)
    use = form.choice("use", (*uses(), OWN_SWING))
    target = form.size("target", unit) if use == OWN_SWING else uses()[use].total_indicator_reading
    lead = _lead(form, chuck, unit)
    graduation = _or(form, "graduation", unit, _resolution(indicator))
    values = {
        "range": _or_none(form, "range", unit) or _range(indicator),
        "needle_turn": _or_none(form, "needle_turn", unit),
        "far": _or_none(form, "far", unit),
        "length": _or_none(form, "length", unit),
    }
    if values["length"] and not values["far"]:
        raise InputError(
            "A length that has to run true asks for a far circle.", "Give how far it is from the near one.", field="far"
        )
    more = {f"{name}_mm": value.mm for name, value in values.items() if value}
    texts = {f"{name}_text": _text(value) for name, value in values.items() if value}
    return Truing(
        id=form.client_id(),
        job_id=state.job.id,
        feature_id=_indicated(form, state),
        planned_set_up=_planned_set_up(form),
        piece=form.text("piece", longest=40),
        chuck_id=chuck.id if chuck else None,
        surface=surface,
        grip=grip,
        places=places,
        teeth=teeth,
        keys=form.choice("keys", ("one", "two")),
        use="" if use == OWN_SWING else use,
        unit=unit,
        instrument_id=indicator.id if indicator else None,
        target_mm=target.mm,
        target_text=_text(target),
        screw_lead_mm=lead.mm,
        screw_lead_text=_text(lead),
        graduation_mm=graduation.mm,
        graduation_text=_text(graduation),
        by_id=visit.account.id,
        **more,
        **texts,
    )


def to_be_indicated(state: JobState) -> list[JobState]:
    """The job at each feature that is made here and has a surface to put a needle on."""
    return [
        one for one in state.made if one.feature.of_kind.is_diameter or one.feature.of_kind.coached_by == "carriage"
    ]


def _indicated(form: Form, state: JobState) -> UUID | None:
    """The feature whose surface is indicated, by its letter; none where nobody said. Raises InputError."""
    letter = form.text("feature", longest=4).upper()
    found = next((one.feature_id for one in to_be_indicated(state) if one.letter == letter), None)
    if letter and found is None:
        raise InputError(
            f"There is no feature {letter} to put a needle on.", "Choose one from the list.", field="feature"
        )
    return found


def _planned_set_up(form: Form) -> str:
    """The set-up of the plan it is for; empty where it was not said. Raises InputError."""
    return form.choice("planned_set_up", tuple(WORKED_WORDS)) if form.text("planned_set_up") else ""


def _grip(form: Form) -> str:
    """Asked, never guessed: with the wrong one every move doubles the error. Raises InputError."""
    if not form.text("grip"):
        raise InputError(
            "It was not said how the jaws hold.",
            "Choose round the work, or from inside: ease and drive change over.",
            field="grip",
        )
    return form.choice("grip", GRIPS)


def _text(value: Length) -> str:
    """As it is shown in the form again: always with its unit, so that another indicator's unit changes nothing."""
    return str(value)


def _chosen_chuck(visit: Visit, form: Form) -> Chuck | None:
    if not form.text("chuck_id"):
        return None
    wanted = form.id("chuck_id")
    known = visit.db.get(Chuck, wanted)
    found = next((row for row in chucks(visit.db) if known and row.first_id == known.first_id), None)
    if found is None:
        raise InputError("That chuck is not in the shop.", "Choose it again.", field="chuck_id")
    return found


def chosen_indicator(visit: Visit, form: Form) -> Instrument | None:
    if not form.text("instrument_id"):
        return None
    wanted = form.id("instrument_id")
    known = visit.db.get(Instrument, wanted)
    found = next((row for row in indicators(visit) if known and row.first_id == known.first_id), None)
    if found is None:
        raise InputError("That is no indicator of this shop.", "Choose it again.", field="instrument_id")
    return found


def _places(form: Form, surface: str) -> tuple[int, int | None]:
    counts = surfaces()[surface].counts
    text = form.text("places", longest=4)
    teeth_text = form.text("teeth", longest=4)
    teeth = int(teeth_text) if is_whole(teeth_text) else None
    # A bar with flats has as many places as flats, whatever was chosen for a round before.
    places = counts[0] if len(counts) == 1 else int(text) if is_whole(text) else counts[0]
    places_of(surface, places, teeth=teeth or 0)
    return places, teeth if surface.startswith("pins") else None


def _lead(form: Form, chuck: Chuck | None, unit: Unit) -> Length:
    if chuck is not None and not form.text("screw_lead"):
        return Length(chuck.screw_lead_mm, "mm" if chuck.unit == "mm" else "in")
    if not form.text("screw_lead"):
        raise InputError(
            "How far a jaw travels in one turn of the key is not known.",
            "Choose the chuck, or turn the key once and measure: often 1/8 in or 3 mm.",
            field="screw_lead",
        )
    return form.size("screw_lead", unit)


def _or_none(form: Form, name: str, unit: Unit) -> Length | None:
    return form.size(name, unit) if form.text(name) else None


def _or(form: Form, name: str, unit: Unit, known: Length | None) -> Length:
    found = _or_none(form, name, unit) or known
    if found is None:
        raise InputError(
            "One line of the indicator is not known.", "Choose the indicator, or give its graduation.", field=name
        )
    return found


def _resolution(indicator: Instrument | None) -> Length | None:
    return Length(indicator.resolution_mm, "mm" if indicator.unit == "mm" else "in") if indicator else None


def _range(indicator: Instrument | None) -> Length | None:
    if indicator is None or indicator.range_to_mm is None:
        return None
    found = indicator.range_to_mm - (indicator.range_from_mm or 0)
    return Length(found, "mm" if indicator.unit == "mm" else "in") if found > 0 else None
