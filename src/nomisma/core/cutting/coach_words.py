"""What the coach says: the headline, the sentence, why a plan ends where it does, and the working behind them."""

from decimal import Decimal
from typing import assert_never

from nomisma.core.cutting.coach_model import NextCutInput
from nomisma.core.cutting.depth import Advice, Approach, Next, ToGo
from nomisma.core.cutting.dial import turns_and_lines
from nomisma.core.cutting.fine_cuts import rest_words
from nomisma.core.cutting.learned import CutModel, Prior
from nomisma.core.part.feature import cut_direction
from nomisma.core.quantity.display import both, show, show_small
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import COMMON_PRACTICE, Step

APPROACH_WORDS: dict[Approach, str] = {
    "equal_cuts": "two equal last cuts: measure, take half of what is left, measure, take the same again",
    "creep": "creep: measure after every cut, halve what is left until one cut is sure to land",
    "polish": "leave a little for stone or cloth",
}
WHY_WORDS = {
    "rough": "roughing, down to two finishing cuts",
    "half": "half of what is left",
    "same_again": "the same again: the same depth, the same pressure",
    "two_equal": "the same again: the last cuts agree, so the same depth under the same pressure lands",
    "towards": "as near as whole lines come: it does not land yet",
    "one_cut": "too little for two cuts",
    "sure": "one cut lands it",
    "risk": "held back: more could pass the limit",
    "most": "the most at one pass: what the machine is said to take, or 2.5 mm (0.1 in) where that is not said",
    "least": "the least that cuts cleanly",
    "spring": "the same dial again: what the last cut pushed away comes off",
}
LEAST_SHOWN_PERCENT = 0.01


def percent(chance: float) -> str:
    """A chance in per cent as it is said; never a bare nothing.

    Source: none, wording.

    >>> percent(0.0013), percent(0.000001), percent(0.999999)
    ('0.13 %', 'below 0.01 %', 'above 99.99 %')
    """
    value = 100 * chance
    if value < LEAST_SHOWN_PERCENT:
        return f"below {LEAST_SHOWN_PERCENT} %"
    return f"above {100 - LEAST_SHOWN_PERCENT} %" if value > 100 - LEAST_SHOWN_PERCENT else f"{value:.2f} %"


def _small(mm: float, unit: Unit) -> str:
    return show_small(Decimal(f"{mm:.9f}"), unit)


def headline(given: NextCutInput, advice: Advice, lines: Decimal | None, between: Decimal | None = None) -> str:
    """The one thing to do, to be read from beside the carriage; `between` in lines of the dial. Source: none,
    wording.
    """
    if between and advice.next is Next.TOO_THIN:
        return "Between the lines"
    match advice.next:
        case Next.CUT:
            around = given.dial_turn.mm / given.dial_line.mm if given.dial_turn else None
            return f"Wind in {turns_and_lines(lines, around)}" if lines else "Same dial again"
        case Next.DONE:
            return "In limits: leave it"
        case Next.MEASURE:
            return "Too close to call: measure again"
        case Next.GONE:
            return "Gone too far"
        case Next.POLISH:
            return "Stone or cloth takes the rest"
        case Next.TOO_THIN:
            return "Too little for whole lines"
        case Next.TOUCH_ON:
            return "Touch the tool on anew"
        case _:  # pragma: no cover
            assert_never(advice.next)


def sentence(given: NextCutInput, advice: Advice, dialled: Length | None, to_go: ToGo, between: Decimal | None) -> str:
    """Why, and what to do, in one or two sentences; `between` in lines of the dial. Source: none, wording."""
    unit = given.unit
    match advice.next:
        case Next.CUT:
            return _cut_sentence(given, advice, dialled, to_go)
        case Next.DONE:
            return "Measure it at other places before it leaves the machine."
        case Next.MEASURE:
            return (
                f"It reads within {_small(float(given.guard.mm), unit)} of a limit, which is what a reading may be off"
                " by. Read it again, cool and with care, before anything more is taken."
            )
        case Next.GONE:
            return "Metal cannot be put back. Stop, and ask who decides."
        case Next.TOUCH_ON:
            return (
                f"{_small(max(to_go.near, 0.0), unit)} still to the limit, but what the last heavy cut pushed away may"
                " come off with the next and pass it. Wind out, touch the tool on the work again with the dial at 0,"
                " and go on as with a new set-up." + (f" Then: {_rest(given, between, cloth=False)}" if between else "")
            )
        case Next.POLISH | Next.TOO_THIN:
            rest = _rest(given, between, cloth=advice.next is Next.POLISH)
            return (
                f"{_small(max(to_go.near, 0.0), unit)} still to the limit: whole lines that are safe would only rub."
                f" {rest}"
            )
        case _:  # pragma: no cover
            assert_never(advice.next)


