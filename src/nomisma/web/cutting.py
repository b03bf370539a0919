"""A job at the dial: its machine, its cuts so far, and what the coach says of the next; used by Cut, and by the log of readings."""

from dataclasses import dataclass
from decimal import Decimal
from functools import cached_property
from typing import cast
from uuid import UUID, uuid5

from nomisma.core.calculation import BadInput
from nomisma.core.cutting.amount import DialReads
from nomisma.core.cutting.clean_up import CleanUpInput, CleanUpResult, clean_up
from nomisma.core.cutting.depth import School
from nomisma.core.cutting.dial import DialSchool, Wound, wind
from nomisma.core.cutting.learned import Predicted
from nomisma.core.cutting.next_cut import CutTaken, NextCutInput, NextCutResult, next_cut, predicted
from nomisma.core.cutting.speeds import SpeedsInput, SpeedsResult, speeds
from nomisma.core.errors import InputError
from nomisma.core.quantity.length import Length, Unit
from nomisma.store import shop
from nomisma.store.cuts import TakenCut, cuts_of, sizes_by_cut
from nomisma.store.models import Cut, Machine, Reading
from nomisma.store.truing import truing_of
from nomisma.web.job_state import JobState
from nomisma.web.truing_view import view_of
from nomisma.web.visit import Form, Visit

DEFAULTS = {
    "cut_school": "equal_cuts", "dial_school": "count_in", "cut_risk_percent": "0.2", "parts_of_line": "1", "cut_machine": "",
    "cut_material": "", "cut_tool": "hss",
}  # fmt: skip
"""How cuts are taken unless the shop or the job says otherwise."""
_CUT_OF = UUID("6a0f4c1e-3d1b-4c0e-8d8e-2f4b7a9c5e01")
_REPEATABILITY = Decimal("0.0015")


@dataclass(frozen=True)
class Bench:
    """A job at its machine: the choices in force, the cuts, the standing size of each cut, the piece in the machine."""

    state: JobState
    machine: Machine | None
    choices: dict[str, str]
    sizes: dict[tuple[str, int], Decimal]
    cuts: list[TakenCut]
    piece: str

    @property
    def set_up(self) -> int:
        """The newest set-up of the tool."""
        return max((one.row.set_up for one in self.cuts), default=1)

    @property
    def of_set_up(self) -> list[TakenCut]:
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
    def school(self) -> School:
        """How size is approached."""
        return cast(School, self.choices["cut_school"])

    @property
    def dial_unit(self) -> Unit:
        """What the machine's dial is in."""
        return "mm" if self.machine and self.machine.unit == "mm" else "in"

    @cached_property
    def given(self) -> NextCutInput | None:
        """What the coach is asked; none without limits, a machine or a size."""
        limits, machine, size = self.state.limits, self.machine, self.size_mm
        if limits is None or machine is None or size is None:
            return None
        unit = self.state.unit
        pieces = list(dict.fromkeys([*(one.row.piece for one in self.of_set_up), self.piece]))
        more = {"most_cut": Length(machine.most_cut_mm, unit)} if machine.most_cut_mm else {}
        return NextCutInput(
            kind=self.state.made_kind,
            size=Length(size, unit),
            lower=Length(limits.lower_mm, unit),
            upper=Length(limits.upper_mm, unit),
            aim=Length(limits.aim_mm, unit),
            cuts=[
                CutTaken(
                    dialled=Length(one.row.dialled_mm, unit), before=Length(one.before_mm, unit), after=Length(one.after_mm, unit),
                    piece=pieces.index(one.row.piece) + 1,
                )
                for one in self.of_set_up
                if one.after_mm is not None
            ],
            piece=pieces.index(self.piece) + 1,
            dial_line=Length(machine.dial_line_mm, unit),
            dial_reads=cast(DialReads, machine.dial_reads),
            parts_of_line={"2": 2, "4": 4}.get(self.choices["parts_of_line"], 1),
            school=self.school,
            risk_percent=Decimal(self.choices["cut_risk_percent"]),
            backlash=Length(machine.backlash_mm, unit) if machine.backlash_mm else None,
            repeatability=Length(_REPEATABILITY, "mm"),
            unit=unit,
            **more,
        )  # fmt: skip

    @cached_property
    def result(self) -> NextCutResult | None:
        """What the coach says. Raises BadInput, InputError."""
        return next_cut(self.given) if self.given else None

    @property
    def wound(self) -> Wound | None:
        """Where the dial is wound to."""
        found, machine, size = self.result, self.machine, self.size_mm
        if found is None or found.dialled is None or machine is None or size is None:
            return None
        return wind(
            dialled_mm=found.dialled.mm, size_mm=size, to_aim_mm=found.to_aim.mm, kind=self.state.made_kind,
            line_mm=machine.dial_line_mm, turn_mm=machine.dial_turn_mm, reads=cast(DialReads, machine.dial_reads),
            school=cast(DialSchool, self.choices["dial_school"]), unit=self.state.unit,
        )  # fmt: skip

    def predicted(self, dialled_mm: Decimal) -> Predicted | None:
        """What a cut dialled so will take, mm on diameter; none where the coach cannot say."""
        return predicted(self.given, dialled_mm) if self.given else None


