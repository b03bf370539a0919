"""What a plan leaves to be looked after, in words."""

from nomisma.core.operations.hole_finish import is_reamed_by
from nomisma.core.operations.reamers import no_reamer
from nomisma.core.order.mountings import MOUNTING_WORDS
from nomisma.core.order.order import OrderOfWork
from nomisma.core.quantity.display import show_sawn

AS_PARTED = (
    "It is too thin to be held for its far face, which stays as the blade leaves it, at its length. Where that will not"
    " do: part it thicker, bond it to a true stub turned in its place and face it there, or rub it down on a plate."
)


NOT_ROUGHED_FIRST = (
    "It cannot be roughed all over before anything is finished: something stays as it is or lies off its axis, or"
    " nothing holds its rough shape. Each set-up roughs before it finishes."
)


def notes_of(found: OrderOfWork) -> list[str]:
    """What the plan leaves to be looked after, in words. Source: common practice, no source.

    >>> from nomisma.core.order.offered import LeftOut
    >>> left_out = (LeftOut("C", "no end reaches it"),)
    >>> notes = notes_of(OrderOfWork((), ("A must be true to B and is cut in another chucking",), left_out, 0, True))
    >>> notes[0][52:], notes[1]
    ('dial it in, or hold it by that surface in soft jaws.', 'C: no end reaches it.')
    """
    why_left_out: dict[str, list[str]] = {}
    for one in found.left_out:
        why_left_out.setdefault(one.why, []).append(one.letter)
    sawn = []
    if found.sawn_mm is not None and found.piece is not None:
        long = show_sawn(found.sawn_mm, found.piece.unit)
        sawn.append(f"It is too long to be parted off: saw a blank {long} long first, with both faces to come.")
    piece = found.piece
    unreamed = [
        no_reamer(one.letter, one.diameter_mm, piece.unit)
        for one in (piece.surfaces if piece is not None and found.set_ups else ())
        if one.hole == "reamed"
        and piece is not None
        and not is_reamed_by(piece.by_letter[one.letter], piece.tools.reamers)
    ]
    thin = [AS_PARTED] if found.as_parted else []
    thin += [f"It cannot be held {MOUNTING_WORDS[found.mounted_otherwise]}: nothing so held can be cut."] * (
        found.mounted_otherwise != "any" and bool(found.set_ups)
    )
    thin += [NOT_ROUGHED_FIRST] if found.roughed_not_first and found.set_ups else []
    return [
        *sawn,
        *thin,
        *unreamed,
        *(f"{apart}: dial it in, or hold it by that surface in soft jaws." for apart in found.dial_in),
        *(f"{', '.join(letters)}: {why}." for why, letters in why_left_out.items()),
    ]
