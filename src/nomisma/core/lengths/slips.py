"""A pile of slips: the fewest pieces for a height, wear pieces outside, a second pile of the rest, and what the pile is
worth.
"""

from collections.abc import Sequence
from decimal import Decimal

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.lengths.slip_search import MOST_IN_A_PILE, Pile, fewest, nearest
from nomisma.core.lengths.slip_shelf import GRADE_WORDS, SetName, SlipGrade, SlipShelf, limit_deviation_um, shelf_of
from nomisma.core.measuring.combination import combined, rectangular
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show_exact, show_small
from nomisma.core.quantity.fields import Difference, Number, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import ARITHMETIC, COMMON_PRACTICE, Step

FILM_UM = Decimal("0.025")
"""How far (µm, either way) one wrung joint may add to a pile. Source: common practice, no source."""
ISO_3650 = "ISO 3650:1998, Table 2 (recalled)"
HANDLING = (
    (
        "Wipe each piece and slide it on crosswise until it holds; the large ones first, the wear pieces last, outside,"
        " marked faces out."
    ),
    "Let the pile come to the room's temperature before it is used; take it apart the same day.",
)


class SlipsInput(Model):
    """A height and the slips on the shelf. `set`: the set there is; `missing` from it, one's `own` pieces, `wear`
    pieces, as typed.

    `wear_pieces`: how many wear pieces go outside. `short`: a pile by so much higher, against which a carriage stops
    short of its mark.
    """

    target: Size
    set: SetName = "m88"
    missing: str = ""
    own: str = ""
    wear: str = ""
    wear_pieces: int = 0
    short: Size | None = None
    grade: SlipGrade = "1"
    unit: Unit = "mm"


class SlipPile(Model):
    """One pile: its pieces from the outside in, what they make, and how far that is from what was wanted (above it:
    over zero).
    """

    title: str
    pieces: list[Size]
    wear_pieces: int = 0
    height: Size
    off: Difference


class SlipsResult(Model):
    """The pile, where there is one a second of the rest and one that stops short; `uncertainty_um`: of the first pile,
    k = 2.
    """

    pile: SlipPile
    second: SlipPile | None = None
    stop_short: SlipPile | None = None
    uncertainty_um: Number
    headline: str
    sentence: str
    notes: list[str]
    steps: list[str]
    working: list[Step]


@calculation(
    name="slips",
    title="A pile of slips",
    validity=f"Heights up to 1000 mm from at most {MOST_IN_A_PILE} pieces of a set of slips; at 20 °C.",
    source=f"all sums of the pieces (exact); {ISO_3650}; {COMMON_PRACTICE} (wear pieces outside, wringing)",
    example={"target": "1.3725 in", "set": "in81", "unit": "in"},
)
def slips(given: SlipsInput) -> SlipsResult:
    """The pile of the fewest pieces, exact or nearest. Raises InputError where nothing can be piled so low, OutOfRange,
    NotDefined.

    Source: all sums of the pieces (exact); ISO 3650:1998, Table 2 (recalled); common practice.

    >>> found = slips(SlipsInput(target="1.3725 in", set="in81", unit="in"))
    >>> [str(one) for one in found.pile.pieces], found.pile.off.mm == 0
    (['1 in', '0.15 in', '0.122 in', '0.1005 in'], True)
    """
    if given.target.mm > 1000:
        raise OutOfRange("That is higher than slips are piled.", "Up to 1000 mm, 40 in.", field="target")
    shelf = shelf_of(given.set, missing=given.missing, own=given.own, wear=given.wear, unit=given.unit)
    wear = _wear(shelf, given.wear_pieces)
    first = _best(shelf, given.target.mm, wear)
    if first is None:
        raise _too_thin(shelf, given.target, wear)
    pile = _pile("The pile", first, wear, given, shelf.unit)
    rest = shelf.without(first.pieces_mm)
    second = fewest(rest.pieces_mm, given.target.mm)
    short, from_rest = _short(shelf, rest, given, wear)
    worth = uncertainty_um([*first.pieces_mm, *wear], given.grade)
    return SlipsResult(
        pile=pile,
        second=_pile("A second of the rest", second, (), given, shelf.unit) if second else None,
        stop_short=(
            _pile("To stop short", short, () if from_rest else wear, given, shelf.unit, given.short) if short else None
        ),
        uncertainty_um=worth,
        headline=" + ".join(_marked(size, shelf.unit) for size in pile.pieces),
        sentence=_sentence(pile, worth, given.unit),
        notes=_notes(pile, given, second=second, short=short, from_rest=from_rest),
        steps=list(HANDLING),
        working=_working(pile, shelf, worth, given),
    )


