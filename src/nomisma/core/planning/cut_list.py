"""A cut list: which pieces are sawn from which bars, so that the least length of stock is cut into."""

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from decimal import Decimal
from itertools import combinations

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, OutOfRange, UnreadableLength
from nomisma.core.model import Model
from nomisma.core.number import whole_from
from nomisma.core.planning.drawing_against_metal import SAW_CAUTION
from nomisma.core.quantity.display import both, show_exact, show_sawn
from nomisma.core.quantity.fields import Difference, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import parse_length
from nomisma.core.working import ARITHMETIC, Step
from nomisma.core.worksheet_answer import AnswerTable, Fact, WorksheetAnswer

MOST_PIECES, MOST_BARS = 200, 40
PROVED_BARS, TRIES = 12, 60_000
"""Up to so many bars every set of them is tried, with so many tries in all; beyond, the list is good and not proved.
This tool's own choice.
"""
HOW = "Write a length a line, with how many before it: 6 x 61.2."
_LINE = re.compile(r"(?:(?P<count>[0-9]{1,4})\s*[x×*]\s*)?(?P<size>.+)", re.IGNORECASE)
EXACT = "every set of bars is tried, the least length first"


class CutListInput(Model):
    """Pieces and bars, a line each, with how many; the saw's width (0: sheared); what is trimmed off the first end of a
    bar.
    """

    pieces: str = Field(max_length=2000, examples=["6 x 61.2\n4 x 30"])
    bars: str = Field(max_length=2000, examples=["2 x 300\n640"])
    saw: Difference = Length.of("2", "mm")
    trim: Difference = Length(Decimal(0))
    unit: Unit = "mm"


class BarCut(Model):
    """One bar: how long it is, the pieces from it, and what is left."""

    bar: Size
    pieces: list[Size]
    left: Difference


class CutListResult(WorksheetAnswer):
    """The bars that are cut into; whether less stock is proved impossible; the pieces that find no place, and whether
    more of them is.

    `proved_most`: of pieces that do not all go, that not one more finds a place.
    """

    bars: list[BarCut]
    proved_least: bool
    proved_most: bool = False
    without_place: list[Size] = Field(default=[])


@dataclass
class _Search:
    """What is packed into what: each piece needs its length and the saw's width, each bar gives its length, trimmed,
    and one saw's width.
    """

    saw: Decimal
    trim: Decimal
    left: int = TRIES
    seen: set[tuple[Decimal, ...]] = field(default_factory=set)

    def room(self, bar: Decimal) -> Decimal:
        return bar - self.trim + self.saw

    def packed(self, pieces: Sequence[Decimal], bars: Sequence[Decimal]) -> list[list[Decimal]] | None:
        """The pieces (longest first) in these bars, or None where they do not go or the tries are used up."""
        into: list[list[Decimal]] = [[] for _ in bars]
        self.seen = set()
        return into if self._put(list(pieces), [self.room(bar) for bar in bars], into) else None

    def _put(self, pieces: list[Decimal], rooms: list[Decimal], into: list[list[Decimal]]) -> bool:
        if not pieces:
            return True
        state = (Decimal(len(pieces)), *sorted(rooms))
        if state in self.seen or self.left <= 0:
            return False
        self.left -= 1
        piece, tried = pieces[0], set[Decimal]()
        for index in sorted(range(len(rooms)), key=lambda n: rooms[n]):
            need = piece + self.saw
            if rooms[index] < need or rooms[index] in tried:
                continue
            tried.add(rooms[index])
            rooms[index] -= need
            into[index].append(piece)
            if self._put(pieces[1:], rooms, into):
                return True
            rooms[index] += need
            into[index].pop()
        self.seen.add(state)
        return False


