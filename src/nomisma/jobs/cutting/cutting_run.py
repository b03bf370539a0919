"""The run of cuts at a job's feature: its machine, its cuts so far, and what the coach says of the next."""

from dataclasses import dataclass, field, replace
from datetime import UTC, datetime
from decimal import Decimal
from functools import cached_property
from typing import cast
from uuid import UUID, uuid5

from sqlalchemy.orm import Session

from nomisma.core.calculation import BadInput
from nomisma.core.cutting.amount import line_on_diameter
from nomisma.core.cutting.clean_up import CleanUpInput, CleanUpResult, clean_up
from nomisma.core.cutting.coach_model import MOST_SET_UPS, MeasuredCut, NextCutInput, NextCutResult
from nomisma.core.cutting.coach_words import WHY_WORDS
from nomisma.core.cutting.depth import Approach
from nomisma.core.cutting.dial import DiallingMethod, DialSetting, wind
from nomisma.core.cutting.dialled import Dialled, parse_dialled
from nomisma.core.cutting.force import deepest_on_diameter_mm
from nomisma.core.cutting.learned import Predicted
from nomisma.core.cutting.mouth_deep import EndsCompared, ends_compared
from nomisma.core.cutting.next_cut import next_cut, predicted
from nomisma.core.cutting.speeds import SpeedsInput, SpeedsResult, feed_for_ra_mm, speeds
from nomisma.core.errors import InputError
from nomisma.core.measuring.feature import FeatureVerdict
from nomisma.core.measuring.place import parse_place
from nomisma.core.part.feature import State, cut_direction
from nomisma.core.quantity.display import show_force
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import parse_length
from nomisma.jobs.holding.truing_state import truing_state
from nomisma.jobs.shop.choices import choose, setting_id
from nomisma.jobs.shop.clock import now
from nomisma.jobs.shop.cut_choices import choices_of
from nomisma.jobs.shop.own_speeds import own_speed
from nomisma.jobs.shop.rights import Action, must
from nomisma.jobs.standing.state import JobState
from nomisma.store import shop
from nomisma.store.append import sent_before
from nomisma.store.by_version import by_version
from nomisma.store.cuts import CutOnRecord, KindOfCut, cuts_of, cuts_of_machine, sizes_by_cut
from nomisma.store.models import Account, Cut, Machine, Reading, ShopSetting
from nomisma.store.readings import NEWEST_READINGS, log
from nomisma.store.truing import truing_of

_CUT_OF = UUID("6a0f4c1e-3d1b-4c0e-8d8e-2f4b7a9c5e01")
_REPEATABILITY = Decimal("0.0015")
"""One standard deviation of a reading where nothing was read yet. Source: this tool's own choice."""
_LEAST_REPEATABILITY = Decimal("0.0003")
ROUGH_FEED_MM = Decimal("0.15")
"""The feed a cutting force is reckoned with where none is chosen. Source: this tool's own choice."""
_LEAST_MOST = Decimal("0.1")


