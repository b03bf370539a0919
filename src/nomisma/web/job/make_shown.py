"""What Make shows of the step in hand: what is done now, the field it is closed with, and what stands beside it."""

from dataclasses import dataclass, field
from typing import Any, Literal, assert_never

from nomisma.core.errors import InputError
from nomisma.core.part.feature import State
from nomisma.core.registry import calculation_named, calculations
from nomisma.jobs.closing.record import recorded_answers
from nomisma.jobs.cutting.cutting_run import CuttingRun, cutting_run
from nomisma.jobs.cutting.planned_stops import stops_for
from nomisma.jobs.holding.truing_state import truing_state
from nomisma.jobs.making.as_before import held_against_the_first, piece_before
from nomisma.jobs.making.steps import Making, Step, goes_by, of_every_piece
from nomisma.jobs.making.taken_now import going_on_with, taken_now, waits_behind
from nomisma.jobs.planning.plan_work import PlannedWork
from nomisma.jobs.shop.clock import now
from nomisma.jobs.standing.pieces import places_read, places_to_close
from nomisma.jobs.standing.state import JobState
from nomisma.store.gauges import gauges_of, waiting
from nomisma.store.jobs import kept_answers
from nomisma.store.truing import truing_of
from nomisma.web.frame.job_in_hand import href
from nomisma.web.frame.part_section import section_of_job
from nomisma.web.frame.visit import Form, Visit
from nomisma.web.job.chucking import indicators_for
from nomisma.web.job.coach_shown import advice_of, advised_in
from nomisma.web.job.cut_along import along_of
from nomisma.web.job.hold import HoldAnswer, shown
from nomisma.web.job.measure import measured
from nomisma.web.job.moments import held_picture, moment_of
from nomisma.web.job.plan_stops import stops_address
from nomisma.web.job.reading_form import ReadingForm, feature_log, form_for
from nomisma.web.job.trials import trial_form
from nomisma.web.worksheets.kept_shown import kept_shown

Asks = Literal["looked", "swing", "rounds", "begin_rounds", "trial", "reading", "nothing", "closed"]
"""What a step is closed with: all looked at, the needle's swing, a truing's rounds, a trial, a reading, one key;
nothing where the job is closed.
"""


@dataclass(frozen=True)
class Said:
    """What an answer has to say beside the step: what was wrong, what was typed, what was noticed."""

    error: InputError | None = None
    typed: Form | None = None
    note: str = ""
    truing: HoldAnswer = field(default_factory=HoldAnswer)

    @property
    def fields(self) -> dict[str, str]:
        """What was typed, by field; empty where nothing was refused."""
        return {name: self.typed.shown(name) for name in TYPED} if self.typed else {}


TYPED = ("runout", "instrument_id", "start_reason", "now_reason")


def asks_for(step: Step, making: Making) -> Asks:
    """What a step is closed with."""
    state = making.state
    if state.handed_over:
        return "closed"
    if step.kind == "hold":
        return _asks_before_first_start(step)
    one = step.feature
    if one is None or not one.takes_readings:
        return "nothing"
    return "trial" if one.is_compared else "reading"


def _asks_before_first_start(step: Step) -> Asks:
    chucking = step.chucking
    assert chucking is not None, "what is held is a chucking"
    if chucking.way.read_as == "rounds":
        return "rounds"
    must_be_read = chucking.allowed.most_mm is not None and chucking.last_runout is None
    return "swing" if (must_be_read or chucking.is_too_much) and not chucking.ready else "looked"


def step_href(making: Making, step: Step | None) -> str:
    """The address of a step of the piece in hand; without one, of whatever is next."""
    said_of = {"step": step.key if step else "", "piece": making.plan.piece}
    return href(making.state, "make", **{name: value for name, value in said_of.items() if value})


def step_shown(visit: Visit, making: Making, step: Step, said: Said) -> dict[str, Any]:
    """All that a template of Make is given of a step."""
    plan = making.plan
    state = step.feature or plan.state
    behind = not state.handed_over and waits_behind(making, step)
    given: dict[str, Any] = {
        "state": state,
        "plan": plan,
        "making": making,
        "step": step,
        "asks": asks_for(step, making),
        "said": said,
        "error": said.error,
        "tried": "",
        "work": PlannedWork(plan),
        "every": of_every_piece(visit.db, state) if state.is_batch else [],
        "goes_by": goes_by(visit.db, state),
        "left_open": making.left_open(step),
        "taken_now": None if state.handed_over or behind else taken_now(making, step),
        "waits_behind": behind,
        "going_on": going_on_with(making, step) if visit.request.query_params.get("next") == "yes" else None,
        "gauges": gauges_of(visit.db, state.feature_id),
        "waiting": waiting(visit.db, state.feature_id, now()),
        **_beside(visit, making, step),
    }
    if step.kind == "hold":
        return given | _held(visit, making, step, given["asks"], said)
    if given["asks"] == "trial":
        trial = trial_form(visit, state, piece=plan.piece, typed=said.typed, error=said.error)
        return given | {"trial": trial, **_tried(step, state)}
    if given["asks"] == "reading":
        return given | _read(visit, making, step, state, said)
    return given


def _tried(step: Step, state: JobState) -> dict[str, Any]:
    """How it went last, and what is done about it."""
    found = state.verdict_of_piece.get(step.piece)
    if found is None:
        return {}
    return {"now": _now(found.state, "Cut on, and try again"), "tried": "; ".join(state.tried_of(step.piece))}