@calculation(
    name="cut_list",
    title="A cut list over several bars",
    validity=(
        f"To {MOST_PIECES} pieces and {MOST_BARS} bars of one section; proved for up to {PROVED_BARS} bars where the"
        " search ends."
    ),
    source=EXACT,
    example={"pieces": "6 x 61.2 mm\n4 x 30 mm", "bars": "2 x 300 mm\n640 mm", "saw": "2 mm"},
)
def cut_list(given: CutListInput) -> CutListResult:
    """Which pieces from which bars. Raises UnreadableLength for a line that is no length, OutOfRange for too many or a
    piece no bar holds.

    Source: every set of bars is tried, the least length first, each by a search that keeps what it has seen; beyond
    that best fit, longest first.

    >>> found = cut_list(CutListInput(pieces="3 x 60; 2 x 40", bars="200; 150; 130", saw="2 mm"))
    >>> [str(one.bar) for one in found.bars], found.proved_least
    (['130 mm', '150 mm'], True)
    """
    pieces = sorted(_lengths(given.pieces, "pieces", MOST_PIECES, given.unit), reverse=True)
    bars = sorted(_lengths(given.bars, "bars", MOST_BARS, given.unit))
    for name, length in (("trim", given.trim), ("saw", given.saw)):
        if length.mm < 0:
            raise OutOfRange("That is less than nothing.", "Give 0, or leave it empty.", field=name)
    search = _Search(given.saw.mm, given.trim.mm)
    if search.room(bars[-1]) < pieces[0] + given.saw.mm:
        longest = show_exact(pieces[0], given.unit)
        raise OutOfRange(
            f"No bar is as long as {longest} with its trim.", "Another bar, or check the length.", field="bars"
        )
    chosen, proved = _least(pieces, bars, search)
    rest: list[Decimal] = []
    if chosen is None:
        impossible = proved  # every set of bars was tried to its end
        chosen, rest = _best_fit(pieces, bars, search)
        chosen, rest, proved = _most(pieces, bars, (chosen, rest), search, impossible=impossible)
    return _answer(given, chosen, rest, proved=proved)


def _lengths(text: str, field: str, most: int, unit: Unit) -> list[Decimal]:
    found: list[Decimal] = []
    for line in (part.strip() for part in re.split(r"[\n;]", text) if part.strip()):
        match = _LINE.fullmatch(line)
        try:
            size = parse_length(match["size"], unit).mm if match else None
        except InputError as error:
            raise error.at(field) from None
        if match is None or size is None:
            raise UnreadableLength(f"“{line[:40]}” is no length.", HOW, field=field, value=line[:80])
        count = whole_from(match["count"] or "1", least=1, most=most, field=field)
        found += [size] * count
        if len(found) > most:
            raise OutOfRange(f"That is more than {most}.", "Cut it in several lists.", field=field)
    if not found:
        raise InputError("Nothing was entered.", HOW, field=field)
    return found


Chosen = list[tuple[Decimal, list[Decimal]]]


def _least(pieces: Sequence[Decimal], bars: Sequence[Decimal], search: _Search) -> tuple[Chosen | None, bool]:
    """The set of bars with the least length that holds all pieces, and whether none with less does; None where none was
    found.
    """
    if len(bars) > PROVED_BARS:
        return None, False
    need = sum(pieces, Decimal(0)) + len(pieces) * search.saw
    proved = True
    for some in sorted(_sets(bars), key=lambda some: (sum(some), len(some))):
        if sum((search.room(bar) for bar in some), Decimal(0)) < need:
            continue
        into = search.packed(pieces, some)
        if into is not None:
            return [(bar, cut) for bar, cut in zip(some, into, strict=True) if cut], proved
        if search.left <= 0:
            return None, False
    return None, proved


def _sets(bars: Sequence[Decimal]) -> Iterator[tuple[Decimal, ...]]:
    """Every different set of bars."""
    yield from {some for count in range(1, len(bars) + 1) for some in combinations(bars, count)}


def _best_fit(pieces: Sequence[Decimal], bars: Sequence[Decimal], search: _Search) -> tuple[Chosen, list[Decimal]]:
    """Each piece, longest first, into the bar begun that it fills best, else into the shortest new one; what finds no
    place is left.
    """
    rooms: list[tuple[Decimal, Decimal, list[Decimal]]] = []
    waiting, rest = list(bars), list[Decimal]()
    for piece in pieces:
        need = piece + search.saw
        fits = [n for n, (_, room, _) in enumerate(rooms) if room >= need]
        if fits:
            index = min(fits, key=lambda n: rooms[n][1])
            bar, room, cut = rooms[index]
            rooms[index] = (bar, room - need, [*cut, piece])
            continue
        fresh = next((bar for bar in waiting if search.room(bar) >= need), None)
        if fresh is None:
            rest.append(piece)
            continue
        waiting.remove(fresh)
        rooms.append((fresh, search.room(fresh) - need, [piece]))
    return [(bar, cut) for bar, _, cut in rooms], rest


