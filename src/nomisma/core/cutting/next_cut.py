"""The coach at the dial: what to dial for the next cut, what it will measure after, and the passes from here
to size.
"""

from collections.abc import Sequence
from dataclasses import replace
from decimal import Decimal
from functools import cached_property, lru_cache

from nomisma.core.calculation import calculation
from nomisma.core.cutting.amount import line_on_diameter
from nomisma.core.cutting.coach_model import MeasuredCut, NextCutInput, NextCutResult, Noticed, Pass, Tried
from nomisma.core.cutting.coach_words import WHY_WORDS, coach_working, headline, plan_note, sentence
from nomisma.core.cutting.depth import Advice, CutRules, Next, ToGo, next_depth
from nomisma.core.cutting.findings import findings
from nomisma.core.cutting.learned import USUAL, CutModel, CutSeen, Predicted, Prior, known_machine, learned
from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.part.feature import Feature, Measured, cut_direction, worst_reading
from nomisma.core.part.feature_kinds import KindName, feature_kind
from nomisma.core.quantity.length import Length, Unit, in_unit, round_to

LARGEST_PLAN = 12


@calculation(
    name="next_cut",
    title="The next cut",
    validity="Diameters turned or bored on one set-up, measured after every cut; depths the tool cuts cleanly. The 90 "
        "% interval held so in "
    "simulated lathes as they usually are; where tool and work spring by more than a quarter of a cut it held 84 %.",
    source="Bayesian linear regression with spring; approaches: common practice, no source",
    example={
        "kind": "shaft", "size": "1.539 in", "lower": "1.3740 in", "upper": "1.3750 in", "dial_line": "0.001 in",
        "unit": "in",
        "cuts": [
            {"dialled": "0.100 in", "before": "1.750 in", "after": "1.636 in"},
            {"dialled": "0.086 in", "before": "1.636 in", "after": "1.539 in"},
        ],
    },
)  # fmt: skip
def next_cut(given: NextCutInput) -> NextCutResult:
    """What to dial next, what it will measure after, and the passes to size. Raises InputError, OutOfRange.

    Source: Bayesian linear regression of what has come off on what was dialled in all, with spring
    (core.cutting.learned); the posterior predictive is Student's t. Never a cut whose chance of passing the metal-gone
    limit exceeds the risk.
    """
    _check(given)
    asked = _Asked(given)
    advice, between = asked.advised()
    plan, end = asked.plan(advice)
    first = plan[0] if plan else None
    unit, step = given.unit, _step_mm(given)
    return NextCutResult(
        next=advice.next,
        dialled=first.dialled if first else None,
        lines=first.lines if first else None,
        parts=first.parts if first else [],
        after=first.after if first else None,
        after_low=first.after_low if first else None,
        after_high=first.after_high if first else None,
        chance_gone_percent=100 * advice.chance_gone,
        to_aim=_length(asked.to_go.aim, unit),
        exact_lines=Decimal(f"{asked.to_go.aim / asked.per_line:.2f}"),
        plan=plan,
        plan_note=plan_note(given, end, plan[-1].after.mm) if end and plan else "",
        noticed=asked.noticed,
        headline=headline(given, advice, first.lines if first else None, between),
        sentence=sentence(given, advice, first.dialled if first else None, asked.to_go, between),
        dial_takes=Decimal(str(asked.model.factor)),
        between_lines=between,
        touch_takes=asked.touch_takes,
        machine_words=asked.machine_words,
        tried=asked.tried(),
        cautious=asked.cautious(advice),
        working=coach_working(given, asked.model, asked.prior, advice, step, len(asked.cuts)),
    )


def _judged(given: NextCutInput, guard_mm: float) -> str:
    """The verdict on the size as it stands, by the rule that judges every reading; a guard is what a reading
    is worth.
    """
    feature = Feature(given.kind, given.lower.mm, given.upper.mm)
    guard = min(given.guard.mm, Decimal(repr(guard_mm))) if given.guard.mm > 0 else Decimal(0)
    ends = {one.mm for one in (given.smallest, given.size, given.largest) if one}
    worst = worst_reading(feature, (Measured(end, guard) for end in sorted(ends)), "guarded" if guard else "simple")
    assert worst is not None
    return worst[0].value