def uncertainty_um(pieces_mm: Sequence[Decimal], grade: SlipGrade) -> Decimal:
    """What a pile is worth (µm, k = 2): each piece anywhere in its limit deviation, each joint in the film's. Raises
    OutOfRange.

    Source: ISO 3650:1998, Table 2 (recalled); JCGM 100:2008, 4.3.7 (rectangular) and 5.1.2 (root of the sum of
    squares).

    >>> uncertainty_um([Decimal(25), Decimal("1.02")], "1")
    Decimal('0.42')
    """
    parts = [limit_deviation_um(size, grade) for size in pieces_mm] + [FILM_UM] * (len(pieces_mm) - 1)
    return (2 * combined([rectangular(part) for part in parts]).standard).quantize(Decimal("0.01"))


def _wear(shelf: SlipShelf, count: int) -> tuple[Decimal, ...]:
    if not 0 <= count <= 2:
        raise OutOfRange(f"{count} wear pieces are not put outside a pile.", "None, one or two.", field="wear_pieces")
    if count > len(shelf.wear_mm):
        have = {0: "are no wear pieces", 1: "is one wear piece"}.get(
            len(shelf.wear_mm), f"are {len(shelf.wear_mm)} wear pieces"
        )
        raise InputError(f"There {have} on the shelf.", "Enter them, like 2 2, or pile without.", field="wear_pieces")
    return shelf.wear_mm[:count]


def _best(shelf: SlipShelf, target_mm: Decimal, wear: Sequence[Decimal]) -> Pile | None:
    """Exact where it can be, else nearest; between the wear pieces only what is left of the height."""
    inside = target_mm - sum(wear, Decimal(0))
    if inside == 0:
        return Pile(())
    if not shelf.pieces_mm or inside < shelf.pieces_mm[0]:
        return None
    return fewest(shelf.pieces_mm, inside) or nearest(shelf.pieces_mm, inside)


def _too_thin(shelf: SlipShelf, target: Length, wear: Sequence[Decimal]) -> InputError:
    if not shelf.pieces_mm:
        return InputError("There are no slips on the shelf.", "Choose a set, or enter your own pieces.", field="set")
    thinnest = _marked(Length(shelf.pieces_mm[0], shelf.unit), shelf.unit)
    if wear and target.mm >= shelf.pieces_mm[0]:
        return OutOfRange(
            f"Between the wear pieces nothing is left for a pile: the thinnest slip is {thinnest}.",
            "Leave the wear pieces off.",
            field="wear_pieces",
        )
    pair = against(shelf, target.mm)
    remedy = f"Use a feeler or a shim of known thickness{_pair_words(pair, shelf.unit)}."
    return OutOfRange(f"{target} is too thin to pile: the thinnest slip is {thinnest}.", remedy, field="target")


def _pair_words(pair: tuple[Pile, Pile] | None, unit: Unit) -> str:
    if pair is None:
        return ""
    high, low = (" + ".join(_marked(Length(size, unit), unit) for size in one.pieces_mm) for one in pair)
    return f", or work by a difference: {high} on the one side against {low} on the other"


def against(shelf: SlipShelf, target_mm: Decimal) -> tuple[Pile, Pile] | None:
    """Two piles that differ by a height (mm) too thin to be piled, of the fewest pieces; None where there are none.

    Source: arithmetic.

    >>> high, low = against(shelf_of("in81"), Decimal("0.0254"))
    >>> high.height_mm - low.height_mm
    Decimal('0.0254')
    """
    best: tuple[Pile, Pile] | None = None
    for size in dict.fromkeys(shelf.pieces_mm):
        rest = shelf.without([size])
        found = fewest(rest.pieces_mm, size + target_mm, most=3)
        if found and (best is None or len(found.pieces_mm) < len(best[0].pieces_mm)):
            best = (found, Pile((size,)))
        if best and len(best[0].pieces_mm) == 1:
            break
    return best


