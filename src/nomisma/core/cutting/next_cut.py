"""The coach at the dial: what to dial for the next cut, what it will measure after, and the passes from here to size."""

from collections.abc import Sequence
from dataclasses import replace
from decimal import Decimal
from typing import Literal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.cutting.amount import DialReads, line_on_diameter
from nomisma.core.cutting.depth import Advice, CutRules, Next, School, ToGo, dial_factor, next_depth, scaled
from nomisma.core.cutting.findings import findings
from nomisma.core.cutting.learned import CutSeen, Predicted, learned
from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show, show_small
from nomisma.core.quantity.fields import Difference, Number, Size
from nomisma.core.quantity.length import Length, Unit, in_unit, round_to
from nomisma.core.working import COMMON_PRACTICE, Step

SCHOOL_WORDS: dict[School, str] = {
    "equal_cuts": "two equal last cuts: measure, take half of what is left, measure, take the same again",
    "creep": "creep: measure after every cut, halve what is left until one cut is sure to land",
    "polish": "leave a little for stone or cloth",
}
WHY_WORDS = {
    "rough": "roughing, down to two finishing cuts",
    "half": "half of what is left",
    "same_again": "the same again: the same depth, the same pressure",
    "one_cut": "too little for two cuts",
    "sure": "one cut lands it",
    "first": "a first cut small enough that a dial that takes twice as much spoils nothing",
    "risk": "held back: more could pass the limit",
    "most": "the most this machine takes",
    "least": "the least that cuts cleanly",
    "spring": "the same dial again: what the last cut pushed away comes off",
}
LARGEST_PLAN = 12


class CutTaken(Model):
    """One cut: what was dialled (on diameter, as the dial has it), the size before and after; `piece` tells the parts of a batch apart."""

    dialled: Difference
    before: Size
    after: Size
    piece: int = Field(default=1, ge=1)


class NextCutInput(Model):
    """A shaft or a bore at its size as measured, its limits and aim, and the cuts of this set-up so far, oldest first.

    `dial_line` with `dial_reads`; `parts_of_line`: 2 or 4 where a half or a quarter of a line can be set. `risk_percent`: the chance of
    passing the limit where metal is gone that a cut may carry. `piece`: the part in the machine now. `smallest` and `largest` of the
    places read, where it is not round or straight: the one nearest its limit counts for what is gone.
    """

    kind: Literal["shaft", "bore"] = "shaft"
    size: Size
    smallest: Size | None = None
    largest: Size | None = None
    lower: Size
    upper: Size
    aim: Size | None = None
    cuts: list[CutTaken] = Field(default=[], max_length=400)
    piece: int = Field(default=1, ge=1)
    dial_line: Size
    dial_reads: DialReads = "diameter"
    parts_of_line: Literal[1, 2, 4] = 1
    school: School = "equal_cuts"
    risk_percent: Number = Field(default=Decimal("0.2"), gt=0, le=10)
    least_cut: Size = Length(Decimal("0.02"), "mm")
    most_cut: Size = Length(Decimal("2.5"), "mm")
    finish_cut: Size = Length(Decimal("0.2"), "mm")
    polish: Size = Length(Decimal("0.01"), "mm")
    backlash: Size | None = None
    repeatability: Size = Length(Decimal("0.0015"), "mm")
    unit: Unit = "mm"


class Noticed(Model):
    """Something the cuts show; `ask` where the size should be measured again before the next."""

    name: str
    sentence: str
    remedy: str
    ask: bool


class Pass(Model):
    """One pass of the plan: what is dialled, the size after with its 90 % interval."""

    dialled: Difference
    lines: Number
    after: Difference
    after_low: Difference
    after_high: Difference
    why: str


class NextCutResult(Model):
    """What to do now. `dialled` and `lines` for the dial as it is; `after` what it should measure, with a 90 % interval.

    `between_lines`: a part of a line that would be safe and cut cleanly, where whole ones as chosen are too much.
    """

    next: Next
    dialled: Difference | None = None
    lines: Number | None = None
    after: Difference | None = None
    after_low: Difference | None = None
    after_high: Difference | None = None
    chance_gone_percent: float
    to_aim: Difference
    exact_lines: Number
    plan: list[Pass]
    noticed: list[Noticed]
    headline: str
    sentence: str
    dial_takes: Number
    between_lines: Number | None = None
    working: list[Step]


