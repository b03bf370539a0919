"""What a plan comes to at the lathe: how each set-up is held and bends, how fast an operation is run, how long it
takes, a batch three ways.
"""

from dataclasses import dataclass
from decimal import Decimal
from functools import cached_property

from nomisma.core.cutting.hole import Drill
from nomisma.core.operations.drilling import drills_before
from nomisma.core.operations.figures import figures
from nomisma.core.operations.operations import BY_HAND, PARTING, cutting_of
from nomisma.core.order.held_words import held_words, why_held
from nomisma.core.order.order import PlannedOperation, PlannedSetUp
from nomisma.core.order.stages import RESTS
from nomisma.core.part.duty import may_give
from nomisma.core.part.section_shapes import Cylinder
from nomisma.core.planning.batch_order import BatchWay, batch_ways
from nomisma.core.planning.blank import sound_mm
from nomisma.core.planning.chucking import RunoutAllowed, runout_allowed
from nomisma.core.planning.holding import HeldWork, Holding, Suggestion, bends_mm, holdings, other_ways
from nomisma.core.planning.sheet import WORKED_AS, Handling, Run, minutes_of, run_of
from nomisma.core.quantity.writing import parse_length
from nomisma.jobs.planning.plan_entries import HoldingChosen
from nomisma.jobs.planning.plan_state import JobPlan
from nomisma.jobs.shop.plan_choices import handling_of