def _most(
    pieces: Sequence[Decimal],
    bars: Sequence[Decimal],
    found: tuple[Chosen, list[Decimal]],
    search: _Search,
    *,
    impossible: bool,
) -> tuple[Chosen, list[Decimal], bool]:
    """As many of the pieces as go, and whether one more is proved impossible; `impossible`: that not all go is proved.

    Of so many pieces the shortest always go if any so many do, so only they are tried.
    """
    chosen, rest = found
    if not rest:
        return chosen, rest, False
    best, proved = len(pieces) - len(rest), impossible
    for left_out in range(1, len(rest) + 1):
        if len(pieces) - left_out == best and proved:
            break
        search.left = TRIES
        into = search.packed(pieces[left_out:], bars) if len(bars) <= PROVED_BARS else None
        if into is not None:
            chosen = [(bar, cut) for bar, cut in zip(bars, into, strict=True) if cut]
            return chosen, list(pieces[:left_out]), proved
        proved = proved and search.left > 0 and len(bars) <= PROVED_BARS
    return chosen, rest, proved


def _answer(given: CutListInput, chosen: Chosen, rest: list[Decimal], *, proved: bool) -> CutListResult:
    unit, saw = given.unit, given.saw.mm
    cuts = [
        BarCut(
            bar=Length(bar, unit),
            pieces=[Length(one, unit) for one in cut],
            left=Length(max(bar - given.trim.mm - sum(cut) - saw * len(cut), Decimal(0)), unit),
        )
        for bar, cut in chosen
    ]
    used = sum((one.bar.mm for one in cuts), Decimal(0))
    made = sum((one.mm for cut in cuts for one in cut.pieces), Decimal(0))
    said = "proved the least length of stock" if proved else "a good list; that no shorter stock does is not proved"
    if rest:
        said = (
            f"{len(rest)} of the pieces find no place,"
            f" {'and it is proved that not one more goes' if proved else 'the best that was found'}"
        )
    count = sum(len(cut) for _, cut in chosen)
    cuts_said = f"{count} cuts of {both(saw, unit)}" if saw else "sheared: no width"
    how = "longest first, into the bar it fills best"
    if proved:
        how = "as many of the shortest as go, every packing tried" if rest else EXACT
    return CutListResult(
        bars=cuts,
        proved_least=proved and not rest,
        proved_most=proved and bool(rest),
        without_place=[Length(one, unit) for one in rest],
        headline=f"{len(cuts)} bar{'s' if len(cuts) != 1 else ''}",
        sentence=f"{show_sawn(used, unit)} of stock: {said}.",
        facts=[
            Fact(name="Stock cut into", length=Length(used, unit), sawn=True),
            Fact(name="Of it pieces", words=f"{made / used * 100:.0f} %"),
            Fact(name="Longest left", length=max((one.left for one in cuts), key=lambda one: one.mm), sawn=True),
        ],
        table=AnswerTable(head=["Bar", "Pieces", "Left"], rows=[_row(one) for one in cuts], ticked=True),
        notes=[f"No place for {', '.join(show_sawn(one, unit) for one in rest)}."] if rest else [],
        cautions=[SAW_CAUTION] if saw else [],
        working=[
            Step(
                name="Needed",
                formula="pieces + a saw's width each",
                values=cuts_said,
                result=both(made + saw * count, unit),
                source=ARITHMETIC,
            ),
            Step(name="Search", formula=how, result=said, source="this tool's own"),
        ],
    )


def _row(one: BarCut) -> list[Fact]:
    counted: dict[str, int] = {}
    for piece in one.pieces:
        text = show_sawn(piece.mm, piece.unit)
        counted[text] = counted.get(text, 0) + 1
    return [
        Fact(length=one.bar, sawn=True),
        Fact(words=", ".join(f"{count} × {text}" for text, count in counted.items())),
        Fact(length=one.left, sawn=True),
    ]