@dataclass(frozen=True)
class CuttingRun:
    """A job at its machine: the choices in force, the cuts, the standing size of each cut, the piece in the machine."""

    state: JobState
    machine: Machine | None
    choices: dict[str, str]
    sizes: dict[tuple[str, int], Decimal]
    cuts: list[CutOnRecord]
    piece: str
    earlier: list[list[CutOnRecord]] = field(default_factory=list)
    repeatability_mm: Decimal = _REPEATABILITY
    if_dialled: Length | None = None

    @property
    def set_up(self) -> int:
        """The newest set-up of the tool."""
        return max((one.row.set_up for one in self.cuts), default=1)

    @property
    def of_set_up(self) -> list[CutOnRecord]:
        """Its cuts that were measured after."""
        return [one for one in self.cuts if one.row.set_up == self.set_up and one.after_mm is not None]

    @property
    def last_cut(self) -> int:
        """The number of the piece's newest cut with a size."""
        return max((cut for piece, cut in self.sizes if piece == self.piece), default=0)

    @property
    def size_mm(self) -> Decimal | None:
        """The piece's size now."""
        return self.sizes.get((self.piece, self.last_cut))

    @property
    def cut_direction(self) -> int:
        """How a cut moves the size: 1 where it gets smaller, −1 where it gets larger."""
        return cut_direction(self.state.feature.kind)

    @property
    def readout_stop_mm(self) -> Decimal | None:
        """Where a readout set to the measured size stands when the advised cut is wound in; none where none
        is advised.
        """
        advised = self.result.dialled if self.result else None
        return None if advised is None or self.size_mm is None else self.size_mm - self.cut_direction * advised.mm

    @property
    def verdict(self) -> FeatureVerdict | None:
        """The piece's verdict, the one that counts everywhere; none before it was measured since its last cut."""
        return self.state.verdict_of(self.state.own_readings.of_piece(self.piece))

    @property
    def guard_mm(self) -> Decimal:
        """How far inside a limit a reading must lie to be in limits, as the verdict has it."""
        groups = self.state.own_readings.of_piece(self.piece).groups
        if self.state.acceptance == "simple" or not groups:
            return Decimal(0)
        return max(group.uncertainty_mm for group in groups)

    @property
    def lines_a_turn(self) -> Decimal | None:
        """Lines in one turn of the machine's dial, where it is known."""
        return self.machine.lines_a_turn if self.machine else None

    def dialled(self, text: str) -> Dialled:
        """What was dialled as the hand wrote it; a bare number is in the machine's unit. Raises InputError."""
        machine = self.machine
        if machine is None:
            return Dialled(parse_length(text, self.state.unit, positive=False))
        return parse_dialled(
            text,
            unit=self.dial_unit,
            line_mm=machine.dial_line_mm,
            reads=machine.dial_reads,
            lines_a_turn=self.lines_a_turn,
        )

    @property
    def standing(self) -> list[tuple[str, Decimal]]:
        """What the dial has been wound in all for each finished piece of this set-up, in lines from where its tool was
        touched on.
        """
        if self.machine is None:
            return []
        per_line = line_on_diameter(self.machine.dial_line_mm, self.machine.dial_reads)
        found: dict[str, Decimal] = {}
        for one in self.of_set_up:
            found[one.row.piece] = found.get(one.row.piece, Decimal(0)) + one.row.dialled_mm / per_line
        return list(found.items())

    @property
    def approach(self) -> Approach:
        """How size is approached."""
        return cast(Approach, self.choices["approach"])

    @property
    def dial_unit(self) -> Unit:
        """What the machine's dial is in."""
        return "mm" if self.machine and self.machine.unit == "mm" else "in"

    @cached_property
    def places(self) -> list[tuple[str, Decimal]]:
        """Where the piece was read since its last cut, and the middle of what was read there, mm."""
        groups = self.state.own_readings.of_piece(self.piece).groups
        return [(group.place, (group.smallest_mm + group.largest_mm) / 2) for group in groups]

    @property
    def ends(self) -> EndsCompared | None:
        """What one end against the other shows; none where not both were read."""
        limits = self.state.both_limits
        near, far = (self._at_share(share) for share in (Decimal(0), Decimal(1)))
        if limits is None or near is None or far is None:
            return None
        width = limits.upper_mm - limits.lower_mm
        return ends_compared(self.state.made_kind, near_mm=near, far_mm=far, width_mm=width, unit=self.state.unit)

    def _at_share(self, share: Decimal) -> Decimal | None:
        there = [mm for place, mm in self.places if parse_place(place, self.state.unit).share == share]
        return sum(there, Decimal(0)) / len(there) if there else None

    @property
    def feed_mm(self) -> Decimal | None:
        """The feed a turn that the wanted finish asks for; none without a finish and a nose radius."""
        if not (self.choices["nose_radius"] and self.choices["wanted_ra_um"]):
            return None
        return feed_for_ra_mm(parse_length(self.choices["nose_radius"]).mm, Decimal(self.choices["wanted_ra_um"]))

    @property
    def most_cut_mm(self) -> Decimal | None:
        """The most one cut may take off the diameter: what the machine is said to take, and what its force allows."""
        machine = self.machine
        if machine is None:
            return None
        found = [machine.most_cut_mm] if machine.most_cut_mm else []
        if machine.most_force_n and self.choices["cut_material"]:
            feed = self.feed_mm or ROUGH_FEED_MM
            found.append(
                deepest_on_diameter_mm(self.choices["cut_material"], force_n=machine.most_force_n, feed_mm=feed)
            )
        return max(min(found), _LEAST_MOST) if found else None

    @property
    def held_by_force(self) -> str:
        """What the machine's force holds a cut to; empty where it does not."""
        machine, most = self.machine, self.most_cut_mm
        if (
            machine is None
            or most is None
            or machine.most_force_n is None
            or most == machine.most_cut_mm
            or not self.result
        ):
            return ""
        per_line = line_on_diameter(machine.dial_line_mm, machine.dial_reads)
        deepest = max((lines * per_line for one in self.result.plan[:1] for lines in one.parts), default=Decimal(0))
        if deepest + per_line < most and not any(one.why == WHY_WORDS["most"] for one in self.result.plan[:1]):
            return ""
        return (
            f"{show_force(float(machine.most_force_n), self.state.unit)} on {machine.name}, by a specific cutting force"
            " that is an estimate."
        )

    @property
    def does_not_swing(self) -> str:
        """What stands in the way of a shaft of this size on this machine; empty where nothing is known to."""
        over = (self.machine.room if self.machine else {}).get("swing_over_cross_slide")
        if (
            not over
            or self.size_mm is None
            or self.state.feature.side != "external"
            or self.size_mm <= parse_length(over).mm
        ):
            return ""
        return (
            f"{self.machine.name if self.machine else ''} swings {over} over its cross-slide: this work does not"
            " pass it."
        )

    @cached_property
    def given(self) -> NextCutInput | None:
        """What the coach is asked; none without limits, a machine or a size."""
        limits, machine, size = self.state.both_limits, self.machine, self.size_mm
        if limits is None or machine is None or size is None:
            return None
        unit = self.state.unit
        pieces = list(dict.fromkeys([*(one.row.piece for one in self.of_set_up), self.piece]))
        most = self.most_cut_mm
        more = {"most_cut": Length(most, unit)} if most else {}
        return NextCutInput(
            kind=self.state.made_kind,
            size=Length(size, unit),
            lower=Length(limits.lower_mm, unit),
            upper=Length(limits.upper_mm, unit),
            aim=Length(limits.aim_mm, unit),
            cuts=_as_taken(self.of_set_up, pieces, unit),
            earlier_set_ups=[
                _as_taken(cuts, list(dict.fromkeys(one.row.piece for one in cuts)), unit)
                for cuts in self.earlier[-MOST_SET_UPS:]
            ],
            guard=Length(self.guard_mm, unit),
            judged=found.state.value if (found := self.verdict) else None,
            compound_line=parse_length(line) if (line := machine.room.get("compound_line")) else None,
            if_dialled=self.if_dialled,
            piece=pieces.index(self.piece) + 1,
            dial_line=Length(machine.dial_line_mm, unit),
            dial_turn=Length(machine.dial_turn_mm, unit) if machine.dial_turn_mm else None,
            dial_reads=machine.dial_reads,
            parts_of_line={"2": 2, "4": 4}.get(self.choices["parts_of_line"], 1),
            approach=self.approach,
            risk_percent=Decimal(self.choices["cut_risk_percent"]),
            backlash=Length(machine.backlash_mm, unit) if machine.backlash_mm else None,
            least_cut=parse_length(self.choices["least_cut"]),
            finish_cut=parse_length(self.choices["finish_cut"]),
            smallest=Length(min(ends), unit) if (ends := [mm for _, mm in self.places]) else None,
            largest=Length(max(ends), unit) if ends else None,
            repeatability=Length(max(self.repeatability_mm, _LEAST_REPEATABILITY), "mm"),
            unit=unit,
            **more,
        )

    @cached_property
    def result(self) -> NextCutResult | None:
        """What the coach says. Raises BadInput, InputError."""
        return next_cut(self.given) if self.given else None

    @property
    def wound(self) -> DialSetting | None:
        """Where the dial is wound to."""
        found, machine, size = self.result, self.machine, self.size_mm
        if found is None or found.dialled is None or machine is None or size is None:
            return None
        return wind(
            dialled_mm=found.dialled.mm,
            size_mm=size,
            to_aim_mm=found.to_aim.mm,
            kind=self.state.made_kind,
            line_mm=machine.dial_line_mm,
            turn_mm=machine.dial_turn_mm,
            reads=machine.dial_reads,
            method=cast(DiallingMethod, self.choices["dialling_method"]),
            unit=self.state.unit,
            stands_mm=self._stands_mm,
            touch_on=self._stands_mm is None,
            passes_mm=[one * line_on_diameter(machine.dial_line_mm, machine.dial_reads) for one in found.parts],
        )

    @property
    def _stands_mm(self) -> Decimal | None:
        """With 0 at the finished size: how far before 0 the last cut of this piece left the dial, on diameter; none
        before a cut.
        """
        own = [one for one in self.of_set_up if one.row.piece == self.piece and one.row.means == "tool"]
        limits = self.state.both_limits
        if not own or limits is None:
            return None
        return self.state.feature.metal_to_take(own[-1].before_mm, limits.aim_mm) - own[-1].row.dialled_mm

    def predicted(self, dialled: Dialled, *, anew: bool = False) -> Predicted | None:
        """What a cut dialled so will take, mm on diameter; none where the coach cannot say. `anew`: by a tool touched
        on again.
        """
        if self.given is None:
            return None
        given = self.given.model_copy(update={"cuts": []}) if anew else self.given
        return predicted(given, dialled.total.mm, dialled.last_pass.mm if dialled.last_pass else None)