@calculation(
    name="next_cut",
    title="The next cut",
    validity="Diameters turned or bored on one set-up, measured after every cut; depths the tool cuts cleanly.",
    source="conjugate Bayesian linear regression with spring; schools of approach: common practice, no source",
    example={
        "kind": "shaft", "size": "1.539 in", "lower": "1.3740 in", "upper": "1.3750 in", "dial_line": "0.001 in", "unit": "in",
        "cuts": [
            {"dialled": "0.100 in", "before": "1.750 in", "after": "1.636 in"},
            {"dialled": "0.086 in", "before": "1.636 in", "after": "1.539 in"},
        ],
    },
)  # fmt: skip
def next_cut(given: NextCutInput) -> NextCutResult:
    """What to dial next, what it will measure after, and the passes to size. Raises InputError, OutOfRange.

    Source: conjugate Bayesian linear regression (normal-inverse-gamma) of what came off on what was dialled and on the cut before; the
    posterior predictive is Student's t. Never a cut whose chance of passing the metal-gone limit exceeds the risk.
    """
    _check(given)
    cuts = _seen(given)
    factor = dial_factor(cuts)
    rules = _rules(given, factor)
    to_go = _to_go(given, float(given.size.mm))
    noticed = findings(
        cuts, kind=given.kind, size_mm=float(given.size.mm), unit=given.unit, reading_mm=rules.reading, least_mm=rules.least,
        backlash_mm=float(given.backlash.mm) if given.backlash else 0.0,
    ) if cuts and cuts[-1].pieces_ago == 0 else []  # fmt: skip
    advice = next_depth(to_go, cuts, rules, given.school)
    advice, passes, between = _course(given, cuts, rules, advice)
    first = passes[0] if advice.next in (Next.CUT, Next.TOUCH_ON) and passes else None
    unit = given.unit
    step = _step_mm(given)
    return NextCutResult(
        next=advice.next,
        dialled=first.dialled if first else None,
        lines=first.lines if first else None,
        after=first.after if first else None,
        after_low=first.after_low if first else None,
        after_high=first.after_high if first else None,
        chance_gone_percent=100 * advice.chance_gone,
        to_aim=_length(to_go.aim, unit),
        exact_lines=Decimal(f"{to_go.aim / float(line_on_diameter(given.dial_line.mm, given.dial_reads)):.2f}"),
        plan=passes,
        noticed=[Noticed(name=one.name, sentence=one.sentence, remedy=one.remedy, ask=one.ask) for one in noticed],
        headline="Between the lines" if between and advice.next is not Next.TOUCH_ON else _headline(advice, first),
        sentence=_said(given, advice, first, to_go, between),
        dial_takes=Decimal(str(factor)),
        between_lines=between,
        working=_working(given, cuts, rules, advice, step),
    )


def _course(
    given: NextCutInput, cuts: Sequence[CutSeen], rules: CutRules, advice: Advice
) -> tuple[Advice, list[Pass], Decimal | None]:
    """The advice as it stands with the dial at hand, the passes from here, and the part of a line where whole ones are too much."""
    between = _between_lines(given, cuts, rules, advice)
    if between:
        return replace(advice, next=Next.TOO_THIN), [], between
    if advice.next is not Next.TOUCH_ON:
        return advice, _plan(given, cuts, rules), None
    # Touched on anew, nothing of the cuts before counts; where even then no whole line is safe, a part of one may be.
    passes = _plan(given, [], rules)
    then = None if passes else _between_lines(given, [], rules, advice)
    return (advice if passes or then else replace(advice, next=Next.TOO_THIN)), passes, then


def _said(given: NextCutInput, advice: Advice, first: Pass | None, to_go: ToGo, between: Decimal | None) -> str:
    if between is None:
        return _sentence(given, advice, first, to_go)
    parts = _between_words(given, between)
    return f"{_sentence(given, advice, first, to_go)} Then: {parts}" if advice.next is Next.TOUCH_ON else parts


def predicted(given: NextCutInput, dialled_mm: Decimal) -> Predicted:
    """What a cut of this piece dialled so will take, mm on diameter. Source: as of next_cut."""
    cuts = _seen(given)
    rules = _rules(given, dial_factor(cuts))
    own = [cut for cut in cuts if cut.pieces_ago == 0]
    model = learned(scaled(cuts, rules.factor), reading_mm=rules.reading)
    return model.predict(float(dialled_mm) * rules.factor, own[-1].removed if own else 0.0, first=not own)


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
    for index, cut in enumerate(given.cuts):
        removed = _removed(given.kind, cut)
        if removed < -1 or cut.dialled.mm < 0:
            raise InputError(
                f"Cut {index + 1} made the {given.kind} grow: {cut.before} to {cut.after}.",
                "Check the two sizes and their order.",
                field=f"cuts.{index}",
            )