def _beside(visit: Visit, making: Making, step: Step) -> dict[str, Any]:
    """The pictures, how a step is run, and what was worked out for the job."""
    plan, work, one = making.plan, PlannedWork(making.plan), step.operation
    if step.set_up is None:
        return {"moment": "", "section": section_of_job(step.feature) if step.feature else ""}
    held = {
        "set_up": step.set_up,
        "chucking": step.chucking,
        "held": work.held_words(step.set_up),
        "stops_worked_out": stops_address(plan, step.set_up),
        "kept": [
            (calculation_named(row.calculation).title, row.note)
            for row in kept_answers(visit.db, plan.state.job.id)
            if row.calculation in calculations()
        ],
        "moment": moment_of(step.set_up, one) if one else held_picture(step.set_up),
    }
    if one is None:
        return held | {"section": ""}
    return held | {
        "does": one.operation,
        "figures": work.figures(one),
        "drills": work.drills_of(one),
        "runs_at": work.run_of(one),
        "minutes": work.minutes[one.key],
        "features": plan.features_of(one),
        "stops": stops_for(kept_answers(visit.db, plan.state.job.id), one.operation.letters),
        "worked_out": kept_shown(
            each
            for each in recorded_answers(visit.db, plan.state)
            if each.feature in one.operation.letters and each.calculation != "stops"
        ),
        "section": "",
    }


def _held(visit: Visit, making: Making, step: Step, asks: Asks, said: Said) -> dict[str, Any]:
    chucking = step.chucking
    assert chucking is not None, "what is held is a chucking"
    if asks == "rounds":
        truing = truing_of(visit.db, making.state.job.id)
        if truing is None or (truing.planned_set_up, truing.piece) != (chucking.key, making.plan.piece):
            return {"asks": "begin_rounds", "typed": said.fields}
        return shown(truing_state(visit.db, truing), href(making.state, "make/truing"), said.truing)
    return {"indicators": indicators_for(visit, chucking), "typed": said.fields, "last": chucking.last_runout}


def _read(visit: Visit, making: Making, step: Step, state: JobState, said: Said) -> dict[str, Any]:
    """The field a reading is typed into, what the readings so far say, and what the coach says of the next cut."""
    log = feature_log(visit, state)
    action = href(state, "make/readings", **({"feature": state.letter_said} if state.letter_said else {}))
    form = form_for(visit, state, log, action=action, piece=making.plan.piece, typed=said.typed, error=said.error)
    of_piece = [item for item in log if item.row.piece == form.piece]
    given: dict[str, Any] = {"form": form, **measured(visit, state, of_piece, form)}
    if _by_cross_slide(making, step, state):
        given |= _coached(visit, state, form, said)
    elif state.coached_by == "carriage" and state.times_read:
        given |= along_of(visit, state, form.piece)
    if state.is_batch:
        given["before"] = piece_before(making, state, given.get("run"))
        given["against_the_first"] = held_against_the_first(making)
    return given | {"now": now_of(step, state, given), "caution": _caution(step)}


STOP = "Stop the spindle before you measure"


def _caution(step: Step) -> str:
    """The hazard of a step, where it is measured."""
    own = step.operation.operation.row.caution if step.operation else ""
    first = "" if own.startswith(STOP) else f"{STOP} or touch chips."
    key = "Guard on" if "Key out" in own else "Key out, guard on"
    said = [first, own, f"{key}, sleeves away. The machine's manual comes first."]
    return " ".join(words for words in said if words)


def _by_cross_slide(making: Making, step: Step, state: JobState) -> bool:
    """Whether the coach of the cross-slide has something to say at a step: of what a plan leaves as it is it has
    not.
    """
    if not state.is_coached or state.coached_by != "cross_slide" or state.both_limits is None:
        return False
    if step.operation is None:
        return not any(one.operation for one in making.steps)
    match step.operation.operation.row.coached:
        case "at_once":
            return True
        case "once_read":
            return step.piece in state.verdict_of_piece
        case "never":
            return False
        case unknown:
            assert_never(unknown)


def _coached(visit: Visit, state: JobState, form: ReadingForm, said: Said) -> dict[str, Any]:
    run: CuttingRun = cutting_run(visit.db, state, form.piece)
    found = {"run": run, **advice_of(visit, run)}
    return found | {"form": advised_in(form, run, said.typed)}


@dataclass(frozen=True)
class Now:
    """What is done now, in a few words, and in which tone: a question, something that is well, or gone."""

    words: str
    tone: str = ""


def now_of(step: Step, state: JobState, given: dict[str, Any]) -> Now:
    """What is done now at a step whose size is read."""
    piece = step.piece
    found = state.verdict_of_piece.get(piece)
    if found is None:
        first = step.operation is None or step.is_cut or "run" in given
        return Now(f"Measure {_named(state)}{' as it is' if 'run' in given else ''}") if first else Now(step.title)
    left = [one for one in places_to_close(state) if one not in places_read(state, piece)]
    return _now(found.state, "Metal to go", f"In limits: next {left[0]}" if left else "In limits")


def _now(found: State, metal_to_go: str, in_limits: str = "In limits so far") -> Now:
    """What is done now by how it stands: in the words of what is read, or of what is tried."""
    match found:
        case State.METAL_TO_GO:
            return Now(metal_to_go)
        case State.IN_LIMITS:
            return Now(in_limits, "done")
        case State.TOO_CLOSE_TO_CALL:
            return Now("Too close to call", "asked")
        case State.GONE_TOO_FAR:
            return Now("Gone too far", "gone")
        case unknown:
            assert_never(unknown)


def _named(state: JobState) -> str:
    return state.letter if len(state.made) > 1 else f"the {state.called}"