def _as_taken(cuts: list[CutOnRecord], pieces: list[str], unit: Unit) -> list[MeasuredCut]:
    """Measured cuts as the coach takes them."""
    return [
        MeasuredCut(
            dialled=Length(one.row.dialled_mm, unit),
            before=Length(one.before_mm, unit),
            after=Length(one.after_mm, unit),
            piece=pieces.index(one.row.piece) + 1,
            stoned=one.row.means == "stone",
            last_pass=Length(one.row.last_pass_mm, unit) if one.row.last_pass_mm is not None else None,
        )
        for one in cuts
        if one.after_mm is not None
    ]


@by_version("job")
def cutting_run(session: Session, state: JobState, piece: str) -> CuttingRun:
    """A job's piece at its machine."""
    choices = choices_of(session, state.job, unit=state.unit)
    machines = shop.machines(session)
    chosen = choices["cut_machine"] or str(state.job.machine_id or "")
    machine = next((row for row in machines if str(row.id) == chosen), state.job.machine)
    sizes = sizes_by_cut(session, state.feature_id)
    newest = log(session, state.feature_id, last=NEWEST_READINGS)  # as the page beside it shows them
    found = CuttingRun(state, machine, choices, sizes, cuts_of(session, state.feature_id, sizes), piece)
    return replace(
        found,
        earlier=_earlier(session, found),
        repeatability_mm=newest[-1].instrument.repeatability_mm if newest else _REPEATABILITY,
        if_dialled=None,
    )


