"""Will it clean up? The stock as measured, less what it swings, what is oval and what is scale, against the size it has
to give.
"""

from decimal import Decimal

from nomisma.core.calculation import calculation
from nomisma.core.model import Model
from nomisma.core.part.feature import cut_direction
from nomisma.core.part.feature_kinds import KindName
from nomisma.core.quantity.display import both, show
from nomisma.core.quantity.fields import Difference, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import ARITHMETIC, Step

NONE = Length(Decimal(0))


class CleanUpInput(Model):
    """Stock (its smallest diameter; of a bore its largest), the size it must give, and what has to come off all round.

    `runout`: total indicator reading as chucked. `ovality`: largest less smallest diameter. `scale`: depth of skin or
    rust, on radius.
    """

    kind: KindName = "shaft"
    stock: Size
    wanted: Size
    runout: Difference = NONE
    ovality: Difference = NONE
    scale: Difference = NONE
    unit: Unit = "in"


class CleanUpResult(Model):
    """The largest (of a bore: smallest) clean diameter, and what is over or short; `true_within` is the runout that
    would do.

    To get under the skin in one cut, on diameter: `first_cut_from_touch` counted from where the tool touches the high
    side, as a hand counts; `first_cut_from_size` from the size as measured, as a readout counts.
    """

    cleans_up: bool
    clean_diameter: Size
    spare: Difference
    true_within: Difference
    first_cut_from_touch: Difference
    first_cut_from_size: Difference
    sentence: str
    gives: list[str]
    working: list[Step]


@calculation(
    name="clean_up",
    title="Will it clean up?",
    validity="Round stock turned about the spindle's axis; the size measured at its smallest (a bore at its largest).",
    source="geometry; what gives: common practice, no source",
    example={"stock": "1.388 in", "wanted": "1.375 in", "runout": "0.006 in", "scale": "0.003 in"},
)
def clean_up(given: CleanUpInput) -> CleanUpResult:
    """Whether the stock gives its size all round, and what can give if not. Raises nothing but what its fields do.

    Source: geometry: work off centre by half its runout is clean at stock − runout − 2·scale; what gives: common
    practice, no source.

    >>> clean_up(CleanUpInput(stock="1.388 in", wanted="1.375 in", runout="0.010 in", scale="0.003 in")).cleans_up
    False
    """
    sign = cut_direction(given.kind)
    # The smallest diameter is measured, so an oval needs only what its smallest leaves.
    lost = given.runout.mm + 2 * given.scale.mm
    clean = given.stock.mm - sign * lost
    spare = sign * (clean - given.wanted.mm)
    unit = given.unit
    within = given.runout.mm + spare
    ok = spare >= 0
    # From the high side, which stands out by half the runout, down to the clean circle: the runout counts twice on
    # diameter.
    from_touch = 2 * given.runout.mm + 2 * given.scale.mm + given.ovality.mm
    return CleanUpResult(
        cleans_up=ok,
        clean_diameter=Length(clean, unit),
        spare=Length(spare, unit),
        true_within=Length(max(within, Decimal(0)), unit),
        first_cut_from_touch=Length(from_touch, unit),
        first_cut_from_size=Length(lost, unit),
        sentence=_sentence(given, ok=ok, clean=clean, spare=spare, from_touch=from_touch),
        gives=[] if ok else _gives(given, within, spare),
        working=[
            Step(
                name="Clean all round at",
                formula=f"stock {'−' if sign > 0 else '+'} runout {'−' if sign > 0 else '+'} 2 × scale",
                values=(
                    f"{both(given.stock.mm, unit)}, runout {both(given.runout.mm, unit)}, scale"
                    f" {both(given.scale.mm, unit)}"
                ),
                result=both(clean, unit),
                source=ARITHMETIC,
            ),
            Step(
                name="To spare",
                formula="against the size wanted",
                values=both(given.wanted.mm, unit),
                result=both(spare, unit),
                source=ARITHMETIC,
            ),
            Step(
                name="First cut, to get under the skin",
                formula=(
                    "from the touch on the high side: 2 × runout + 2 × scale + ovality; from the size as measured:"
                    " runout + 2 × scale"
                ),
                result=f"{both(from_touch, unit)} from the touch, {both(lost, unit)} from the size",
                source="geometry",
            ),
        ],
    )


def _sentence(given: CleanUpInput, *, ok: bool, clean: Decimal, spare: Decimal, from_touch: Decimal) -> str:
    unit = given.unit
    if ok:
        under = (
            f" Get under the skin in one cut: {show(from_touch, unit)} on diameter or more, counted from where the tool"
            " touches the high side."
            if from_touch
            else ""
        )
        return f"It cleans up at {show(clean, unit)}, with {show(spare, unit)} to spare.{under}"
    return f"It is clean only at {show(clean, unit)}: {show(-spare, unit)} short all round."


def _gives(given: CleanUpInput, within: Decimal, spare: Decimal) -> list[str]:
    found = []
    if within > 0:
        found.append(f"True it within {show(within, given.unit)} instead of {given.runout}: then it just cleans up.")
    found.append(f"Let the size give: {show(-spare, given.unit)}, if its mate can be made to suit.")
    found.append("Let the finish give: a low place left where nothing bears.")
    found.append("Take larger stock." if cut_direction(given.kind) == 1 else "Bush the bore, and bore the bush.")
    return found