def _removed(kind: str, cut: CutTaken) -> float:
    return float(cut.before.mm - cut.after.mm) * (1 if kind == "shaft" else -1)


def _seen(given: NextCutInput) -> list[CutSeen]:
    """The cuts in the order they were taken; a piece's first has nothing before it."""
    order = list(dict.fromkeys(cut.piece for cut in given.cuts))
    if given.piece not in order:
        order.append(given.piece)
    found: list[CutSeen] = []
    before: dict[int, float] = {}
    for cut in given.cuts:
        removed = _removed(given.kind, cut)
        found.append(
            CutSeen(
                float(cut.dialled.mm), removed, before.get(cut.piece, 0.0), cut.piece not in before,
                len(order) - 1 - order.index(cut.piece),
            )
        )  # fmt: skip
        before[cut.piece] = removed
    return found


def _rules(given: NextCutInput, factor: float) -> CutRules:
    return CutRules(
        step=float(_step_mm(given)),
        least=float(given.least_cut.mm),
        most=float(given.most_cut.mm),
        finish=float(given.finish_cut.mm),
        risk=float(given.risk_percent) / 100,
        polish=float(given.polish.mm),
        reading=float(given.repeatability.mm),
        factor=factor,
    )


def _to_go(given: NextCutInput, size: float) -> ToGo:
    low, high = float(given.lower.mm), float(given.upper.mm)
    aim = float(given.aim.mm) if given.aim else (low + high) / 2
    under, over = _spread(given)
    if given.kind == "shaft":
        return ToGo(size - aim, size - under - low, size + over - high)
    return ToGo(aim - size, high - size - over, low - size + under)


def _spread(given: NextCutInput) -> tuple[float, float]:
    """How far the smallest lies under the size, and the largest over it, mm."""
    under = given.size.mm - given.smallest.mm if given.smallest else Decimal(0)
    over = given.largest.mm - given.size.mm if given.largest else Decimal(0)
    return float(max(under, Decimal(0))), float(max(over, Decimal(0)))


def _plan(given: NextCutInput, cuts: Sequence[CutSeen], rules: CutRules) -> list[Pass]:
    """The passes from here, each as if the one before did what is expected of it."""
    size, sign, seen = float(given.size.mm), 1 if given.kind == "shaft" else -1, list(cuts)
    found: list[Pass] = []
    model = learned(scaled(cuts, rules.factor), reading_mm=rules.reading)
    per_line = float(line_on_diameter(given.dial_line.mm, given.dial_reads))
    while len(found) < LARGEST_PLAN:
        # What the plan expects teaches the model nothing: it is judged by the cuts that were taken.
        advice = next_depth(_to_go(given, size), seen, rules, given.school, model=model)
        if advice.next is not Next.CUT or advice.predicted is None:
            break
        middle = advice.predicted.middle
        ends = [size - sign * advice.predicted.quantile(share) for share in (0.95, 0.05)]
        found.append(
            Pass(
                dialled=_length(advice.dialled, given.unit),
                lines=Decimal(f"{advice.dialled / per_line:.2f}"),
                after=_length(size - sign * middle, given.unit),
                after_low=_length(min(ends), given.unit),
                after_high=_length(max(ends), given.unit),
                why=WHY_WORDS[advice.why],
            )
        )
        own = [cut for cut in seen if cut.pieces_ago == 0]
        seen.append(CutSeen(advice.dialled, middle, own[-1].removed if own else 0.0, not own))
        size -= sign * middle
    return found


def _between_lines(given: NextCutInput, cuts: Sequence[CutSeen], rules: CutRules, advice: Advice) -> Decimal | None:
    """Lines, in halves or quarters, of the cut that would be safe if the dial were set so; none where one is, or none would be."""
    if advice.next not in (Next.TOO_THIN, Next.POLISH, Next.TOUCH_ON):
        return None
    for parts in (2, 4):
        if parts <= given.parts_of_line:
            continue
        finer = replace(rules, step=rules.step * given.parts_of_line / parts)
        found = next_depth(_to_go(given, float(given.size.mm)), cuts, finer, given.school)
        if found.next is Next.CUT:
            return Decimal(found.steps) / parts
    return None