def _short(shelf: SlipShelf, rest: SlipShelf, given: SlipsInput, wear: Sequence[Decimal]) -> tuple[Pile | None, bool]:
    """The pile that stops short: of the rest where that gives one, else of the whole shelf again."""
    if given.short is None:
        return None, False
    height = given.target.mm + given.short.mm
    if found := fewest(rest.pieces_mm, height):
        return found, True
    return fewest(shelf.pieces_mm, height - sum(wear, Decimal(0))) or nearest(shelf.pieces_mm, height), False


def _pile(
    title: str, pile: Pile, wear: Sequence[Decimal], given: SlipsInput, unit: Unit, short: Length | None = None
) -> SlipPile:
    inner = [Length(size, unit) for size in pile.pieces_mm]
    outer = [Length(size, unit) for size in wear]
    height = pile.height_mm + sum(wear, Decimal(0))
    wanted = given.target.mm + (short.mm if short else Decimal(0))
    return SlipPile(
        title=title,
        pieces=[*outer[:1], *inner, *outer[1:]],
        wear_pieces=len(wear),
        height=Length(height, unit),
        off=Length(height - wanted, unit),
    )


def _marked(size: Length, unit: Unit) -> str:
    """A piece as it is marked: 1.0005, .1001."""
    return f"{size.value(unit).normalize():f}"


def _sentence(pile: SlipPile, worth: Decimal, unit: Unit) -> str:
    count = len(pile.pieces)
    what = f"{count} piece{'s' if count > 1 else ''} make {show_exact(pile.height.mm, pile.height.unit)}"
    if pile.off.mm:
        way = "over" if pile.off.mm > 0 else "under"
        what += f", {show_small(abs(pile.off.mm), unit)} {way} what was wanted: no pile of this shelf is nearer"
    return f"{what}. The pile is worth ±{show_small(worth / 1000, unit)}."


def _notes(pile: SlipPile, given: SlipsInput, *, second: Pile | None, short: Pile | None, from_rest: bool) -> list[str]:
    found = []
    if not pile.off.mm and second is None:
        found.append("The rest of the shelf makes no second pile of this height.")
    if given.short and short is None:
        found.append("No pile of this shelf stops short by that.")
    elif given.short and not from_rest:
        found.append(
            "The pile to stop short needs pieces of the first: rough against it, then take it apart for the other."
        )
    if pile.off.mm and given.target.unit != pile.height.unit:
        found.append("A height in one unit is seldom whole in slips of the other.")
    return found


def _working(pile: SlipPile, shelf: SlipShelf, worth: Decimal, given: SlipsInput) -> list[Step]:
    unit = shelf.unit
    deviations = [f"{limit_deviation_um(size.mm, given.grade)}" for size in pile.pieces]
    return [
        Step(
            name="Fewest pieces",
            formula="of all piles of 1, 2, 3 … pieces the first that is the height",
            values=f"{len(shelf.pieces_mm)} pieces on the shelf"
            + (f", {pile.wear_pieces} wear pieces outside" if pile.wear_pieces else ""),
            result=(
                f"{' + '.join(_marked(size, unit) for size in pile.pieces)} = {both(pile.height.mm, unit, decimals=5)}"
            ),
            source=ARITHMETIC,
        ),
        Step(
            name="What the pile is worth",
            formula="2·√(Σ (limit deviation)²/3 + joints·film²/3)",
            values=(
                f"{GRADE_WORDS[given.grade]}: ±{', '.join(deviations)} µm; {len(pile.pieces) - 1} joints of"
                f" ±{FILM_UM} µm"
            ),
            result=f"±{worth} µm",
            source=f"{ISO_3650}; film: {COMMON_PRACTICE}",
        ),
    ]
