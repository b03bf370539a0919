"""Which drill before a reamer or a boring bar: what is left to take, that a drill cuts over its size, and when to ream
or to bore.
"""

from decimal import Decimal
from typing import Literal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import OutOfRange
from nomisma.core.model import Model
from nomisma.core.quantity.display import show, show_small
from nomisma.core.quantity.drill_list import DrillRow, drills_at_hand, usual_system
from nomisma.core.quantity.drills import DrillSystem, drill_table
from nomisma.core.quantity.fields import Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import ARITHMETIC, COMMON_PRACTICE, Step

Method = Literal["ream", "bore"]
OVERSIZE = (Length.of("0.002", "in"), Length.of("0.005", "in"))
"""What a drill cuts over its own size, least and most. Source: common practice, no source."""
REAM_LEAVE = Length.of(Decimal(1) / 64, "in")
"""What is left for a reamer from half an inch up. Source: common practice, no source; less below, by this tool's own
line.
"""
BORE_LEAVE = Length.of(Decimal(1) / 32, "in")
"""What a boring bar is left at least, to find its own centre. Source: this tool's own choice."""
STEPPED_FROM = Length.of("0.5", "in")
"""From what size a pilot drill goes first. Source: common practice, no source."""
PILOT_SHARE = Decimal("0.25")
TWICE_STEPPED_FROM = Length.of("1", "in")
"""From what size another drill goes between pilot and last. Source: this tool's own choice."""
BETWEEN_SHARE = Decimal("0.6")


class HoleInput(Model):
    """A hole by its finished diameter, and how it is finished. `measured_drill`: the drill as measured, which is done
    first; `drills`: which are in the drawer, those of the unit where nothing is said; `at_hand`: those of a list."""

    finished: Size
    method: Method = "ream"
    measured_drill: Size | None = None
    depth: Size | None = None
    drills: DrillSystem | None = None
    at_hand: str = Field(default="", max_length=2000)
    unit: Unit = "in"

    @property
    def drill_system(self) -> DrillSystem:
        """The drills to choose from: as said, else those of the unit."""
        return self.drills or usual_system(self.unit)

    @property
    def rows(self) -> tuple[DrillRow, ...]:
        """The drills to choose from with their sizes, mm."""
        return drills_at_hand(self.at_hand, self.unit) if self.at_hand else drill_table(self.drill_system)


class Drill(Model):
    """A drill of the tables: its name, its size, and what it leaves on diameter at its least and most oversize."""

    name: str
    size: Size
    leaves_least: Size | None = None
    leaves_most: Size | None = None


class HoleResult(Model):
    """The drill to take, the next smaller and larger, a pilot, and what stands in the way of the one at hand."""

    drill: Drill
    smaller: list[Drill]
    leave: Size
    pilot: Drill | None = None
    stepped: list[Drill]
    measured_ok: bool | None = None
    sentence: str
    steps: list[str]
    advice: list[str]
    cautions: list[str]
    working: list[Step]


@calculation(
    name="hole",
    title="Which drill first?",
    validity="Twist drills from 0.3 mm to 2 in (50 mm) in ordinary metals; drills measured before they are used.",
    source="ASME B94.11M for number and letter sizes, recalled; allowances and oversize: common practice, no source",
    example={"finished": "0.625 in", "method": "ream"},
)
def hole(given: HoleInput) -> HoleResult:
    """The largest drill that still leaves enough, whatever it cuts over. Raises OutOfRange.

    Source: common practice, no source: 1/64 in for the reamer from half an inch up, less below; a drill cuts 0.002 to
    0.005 in over.

    >>> hole(HoleInput(finished="0.625 in")).drill.name
    '39/64 in'
    >>> hole(HoleInput(finished="0.126 in")).drill.size.value("in") < 0.117
    True
    """
    finished, unit = given.finished.mm, given.unit
    leave = _leave(given)
    wanted = finished - leave
    # The trade's allowance is from the drill's own size; a bar must have metal left even at the most oversize.
    table = [(name, size) for name, size in given.rows if size <= wanted + Decimal("0.0001")]
    if not table or finished > 60:
        raise OutOfRange(
            f"No twist drill goes before a hole of {given.finished}.", "Bore it from a smaller one.", field="finished"
        )
    name, size = table[-1]
    chosen = _drill(name, size, finished, unit)
    pilot = _share_of(size, PILOT_SHARE, given) if size >= STEPPED_FROM.mm else None
    between = [_share_of(size, BETWEEN_SHARE, given)] if size >= TWICE_STEPPED_FROM.mm else []
    ok = given.measured_drill.mm + OVERSIZE[1].mm < finished if given.measured_drill else None
    return HoleResult(
        drill=chosen,
        smaller=[_drill(n, s, finished, unit) for n, s in reversed(table[-4:-1])],
        leave=Length(leave, unit),
        pilot=pilot,
        stepped=[*([pilot] if pilot else []), *between],
        measured_ok=ok,
        sentence=_sentence(given, chosen, ok),
        steps=_steps(given, chosen, [*([pilot] if pilot else []), *between]),
        advice=_when(given),
        cautions=[
            "Clear the chips; never a finger in the hole while it turns. Hold the drill against turning in the"
            " tailstock. The machine’s manual comes first."
        ],
        working=[
            Step(
                name="To leave",
                formula=(
                    "1/64 in from 1/2 in up, less below"
                    if given.method == "ream"
                    else "at least 1/32 in, to find its own centre"
                ),
                result=show(leave, unit),
                source=COMMON_PRACTICE if given.method == "ream" else "this tool's own choice",
            ),
            Step(
                name="Drill",
                formula="the largest not above finished − that",
                values=show(wanted, unit),
                result=f"{name}, {show(size, unit)}",
                source=ARITHMETIC,
            ),
            Step(
                name="It cuts over",
                formula="0.002 to 0.005 in over its own size; measure the drill first",
                result=f"{show(size + OVERSIZE[0].mm, unit)} to {show(size + OVERSIZE[1].mm, unit)}",
                source=COMMON_PRACTICE,
            ),
        ],
    )