_BY_VERDICT = {
    "metal_to_go": Next.CUT, "in_limits": Next.DONE, "too_close_to_call": Next.MEASURE, "gone_too_far": Next.GONE,
}  # fmt: skip


class _Asked:
    """The question as the model takes it: the cuts, what is known of the machine, what stands, how cuts are taken."""

    def __init__(self, given: NextCutInput) -> None:
        self.given = given
        self.cuts = _seen(given.kind, given.cuts, given.piece)
        self.reading = float(given.repeatability.mm)
        self.prior = _prior(given)
        known = learned(self.cuts, reading_mm=self.reading, prior=self.prior)
        self.own = [cut for cut in self.cuts if cut.pieces_ago == 0 and not cut.stoned]
        self.model = known if self.own or not self.cuts else known.touched()
        self.rules = _rules(given)
        self.to_go = _to_go(given, float(given.size.mm))
        self.per_line = float(line_on_diameter(given.dial_line.mm, given.dial_reads))
        self.advice = next_depth(
            self.to_go,
            self.model,
            self.rules,
            given.approach,
            last_dialled=self.last_dialled,
            judged=_BY_VERDICT[given.judged or _judged(given, self.rules.guard)],
            agree=self.agree,
        )

    @property
    def last_dialled(self) -> float | None:
        """What the piece's last pass was dialled; none where it has none."""
        return (self.own[-1].last_pass or self.own[-1].dialled) if self.own else None

    @cached_property
    def agree(self) -> bool:
        """Whether the piece's last cut took what was to be expected from those before it."""
        if len(self.own) < 2 or self.cuts[-1] is not self.own[-1]:
            return False
        last = self.own[-1]
        low, high = learned(self.cuts[:-1], reading_mm=self.reading, prior=self.prior).predict(last.dialled).interval
        return low <= last.removed <= high

    @property
    def noticed(self) -> list[Noticed]:
        """What the newest cut shows, where it is of this piece."""
        if not self.own or self.cuts[-1] is not self.own[-1]:
            return []
        given = self.given
        found = findings(
            self.cuts,
            kind=given.kind,
            size_mm=float(given.size.mm),
            unit=given.unit,
            reading_mm=self.reading,
            least_mm=self.rules.least,
            backlash_mm=float(given.backlash.mm) if given.backlash else 0.0,
            line_mm=self.per_line,
            prior=self.prior,
        )
        return [Noticed(name=one.name, sentence=one.sentence, remedy=one.remedy, ask=one.ask) for one in found]

    @property
    def touch_takes(self) -> Length | None:
        """What a touch of stone or cloth took on the average; none where none was logged."""
        touches = [cut.removed for cut in self.cuts if cut.stoned]
        return _length(max(sum(touches) / len(touches), 0.0), self.given.unit) if touches else None

    @property
    def machine_words(self) -> str:
        """What earlier set-ups taught, in words; empty where there are none."""
        prior = self.prior
        if not prior.set_ups:
            return ""
        factor = max(prior.kinds, key=lambda kind: kind[1])[0]
        times = f"{prior.set_ups} set-up{'s' if prior.set_ups > 1 else ''}"
        return (
            f"This dial takes {prior.gain * factor:.2f} for 1 and its tools spring by {100 * prior.spring:.0f} % of a"
            f" cut: seen in {times} on this machine."
        )

    def plan(self, advice: Advice) -> tuple[list[Pass], Advice | None]:
        """The passes from here, each as if the one before did what is expected of it and was measured, and what is said
        at their end.
        """
        given, sign = self.given, cut_direction(self.given.kind)
        size, found, cuts, first = float(given.size.mm), list[Pass](), list(self.cuts), not self.own
        if advice.next is Next.TOUCH_ON:
            advice, first = next_depth(self.to_go, self.model.touched(), self.rules, given.approach), True
        while advice.next is Next.CUT and advice.predicted is not None and len(found) < LARGEST_PLAN:
            middle = advice.predicted.middle
            found.append(self._pass(advice, advice.predicted, size, sign))
            last = advice.passes[-1] if advice.passes else None
            cuts.append(CutSeen(advice.dialled, middle, first, 0, last))
            size, first = size - sign * middle, False
            model = learned(cuts, reading_mm=self.reading, prior=self.prior)
            advice = next_depth(
                _to_go(given, size),
                model,
                self.rules,
                given.approach,
                last_dialled=last if last is not None else cuts[-1].dialled,
                agree=(self.agree or len(self.own) < 2) and len(self.own) + len(found) > 1,
            )
        inside = advice.next is Next.DONE or given.lower.mm <= Decimal(repr(size)) <= given.upper.mm
        return found, None if inside else advice

    def _pass(self, advice: Advice, predicted: Predicted, size: float, sign: int) -> Pass:
        after = _after(predicted, size, sign, self.given.unit)
        return Pass(
            dialled=_length(advice.dialled, self.given.unit),
            lines=self._lines(advice.dialled),
            parts=[self._lines(one) for one in advice.passes],
            after=after[0],
            after_low=after[1],
            after_high=after[2],
            why=WHY_WORDS[advice.why],
        )

    def cautious(self, advice: Advice) -> Tried | None:
        """The cut that would be taken if two equal ones were not trusted; none where the advice is no such cut."""
        if advice.why != "two_equal":
            return None
        other = next_depth(
            self.to_go, self.model, self.rules, self.given.approach, last_dialled=self.last_dialled, judged=Next.CUT
        )
        return self._tried(_length(other.dialled, self.given.unit)) if other.next is Next.CUT else None

    def _lines(self, dialled: float) -> Decimal:
        return Decimal(f"{dialled / self.per_line:.2f}")

    def advised(self) -> tuple[Advice, Decimal | None]:
        """The advice as it stands with the dial at hand, and the part of a line where whole ones are too much."""
        advice = self.advice
        if advice.next in (Next.TOO_THIN, Next.POLISH):
            between = self._between_lines(self.model)
            return (replace(advice, next=Next.TOO_THIN) if between else advice), between
        if advice.next is not Next.TOUCH_ON:
            return advice, None
        # Touched on anew, nothing of where the tool stood counts; it must lead somewhere: to a cut, or to a part of a
        # line.
        if between := self._between_lines(self.model):
            return replace(advice, next=Next.TOO_THIN), between
        anew = self.model.touched()
        then = next_depth(self.to_go, anew, self.rules, self.given.approach)
        if then.next is Next.CUT:
            return advice, None
        between = self._between_lines(anew)
        return (advice if between else replace(then, next=Next.TOO_THIN)), between

    def _between_lines(self, model: CutModel) -> Decimal | None:
        """Lines, in halves or quarters, of the cut that would be safe if the dial were set so; none where none would
        be.
        """
        given = self.given
        for parts in (2, 4):
            if parts <= given.parts_of_line:
                continue
            finer = replace(self.rules, step=self.rules.step * given.parts_of_line / parts)
            found = next_depth(self.to_go, model, finer, given.approach, last_dialled=self.last_dialled)
            if found.next is Next.CUT and found.steps:
                return Decimal(found.steps) / parts
        return None

    def tried(self) -> Tried | None:
        """What an amount of one's own would do."""
        return self._tried(self.given.if_dialled) if self.given.if_dialled is not None else None

    def _tried(self, amount: Length) -> Tried:
        given, dialled = self.given, float(amount.mm)
        found, sign = self.model.predict(dialled), cut_direction(given.kind)
        after = _after(found, float(given.size.mm), sign, given.unit)
        gone = found.chance_above(self.to_go.gone)
        landing = max(found.chance_above(self.to_go.near) - gone, 0.0)
        return Tried(
            dialled=amount,
            lines=self._lines(dialled),
            after=after[0],
            after_low=after[1],
            after_high=after[2],
            chance_gone_percent=100 * gone,
            chance_in_percent=100 * landing,
        )