FORGETS = "coach_forgets_{}"
"""The shop's setting that says from when on a machine's cuts count."""
_LONG_AGO = datetime(2000, 1, 1, tzinfo=UTC)


def _earlier(session: Session, run: CuttingRun) -> list[list[CutOnRecord]]:
    """What the machine did in earlier set-ups of the same kind, unless it was told to forget them."""
    if run.machine is None:
        return []
    forgotten = shop.settings(session).get(FORGETS.format(run.machine.id), "")
    kind = KindOfCut(run.state.in_hand.row.kind, run.choices["cut_material"], run.choices["cut_tool"])
    since = datetime.fromisoformat(forgotten) if forgotten else _LONG_AGO
    return cuts_of_machine(session, run.machine.id, kind, but=(run.state.feature_id, run.set_up), since=since)


def forget_earlier_set_ups(session: Session, state: JobState, *, by: Account, sent_id: UUID) -> ShopSetting:
    """From now on the earlier set-ups of the job's machine count no more; they stay on record.

    Commits nothing. Raises InputError, NotAllowed.
    """
    state.must_be_open()
    must(by, Action.FORGET_SET_UPS)
    machine = cutting_run(session, state, "").machine
    if machine is None:
        raise InputError("There is no machine to forget.", "Choose it under “How it is cut”.", field="cut_machine")
    name = FORGETS.format(machine.id)
    if kept := sent_before(session, ShopSetting, setting_id(sent_id, name), name=name):
        return kept
    (row,) = choose(session, {name: now().isoformat()}, by=by, sent_id=sent_id)
    return row


def expected_size_mm(run: CuttingRun, dialled: Dialled) -> Decimal | None:
    """The size to expect after a cut dialled so, by this set-up's own cuts; none where nothing is known. Nothing is
    raised.
    """
    try:
        found = run.predicted(dialled)
    except (BadInput, InputError):
        return None
    if found is None or run.size_mm is None or not (run.of_set_up or run.earlier):
        return None
    return run.size_mm - cut_direction(run.state.made_kind) * Decimal(f"{found.middle:.6f}")