def _leave(given: HoleInput) -> Decimal:
    """What is left on diameter, mm."""
    if given.method == "bore":
        return BORE_LEAVE.mm
    inch = given.finished.value("in")
    share = min(max(Decimal("0.64") + Decimal("0.963") * (inch - Decimal("0.126")), Decimal("0.4")), Decimal(1))
    return REAM_LEAVE.mm * share


def _drill(name: str, size: Decimal, finished: Decimal, unit: Unit) -> Drill:
    least, most = finished - size - OVERSIZE[1].mm, finished - size - OVERSIZE[0].mm
    return Drill(
        name=name,
        size=Length(size, unit),
        leaves_least=Length(least, unit) if least > 0 else None,
        leaves_most=Length(most, unit) if most > 0 else None,
    )


def _share_of(size: Decimal, share: Decimal, given: HoleInput) -> Drill:
    """The drill nearest to a share of the big one: a pilot a little over its web, or one between. Source: common
    practice, no source.
    """
    name, found = min(given.rows, key=lambda item: abs(item[1] - size * share))
    return Drill(name=name, size=Length(found, given.unit))


def _sentence(given: HoleInput, drill: Drill, ok: bool | None) -> str:
    unit = given.unit
    if ok is False:
        return (
            f"That drill measures {given.measured_drill}: cutting over as drills do, it leaves nothing. Take a smaller"
            " one."
        )
    left = drill.leaves_least
    over = (
        f", {show_small(left.mm, unit)} at the least if it cuts over"
        if left
        else "; measure it: cutting over as drills do, it may leave nothing"
    )
    return f"{drill.name} ({show(drill.size.mm, unit)}) before {given.finished}{over}."


def _steps(given: HoleInput, drill: Drill, before: list[Drill]) -> list[str]:
    ream = given.method == "ream"
    first = f"Pilot {', then '.join(one.name for one in [*before, drill])}." if before else f"Drill {drill.name}."
    return [
        "Spot the centre: a spotting drill, or a short centre drill (two schools).",
        "Measure the drill itself before it goes in.",
        first + " Clear the chips; let it cool.",
        "Measure the hole: a drill cuts 0.002 to 0.005 in over.",
        (
            "Touch the reamer to the hole so that it centres before power; run slow, a third to a half of the drill's"
            " speed, oil, never backwards."
            if ream
            else (
                "Bore: bar clear all round, overhang short; check that the tip reaches the end before the feed goes in."
            )
        ),
        "Measure mouth and deep, or try pins: the largest that enters, the smallest that does not.",
        f"Mouth against deep: {'a reamer out of line leaves a bell mouth' if ream else 'a bar that springs tapers'}.",
    ]


def _when(given: HoleInput) -> list[str]:
    deep = given.depth is not None and given.depth.mm > 4 * given.finished.mm
    found = [
        "Ream where the size is the reamer's and only the size matters; bore where the hole must run true or its size"
        " is its own: a reamer follows the hole it finds."
    ]
    if given.method == "bore":
        found.append(
            "A shoulder inside: stop each pass a little short, and face it from the hole outwards in one sweep on the"
            " last."
        )
    if deep:
        found.append(
            "More than four diameters deep: a bar would spring; drill true, bore a start as far as it reaches, then"
            " ream."
        )
    return found