def predicted(given: NextCutInput, dialled_mm: Decimal, last_pass_mm: Decimal | None = None) -> Predicted:
    """What a cut of this piece dialled so will take, mm on diameter. Source: as of next_cut."""
    model = _Asked(given).model
    if last_pass_mm is None or last_pass_mm >= dialled_mm:
        return model.predict(float(dialled_mm))
    return model.predict_passes((float(dialled_mm - last_pass_mm), float(last_pass_mm)))


def _after(found: Predicted, size: float, sign: int, unit: Unit) -> tuple[Length, Length, Length]:
    """The size after a cut and the interval nine in ten land in; the size moves the way of the cut, or not at all."""
    ends = sorted(size - sign * removed for removed in found.interval)
    return _length(size - sign * found.middle, unit), _length(ends[0], unit), _length(ends[1], unit)


def _length(mm: float, unit: Unit) -> Length:
    """Rounded to what a shop can read: a tenth of a thou, a µm."""
    value = round_to(in_unit(Decimal(f"{mm:.9f}"), unit), 4 if unit == "in" else 3)
    return Length.of(value, unit)


def _step_mm(given: NextCutInput) -> Decimal:
    return line_on_diameter(given.dial_line.mm, given.dial_reads) / given.parts_of_line


def _check(given: NextCutInput) -> None:
    if given.lower.mm >= given.upper.mm:
        raise InputError("The lower limit is not below the upper.", "Exchange them.", field="lower")
    if given.aim and not given.lower.mm <= given.aim.mm <= given.upper.mm:
        raise OutOfRange("The aim lies outside the limits.", "Leave it empty for the middle.", field="aim")
    if given.least_cut.mm >= given.most_cut.mm:
        raise InputError("The least cut is not below the most.", "Exchange them.", field="least_cut")
    if given.if_dialled is not None and given.if_dialled.mm < 0:
        raise InputError(
            f"{given.if_dialled} is no cut.", "Give what would be dialled on diameter.", field="if_dialled"
        )
    for index, cut in enumerate(given.cuts):
        removed = _removed(given.kind, cut)
        if removed < -1 or cut.dialled.mm < 0:
            raise InputError(
                f"Cut {index + 1} made the {given.kind} grow: {cut.before} to {cut.after}.",
                "Check the two sizes and their order.",
                field=f"cuts.{index}",
            )