def cut_row(
    session: Session, state: JobState, reading: Reading, dialled: Dialled | None, *, new_set_up: bool, by_id: UUID
) -> Cut | None:
    """The row of a cut whose size was just read; none where nothing is known of the size before it. `dialled`: none by
    stone or cloth.
    """
    run = cutting_run(session, state, reading.piece)
    before = run.sizes.get((reading.piece, reading.cut_number - 1))
    if before is None:
        return None
    anew = new_set_up and bool(run.cuts)
    try:
        found = run.predicted(dialled, anew=anew) if dialled else None
    except (BadInput, InputError):
        found = None

    def after(removed: float) -> Decimal:
        return before - cut_direction(state.made_kind) * Decimal(f"{removed:.6f}")

    ends = sorted(after(removed) for removed in found.interval) if found else [None, None]
    total, last_pass = (dialled.total, dialled.last_pass) if dialled else (Length(Decimal(0), run.dial_unit), None)
    return Cut(
        id=uuid5(_CUT_OF, str(reading.id)),
        job_id=state.job.id,
        feature_id=state.feature_id,
        piece=reading.piece,
        cut_number=reading.cut_number,
        set_up=run.set_up + anew,
        machine_id=run.machine.id if run.machine else None,
        approach=run.approach,
        dialled_mm=total.mm,
        dialled_text=_as_typed(total) if dialled else "",
        before_mm=before,
        last_pass_mm=last_pass.mm if last_pass else None,
        means="tool" if dialled else "stone",
        expected_mm=after(found.middle) if found else None,
        expected_low_mm=ends[0],
        expected_high_mm=ends[1],
        by_id=by_id,
    )


def _as_typed(total: Length) -> str:
    """What was dialled as it was typed, its unit behind it where it has none."""
    return f"{total.text} {total.unit}" if total.text[-1:].isdigit() and "turn" not in total.text else total.text


def spindle_of(session: Session, run: CuttingRun) -> SpeedsResult | None:
    """The spindle speed for the size as it is now, below what its chuck is marked; none where the work's material is
    not said.
    """
    size, machine = run.size_mm, run.machine
    if not run.choices["cut_material"] or size is None or machine is None:
        return None
    truing = truing_of(session, run.state.job.id)
    chucks = [truing.chuck.most_rpm if truing and truing.chuck else None, machine.most_rpm]
    marked = min((rpm for rpm in chucks if rpm), default=None)
    material, tool = run.choices["cut_material"], "carbide" if run.choices["cut_tool"] == "carbide" else "hss"
    return speeds(
        SpeedsInput(
            diameter=Length(size, run.state.unit),
            material=material,
            tool=tool,
            own_m_min=own_speed(session, material, tool),
            feed=Length(run.feed_mm, run.state.unit) if run.feed_mm else None,
            operation="boring" if run.state.feature.side == "internal" else "turning",
            speeds=machine.speeds,
            most_rpm=Decimal(marked) if marked else None,
            unit=run.state.unit,
            largest_outside=parse_length(outside) if (outside := run.choices["largest_outside"]) else None,
            balanced=run.choices["work_balanced"] == "yes",
        )
    )


def cleans_up(
    session: Session, run: CuttingRun, *, scale: Length | None, ovality: Length | None
) -> CleanUpResult | None:
    """Whether the stock gives the size; what it swings comes from its truing. None after the first cut."""
    limits, size = run.state.both_limits, run.size_mm
    verdict = run.verdict
    if limits is None or size is None or run.last_cut > 0 or (verdict and verdict.state is not State.METAL_TO_GO):
        return None  # what has been cut, or is at its size, is no stock
    unit = run.state.unit
    truing = truing_of(session, run.state.job.id)
    last = truing_state(session, truing).last if truing else None
    runout = Length(last.result.total_indicator_reading.mm, unit) if last else Length(Decimal(0), unit)
    wanted = limits.upper_mm if cut_direction(run.state.made_kind) == 1 else limits.lower_mm
    none = Length(Decimal(0), unit)
    return clean_up(
        CleanUpInput(
            kind=run.state.made_kind,
            stock=Length(size, unit),
            wanted=Length(wanted, unit),
            runout=runout,
            scale=scale or none,
            ovality=ovality or none,
            unit=unit,
        )
    )