def _between_words(given: NextCutInput, lines: Decimal) -> str:
    amount = show(lines * line_on_diameter(given.dial_line.mm, given.dial_reads), given.unit)
    count = f"{lines.normalize():f}"
    first = f"{count} of a line" if lines < 1 else f"{count} lines"
    parts = "half" if lines % Decimal("0.5") == 0 else "quarter"
    return (
        f"Whole lines are too much or too little, but {first}, {amount} on diameter, is safe and cuts cleanly. If this dial can be set "
        f"between its lines, choose {parts} lines under “How it is cut”; if not, the rest is for stone or cloth."
    )


def _headline(advice: Advice, first: Pass | None) -> str:
    if advice.next is Next.CUT and first:
        lines = f"{first.lines.normalize():f}"
        if not first.lines:
            return "Same dial again"
        return f"Wind in {lines} line{'s' if first.lines != 1 else ''}"
    return {
        Next.DONE: "In limits: leave it",
        Next.GONE: "Gone too far",
        Next.POLISH: "Stone or cloth takes the rest",
        Next.TOO_THIN: "Too little to cut safely",
        Next.TOUCH_ON: "Touch the tool on anew",
        Next.CUT: "",
    }[advice.next]


def _sentence(given: NextCutInput, advice: Advice, first: Pass | None, to_go: ToGo) -> str:
    unit = given.unit
    if advice.next is Next.CUT and first:
        left = show_small(_length(to_go.aim, unit).mm, unit)
        if not first.lines:
            return f"A spring pass: {first.why}. More would be too much, less would only rub. {left} to the aim."
        return (
            f"{show(first.dialled.mm, unit)} on diameter: {first.why}. {left} to the aim; the chance of going past the limit is "
            f"{100 * advice.chance_gone:.2f} %."
        )
    if advice.next is Next.DONE:
        return "Measure it at other places before it leaves the machine."
    if advice.next is Next.GONE:
        return "Metal cannot be put back. Stop, and ask who decides."
    amount = show_small(_length(max(to_go.near, 0.0), unit).mm, unit)
    if to_go.near <= 0:
        return "It reads just inside its limit: too close to call. Measure it again with care; a touch of stone or cloth settles it."
    if advice.next is Next.TOUCH_ON:
        return (
            f"{amount} still to the limit, but what the last heavy cut pushed away may come off with the next and pass it. Wind out, touch "
            "the tool on the work again with the dial at 0, and go on as with a new set-up."
        )
    return (
        f"{amount} still to the limit. A cut as thin as is safe would only rub. Stone, emery or cloth takes it off, a touch at a time, "
        "measured cool; or hone the tool and take a trial cut elsewhere."
    )


def _working(given: NextCutInput, cuts: Sequence[CutSeen], rules: CutRules, advice: Advice, step: Decimal) -> list[Step]:
    unit = given.unit
    model = learned(scaled(cuts, rules.factor), reading_mm=rules.reading)
    a, b, c = model.middle
    found = [
        Step(
            name="What this set-up takes",
            formula="removed = a + b·dialled + c·removed before; a tool that springs by k leaves b = 1/(1+k), c = k/(1+k)",
            values=f"{len(cuts)} cut{'s' if len(cuts) != 1 else ''} seen",
            result=f"a = {show_small(_length(a, unit).mm, unit, signed=True)}, b = {b:.3f}, c = {c:.3f}, "
            f"scatter {show_small(_length(model.usual_spread, unit).mm, unit)}",
            source="conjugate Bayesian linear regression; before the first cut: common practice, no source",
        ),
        Step(
            name="School",
            formula=SCHOOL_WORDS[given.school],
            result=WHY_WORDS.get(advice.why, advice.next.value.replace("_", " ")),
            source=COMMON_PRACTICE,
        ),
        Step(
            name="On the dial",
            formula="down to a whole step of the dial, never past what the risk allows",
            values=f"one step {both(step, unit)} on diameter; risk {given.risk_percent} %",
            result=f"{advice.steps} steps" if advice.next is Next.CUT else "none",
            source=COMMON_PRACTICE,
        ),
    ]
    if rules.factor != 1:
        found.append(
            Step(
                name="The dial",
                formula="removed over dialled, the middle of the cuts",
                result=f"takes {rules.factor} times what it was said to",
                source="arithmetic",
            )
        )
    return found