@dataclass(frozen=True)
class PlannedWork:
    """The work a plan is, beside what was said of it."""

    plan: JobPlan

    @property
    def _handling(self) -> Handling:
        return handling_of(self.plan.choices)

    def run_of(self, one: PlannedOperation) -> Run | None:
        """How fast an operation is run on the job's machine."""
        machine = self.plan.state.job.machine
        return run_of(
            one.operation,
            one.cuts,
            material=self.plan.stock.material,
            machine_speeds=machine.speeds if machine else "",
            most_rpm=machine.most_rpm if machine else None,
            cautious=self.plan.intake is not None and self.plan.intake.known_by == "unknown",
        )

    def drills_of(self, one: PlannedOperation) -> tuple[Drill, ...]:
        """The drills of an operation that drills, the last one the largest; none for any other, or where no drill goes
        so large.
        """
        does = one.operation
        if does.kind != "drill" or does.diameter_mm is None:
            return ()
        taken = {cut.tool.diameter_mm for cut in one.cuts}
        known = drills_before(does.diameter_mm, self.plan.state.unit, does.hole, does.thread, self.plan.tools.drills)
        return tuple(drill for drill in known if drill.size.mm in taken)

    def suggested_ways(self, one: PlannedSetUp) -> list[Suggestion]:
        """How a set-up may be held: as the plan was run, then what else was run and holds it too, with reasons."""
        held, order = one.set_up.workholding, self.plan.order
        if held is None or order is None:
            return []
        if held.throw_mm:  # nothing else sets it over by so much
            return [Suggestion(holdings()["off_centre"], why_held(held))]
        return [Suggestion(holdings()[held.way], why_held(held)), *other_ways(one.set_up, order, self._held_work(one))]

    def chosen_holding(self, one: PlannedSetUp) -> HoldingChosen | None:
        """How somebody chose to hold a set-up; none where nobody did."""
        chosen = (HoldingChosen.as_kept(row.said) for row in reversed(self.plan.entries) if row.topic == "holding")
        return next((said for said in chosen if said.set_up == one.set_up.name), None)

    def way_to_hold(self, one: PlannedSetUp) -> Holding:
        """How a set-up is held: as somebody chose, else as the plan was run. The first of `ways_to_hold`."""
        held, chosen = one.set_up.workholding, self.chosen_holding(one)
        assert held is not None, "a plan that runs is held"
        if chosen is not None and chosen.way in holdings():
            return holdings()[chosen.way]
        return holdings()["off_centre" if held.throw_mm else held.way]

    def ways_to_hold(self, one: PlannedSetUp) -> list[Suggestion]:
        """How a set-up may be held, with reasons: the one that was chosen in front, else the first suggested."""
        suggested, chosen = self.suggested_ways(one), self.chosen_holding(one)
        if chosen is None or chosen.way not in holdings():
            return suggested
        why = chosen.reason or next((each.why for each in suggested if each.holding.name == chosen.way), "")
        return [
            Suggestion(holdings()[chosen.way], why),
            *(each for each in suggested if each.holding.name != chosen.way),
        ]

    def stands_out_mm(self, one: PlannedSetUp) -> Decimal:
        """How far the work stands out of what holds it in a set-up, mm."""
        return self._held_work(one).stands_out_mm

    def runout_allowed(self, one: PlannedSetUp) -> RunoutAllowed:
        """How true a set-up must run."""
        made, stock = self.plan.state.made, self.plan.stock
        runouts = {
            each.letter: each.feature.upper_mm
            for each in made
            if each.kind == "runout" and each.feature.upper_mm is not None
        }
        return runout_allowed(
            one.set_up,
            throw_mm=self._throw_mm(one),
            true_to={each.letter: each.duty.true_to for each in made if each.duty.true_to},
            part_runouts_mm=runouts,
            stock_mm=(
                sound_mm(parse_length(stock.across, stock.unit).mm, stock.surface, stock.unit) if stock.across else None
            ),
        )

    def _throw_mm(self, one: PlannedSetUp) -> tuple[Decimal, Decimal] | None:
        """The limits of the throw a set-up is set over by; none where it runs on the part's axis."""
        held = one.set_up.workholding
        if held is None or not held.throw_mm:
            return None
        of_it = {letter for each in one.set_up.surfaces if each.throw_mm for letter in each.letters}
        throw = next((each for each in self.plan.state.made if each.kind == "throw" and each.letter in of_it), None)
        limits = throw.both_limits if throw is not None else None
        return (limits.lower_mm, limits.upper_mm) if limits else (held.throw_mm, held.throw_mm)

    def held_words(self, one: PlannedSetUp) -> list[str]:
        """How a set-up is held and what is looked at first, as steps."""
        held = one.set_up.workholding
        assert held is not None, "a plan that runs is held"
        rests = [RESTS] if self.plan.order is not None and self.plan.order.rests_before == one.number else []
        return rests + held_words(
            held,
            self.plan.state.unit,
            with_skin=self.plan.stock.with_skin,
            spare=any(each.operation.kind in PARTING for each in one.operations),
            on_thread=self.plan.order is not None and self.plan.order.is_threaded(one.set_up.held_on),
        )

    def figures(self, one: PlannedOperation) -> list[str]:
        """What is set and read at the slides for an operation."""
        set_up = self.plan.set_up_of(one).set_up
        held = set_up.workholding
        assert held is not None, "a plan that runs is held"
        assert self.plan.section is not None, "an order is of a section"
        length_mm, unit = self.plan.section.length_mm, self.plan.state.unit
        return figures(one.cuts, held, length_mm, unit, one.before, self.plan.dials, set_up.left_on_mm)

    def held_step(self, one: PlannedSetUp) -> Cylinder | None:
        """The outside or the bore that holds the work in a set-up; none where the stock is held as it is."""
        section, letter = self.plan.section, one.set_up.held_on
        return (
            next((each for each in (*section.outside, *section.bores) if each.letter == letter), None)
            if section
            else None
        )

    def thin_ring(self, one: PlannedSetUp) -> tuple[Decimal, Decimal, Decimal] | None:
        """Outside, bore and length (mm) of what is held in a set-up, where its wall is so thin that jaws bend it; none
        otherwise.
        """
        work, held = self._held_work(one), self.held_step(one)
        if held is None or work.wall_mm is None or not work.is_thin:
            return None
        return work.diameter_mm, work.diameter_mm - 2 * work.wall_mm, held.to_mm - held.from_mm

    def bends_mm(self, one: PlannedSetUp) -> tuple[Decimal, Decimal] | None:
        """What bending under a light cut leaves on diameter as stock and as finished, mm; none between centres, or
        where it cannot be said.
        """
        if one.set_up.worked not in ("right", "left") or self.plan.section is None:
            return None
        work = self._held_work(one)
        outsides = [each.diameter_mm for each in one.set_up.surfaces if cutting_of(each.kind).rough == "rough_turn"]
        finished = min(outsides, default=work.diameter_mm)
        held = one.set_up.workholding
        comes_up = held is not None and any(each.kind == "centre" for each in held.every_support)
        at_centre = comes_up or any(way.holding.far_end == "centre" for way in self.ways_to_hold(one)[:1])
        cut = WORKED_AS.get(self.plan.stock.material, self.plan.stock.material)
        bent = [
            bends_mm(work, mm, stiff_material=self.plan.stock.material, cut_material=cut, at_centre=at_centre)
            for mm in (work.diameter_mm, finished)
        ]
        return (bent[0], bent[1]) if bent[0] is not None and bent[1] is not None else None

    def _held_work(self, one: PlannedSetUp) -> HeldWork:
        held, step, section = one.set_up.workholding, self.held_step(one), self.plan.section
        assert held is not None, "a plan that runs is held"
        assert section is not None, "an order is of a section"
        within = [
            bore.diameter_mm
            for bore in section.bores
            if step in section.outside and step and bore.from_mm < step.to_mm and step.from_mm < bore.to_mm
        ]
        gripped_mm = held.grip.diameter_mm if held.grip else self.plan.stock_mm
        return HeldWork(
            diameter_mm=gripped_mm,
            stands_out_mm=Decimal(0) if self.plan.length_not_known else held.stands_out_mm,
            wall_mm=(gripped_mm - max(within)) / 2 if step and within else None,
            shape=self.plan.stock.shape if not step else "round",
            pieces=self.plan.state.in_force.pieces_wanted,
            runs_with=step is not None and self.runout_allowed(one).most_mm is not None,
            finished=step is not None,
        )

    @property
    def batch_ways(self) -> tuple[BatchWay, ...]:
        """The ways through a batch, counted; none for a single piece."""
        if self.plan.order is None or not self.plan.state.is_batch:
            return ()
        tools = [
            [step.operation.tool for step in one.operations if step.operation.tool != BY_HAND]
            for one in self.plan.order.set_ups
        ]
        return batch_ways(tools, self.plan.state.in_force.pieces_wanted)

    @property
    def may_give(self) -> list[str]:
        """The letters that may give where the stock does not clean up: what is only seen or free, what gives first in
        front.
        """
        return may_give((one.letter, one.duty) for one in self.plan.state.made)

    @property
    def clock_minutes(self) -> float | None:
        """Minutes from the first tick that stands to the last, by the clock; none before there are two."""
        ticked = sorted(row.at for row in self.plan.closed.values())
        return (ticked[-1] - ticked[0]).total_seconds() / 60 if len(ticked) > 1 else None

    @cached_property
    def minutes(self) -> dict[str, float]:
        """About how long each operation takes, minutes, by key: an estimate."""
        found: dict[str, float] = {}
        tool = ""
        for one in self.plan.order.operations if self.plan.order else ():
            found[one.key] = minutes_of(
                one.operation,
                one.cuts,
                self.run_of(one),
                new_tool=one.operation.tool != tool,
                handling=self._handling,
            )
            tool = one.operation.tool
        return found

    @property
    def total_minutes(self) -> float:
        """About how long a piece takes with its set-ups, minutes: an estimate."""
        return sum(self.minutes.values()) + self._handling.set_up_min * (
            len(self.plan.order.set_ups) if self.plan.order else 0
        )
