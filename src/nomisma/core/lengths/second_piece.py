"""The second piece against the first: which stop moved, or whether the work did."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from statistics import median

from nomisma.core.quantity.display import show_small
from nomisma.core.quantity.length import Unit


@dataclass(frozen=True, slots=True)
class Comparison:
    """How much longer each step of the second piece is, mm (None: not measured on both).

    `shared_mm`: what most of them differ by alike; `moved`: the steps whose stop moved, by index.
    """

    longer_mm: tuple[Decimal | None, ...]
    shared_mm: Decimal
    moved: tuple[int, ...]


def compared(
    first_mm: Sequence[Decimal | None], second_mm: Sequence[Decimal | None], repeats_mm: Decimal
) -> Comparison:
    """What the second piece says of the stops; lengths by step, mm, in the order of the work.

    Where most of three or more steps differ alike (their median) the work sits otherwise against its own stop; a step
    that differs from that by more than a stop repeats (`repeats_mm`) has a stop that moved. Source: common practice, no
    source.

    >>> plain = [Decimal(10), Decimal(20), Decimal(30)]
    >>> compared(plain, [Decimal("10.01"), Decimal("20.01"), Decimal("30.09")], Decimal("0.02")).moved
    (2,)
    """
    longer = [
        None if one is None or other is None else other - one for one, other in zip(first_mm, second_mm, strict=True)
    ]
    known = [one for one in longer if one is not None]
    middle = median(known) if len(known) > 2 else Decimal(0)
    shared = middle if abs(middle) > repeats_mm else Decimal(0)
    moved = tuple(index for index, one in enumerate(longer) if one is not None and abs(one - shared) > repeats_mm)
    return Comparison(tuple(longer), shared, moved)


def said_of(found: Comparison, names: Sequence[str], looks: Sequence[str], unit: Unit) -> list[str]:
    """What a comparison comes to in words: each step by its name, and at what to look where it moved; nothing where
    nothing was measured on both. Source: common practice, no source.

    >>> found = compared([Decimal(10), Decimal(20)], [Decimal(10), Decimal("20.1")], Decimal("0.02"))
    >>> said_of(found, ["B", "D"], ["stop 1 is tight", "stop 2 is tight"], "mm")
    ['D: 100.0 µm longer than on the first piece. Look whether stop 2 is tight.']
    """
    if all(one is None for one in found.longer_mm):
        return []
    notes = []
    if found.shared_mm:
        notes.append(
            f"Most steps of the second piece are {_longer(found.shared_mm, unit)}: the work sits otherwise against its"
            " own stop, or its face does. Clean that before any stop is moved."
        )
    for index in found.moved:
        by = _longer(found.longer_mm[index] or Decimal(0), unit)
        notes.append(f"{names[index]}: {by} than on the first piece. Look whether {looks[index]}.")
    return notes or ["The second piece repeats the first: the stops hold."]


def _longer(mm: Decimal, unit: Unit) -> str:
    return f"{show_small(abs(mm), unit)} {'longer' if mm > 0 else 'shorter'}"