def _removed(kind: KindName, cut: MeasuredCut) -> float:
    return float(cut.before.mm - cut.after.mm) * cut_direction(kind)


def _seen(kind: KindName, cuts: Sequence[MeasuredCut], piece: int) -> list[CutSeen]:
    """The cuts in the order they were taken; a piece's first has nothing before it."""
    order = list(dict.fromkeys(cut.piece for cut in cuts))
    if piece not in order:
        order.append(piece)
    met: set[int] = set()
    found: list[CutSeen] = []
    for cut in cuts:
        last = float(cut.last_pass.mm) if cut.last_pass else None
        first, ago = cut.piece not in met, len(order) - 1 - order.index(cut.piece)
        found.append(CutSeen(float(cut.dialled.mm), _removed(kind, cut), first, ago, last, cut.stoned))
        met.add(cut.piece)
    return found


def _prior(given: NextCutInput) -> Prior:
    if not given.earlier_set_ups:
        return USUAL
    set_ups = tuple(tuple(_seen(given.kind, cuts, cuts[-1].piece)) for cuts in given.earlier_set_ups if cuts)
    return _known(set_ups, float(given.repeatability.mm))


@lru_cache(maxsize=256)
def _known(set_ups: tuple[tuple[CutSeen, ...], ...], reading_mm: float) -> Prior:
    return known_machine(set_ups, reading_mm=reading_mm)


def _rules(given: NextCutInput) -> CutRules:
    return CutRules(
        step=float(_step_mm(given)),
        least=float(given.least_cut.mm),
        most=float(given.most_cut.mm),
        finish=float(given.finish_cut.mm),
        risk=float(given.risk_percent) / 100,
        polish=float(given.polish.mm),
        guard=min(float(given.guard.mm), float(given.upper.mm - given.lower.mm) / 2),
        cloth=feature_kind(given.kind).can_be_stoned,
    )


def _to_go(given: NextCutInput, size: float) -> ToGo:
    low, high = float(given.lower.mm), float(given.upper.mm)
    aim = float(given.aim.mm) if given.aim else (low + high) / 2
    under, over = _spread(given)
    if cut_direction(given.kind) == 1:
        return ToGo(size - aim, size - under - low, size + over - high)
    return ToGo(aim - size, high - size - over, low - size + under)


def _spread(given: NextCutInput) -> tuple[float, float]:
    """How far the smallest lies under the size, and the largest over it, mm."""
    under = given.size.mm - given.smallest.mm if given.smallest else Decimal(0)
    over = given.largest.mm - given.size.mm if given.largest else Decimal(0)
    return float(max(under, Decimal(0))), float(max(over, Decimal(0)))