def _rest(given: NextCutInput, between: Decimal | None, *, cloth: bool) -> str:
    return rest_words(
        kind=given.kind,
        between_lines=between,
        compound_line=given.compound_line,
        unit=given.unit,
        cloth=cloth,
    )


def _cut_sentence(given: NextCutInput, advice: Advice, dialled: Length | None, to_go: ToGo) -> str:
    unit, why = given.unit, WHY_WORDS[advice.why]
    left = f"{_small(to_go.aim, unit)} to the aim"
    if not advice.steps:
        return f"A spring pass: {why}. More would be too much, less would only rub. {left}."
    amount = show(dialled.mm, unit) if dialled else ""
    several = (
        f" In {len(advice.passes)} passes, nothing measured between: the last, a light one, takes off what the heavy"
        " ones leave standing."
        if advice.passes
        else ""
    )
    return (
        f"{amount} on diameter: {why}.{several} {left}; the chance of going past the limit is"
        f" {percent(advice.chance_gone)}."
    )


def plan_note(given: NextCutInput, end: Advice, after_mm: Decimal) -> str:
    """Why the passes end outside the limits, and what to do there. Source: none, wording."""
    unit = given.unit
    near = after_mm - given.upper.mm if cut_direction(given.kind) == 1 else given.lower.mm - after_mm
    if near <= 0:
        return "The passes end at the limit, too close to call there: measure it again with care."
    left = show_small(near, unit)
    if end.next is Next.CUT:
        return f"The passes come to within {left} of the limit; what is left is planned when it has been measured."
    finer = "" if given.parts_of_line == 4 else "Half lines, if this dial can be set between its lines, may land it. "
    rest = finer + _rest(given, None, cloth=end.next is Next.POLISH)
    return f"The passes end {left} before the limit: what is left there is too little for whole lines. {rest}"


def coach_working(
    given: NextCutInput, model: CutModel, prior: Prior, advice: Advice, step_mm: Decimal, count: int
) -> list[Step]:
    """How it was worked out, to be checked by hand. Source: none, wording."""
    unit = given.unit
    found = [
        Step(
            name="What this set-up takes",
            formula=(
                "removed in all = t + g·dialled in all − k·removed last + a·cuts; the spring k comes off with the"
                " next cut"
            ),
            values=f"{count} cut{'s' if count != 1 else ''} seen"
            + (f", {prior.set_ups} earlier set-ups of this machine" if prior.set_ups else ""),
            result=(
                f"g = {model.gain:.3f} ± {2 * model.gain_spread:.3f}, k = {model.spring:.3f} ±"
                f" {2 * model.spring_spread:.3f}, scatter {_small(model.scatter_mm, unit)}"
            ),
            source="Bayesian linear regression; before the first cut: common practice, no source",
        ),
        Step(
            name="Approach",
            formula=APPROACH_WORDS[given.approach],
            result=WHY_WORDS.get(advice.why, advice.next.value.replace("_", " ")),
            source=COMMON_PRACTICE,
        ),
        Step(
            name="On the dial",
            formula="whole steps of the dial, never past what the risk allows",
            values=f"one step {both(step_mm, unit)} on diameter; risk {given.risk_percent} %",
            result=f"{advice.steps} steps" if advice.next is Next.CUT else "none",
            source=COMMON_PRACTICE,
        ),
    ]
    if model.factor_chance < 0.999 or model.factor != 1.0:
        shares = ", ".join(
            f"{one.factor:g} times {percent(weight)}"
            for one, weight in zip(model.explanations, model.weights, strict=True)
        )
        found.append(
            Step(
                name="The kind of dial",
                formula="each kind weighed by how well it foresaw the cuts; advice is safe under all that are left",
                result=f"takes {shares} of what it says",
                source="Bayes’ rule",
            )
        )
    return found