def bench_of(visit: Visit, state: JobState, piece: str) -> Bench:
    """A job's piece at its machine."""
    own = {name: value for name, value in shop.settings(visit.db, state.job.id).items() if name in DEFAULTS}
    choices = {**DEFAULTS, **own}
    machines = shop.machines(visit.db)
    chosen = choices["cut_machine"] or str(state.job.machine_id or "")
    machine = next((row for row in machines if str(row.id) == chosen), state.job.machine)
    sizes = sizes_by_cut(visit.db, state.job.id)
    return Bench(state, machine, choices, sizes, cuts_of(visit.db, state.job.id, sizes), piece)


def expected_size_mm(visit: Visit, state: JobState, piece: str, dialled_mm: Decimal) -> Decimal | None:
    """The size to expect after a cut dialled so, by this set-up's own cuts; none where nothing is known. Nothing is raised."""
    try:
        bench = bench_of(visit, state, piece)
        found = bench.predicted(dialled_mm)
    except (BadInput, InputError):
        return None
    if found is None or bench.size_mm is None or not bench.of_set_up:
        return None
    sign = 1 if state.made_kind == "shaft" else -1
    return bench.size_mm - sign * Decimal(f"{found.middle:.6f}")


def cut_row(visit: Visit, form: Form, state: JobState, reading: Reading, dialled: Length) -> Cut | None:
    """The row of a cut whose size was just read; none where nothing is known of the size before it."""
    bench = bench_of(visit, state, reading.piece)
    before = bench.sizes.get((reading.piece, reading.cut_number - 1))
    if before is None:
        return None
    try:
        found = bench.predicted(dialled.mm)
    except (BadInput, InputError):
        found = None
    sign = 1 if state.made_kind == "shaft" else -1

    def after(removed: float) -> Decimal:
        return before - sign * Decimal(f"{removed:.6f}")

    typed = dialled.text if dialled.text.endswith(dialled.unit) else f"{dialled.text} {dialled.unit}"
    ends = sorted(after(found.quantile(share)) for share in (0.05, 0.95)) if found else [None, None]
    return Cut(
        id=uuid5(_CUT_OF, str(reading.id)), job_id=state.job.id, piece=reading.piece, cut_number=reading.cut_number,
        set_up=bench.set_up + (form.text("new_set_up") == "yes" and bool(bench.cuts)), machine_id=bench.machine.id if bench.machine else None,
        school=bench.school, dialled_mm=dialled.mm, dialled_text=typed, before_mm=before,
        expected_mm=after(found.middle) if found else None, expected_low_mm=ends[0], expected_high_mm=ends[1], by_id=visit.account.id,
    )  # fmt: skip


def spindle_of(visit: Visit, bench: Bench) -> SpeedsResult | None:
    """The spindle speed for the size as it is now, below what its chuck is marked; none where the work's material is not said."""
    size, machine = bench.size_mm, bench.machine
    if not bench.choices["cut_material"] or size is None or machine is None:
        return None
    truing = truing_of(visit.db, bench.state.job.id)
    marked = truing.chuck.most_rpm if truing and truing.chuck else None
    return speeds(
        SpeedsInput(
            diameter=Length(size, bench.state.unit), material=bench.choices["cut_material"],
            tool="carbide" if bench.choices["cut_tool"] == "carbide" else "hss",
            operation="boring" if bench.state.made_kind == "bore" else "turning", speeds=machine.speeds,
            most_rpm=Decimal(marked) if marked else None, unit=bench.state.unit,
        )
    )  # fmt: skip


def cleans_up(visit: Visit, bench: Bench, *, scale: Length | None, ovality: Length | None) -> CleanUpResult | None:
    """Whether the stock gives the size; what it swings comes from its truing. None after the first cut."""
    limits, size = bench.state.limits, bench.size_mm
    if limits is None or size is None or bench.last_cut > 0:
        return None
    unit = bench.state.unit
    truing = truing_of(visit.db, bench.state.job.id)
    last = view_of(visit, truing).last if truing else None
    runout = Length(last.result.swing.mm, unit) if last else Length(Decimal(0), unit)
    wanted = limits.upper_mm if bench.state.made_kind == "shaft" else limits.lower_mm
    none = Length(Decimal(0), unit)
    return clean_up(
        CleanUpInput(
            kind=bench.state.made_kind, stock=Length(size, unit), wanted=Length(wanted, unit), runout=runout, scale=scale or none,
            ovality=ovality or none, unit=unit,
        )
    )  # fmt: skip
