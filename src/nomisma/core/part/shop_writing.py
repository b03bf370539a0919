"""What a line of a sketch means in lines of one feature each: at both ends, true to another within so much, true to a
letter.
"""

import re

from nomisma.core.errors import UnreadableLength
from nomisma.core.number import number_from
from nomisma.core.part.feature_kinds import by_first_word
from nomisma.core.part.kind import FeatureKind
from nomisma.core.part.shop_words import one_after_another
from nomisma.core.quantity.writing import NUMBER

OWN = "{own}"
"""In a line that is meant beside another: the letter of that one's feature."""
_BOTH_ENDS = re.compile(r"(?P<rest>.+?)(?:\s*,)?\s+(?:(?:on|at)\s+)?both\s+ends", re.IGNORECASE)
_WITHIN = re.compile(
    r"(?P<rest>.+?)(?:\s*,)?\s+true\s+to\s+(?P<letter>[A-Z]{1,2})\s+within\s+(?P<size>.+)", re.IGNORECASE
)
_TO = re.compile(
    r"(?P<rest>.+?)(?:\s*,)?(?P<true>\s+true)?\s+(?:to|with)\s+(?:the\s+)?(?P<letter>[A-Z]{1,2})", re.IGNORECASE
)
_IN_A_ROW = re.compile(
    r"(?:(?P<count>[2-9]|[1-3][0-9])\s+)?(?P<what>groove|undercut)s?\s+(?P<rest>.+?)\s+at\s+(?P<places>[0-9.].*?)(?P<face>\s+from\s+.+)?",
    re.IGNORECASE,
)
_PITCH = re.compile(rf"(?P<first>{NUMBER})\s+pitch\s+(?P<pitch>{NUMBER})", re.IGNORECASE)
_PLACES = re.compile(r"(?:\s*,\s*|\s+and\s+|\s+)")
_PLAIN = re.compile(r"[0-9]*\.?[0-9]+")
_FACE_RECESS = re.compile(r"^face\s+recess\s+", re.IGNORECASE)
_BETWEEN = re.compile(r"\s+(?:between|of)\s+(?:the\s+|both\s+)?faces\s*$", re.IGNORECASE)


def lines_meant(line: str) -> list[str]:
    """The lines of one feature each that a line means, in their order; most mean themselves. Raises UnreadableLength.

    A bore at both ends is two, counted from each face; an edge at both ends is one; grooves in a row are one each.
    `true to A within .01` is a runout beside it. Without unit. Source: common practice, no source.

    >>> lines_meant("bore 52 H8 x 30 deep at both ends")
    ['bore 52 H8 x 30 deep from the left', 'bore 52 H8 x 30 deep from the right']
    >>> lines_meant("od 25 k6 x 28, true to A within .01")
    ['od 25 k6 x 28, true to A', 'runout .01 on {own}, true to A']
    >>> lines_meant("3 grooves .1 wide to 2.6 at .125 pitch .14")[2]
    'groove .1 wide to 2.6 at 0.405'
    >>> lines_meant("parallel .001 to d"), lines_meant("cham .030 x 45 both ends")
    (['parallel .001, true to D'], ['cham .030 x 45'])
    """
    first, *more = one_after_another(line)
    return [*_meant(first), *(meant for one in more for meant in _meant(one))]


def _meant(line: str) -> list[str]:
    plain = _FACE_RECESS.sub("recess ", line)
    if row := _in_a_row(plain):
        return row
    kind = _kind_of(plain)
    if kind is not None and kind.is_geometric:
        return [_true_to(_BETWEEN.sub("", plain))]
    if match := _WITHIN.fullmatch(plain):
        letter = match["letter"].upper()
        return [f"{match['rest']}, true to {letter}", f"runout {match['size']} on {OWN}, true to {letter}"]
    if match := _BOTH_ENDS.fullmatch(plain):
        return _at_both_ends(match["rest"], kind, plain)
    return [plain]


def _in_a_row(line: str) -> list[str]:
    """Grooves or undercuts in a row as a line each: at their places, or at a first one and a pitch; none where it is
    only one.
    """
    match = _IN_A_ROW.fullmatch(line)
    if match is None:
        return []
    count = int(match["count"]) if match["count"] else 0
    by_pitch = _PITCH.fullmatch(match["places"])
    if by_pitch and count:
        first, pitch = number_from(by_pitch["first"]), number_from(by_pitch["pitch"])
        places = [f"{first + pitch * index:f}" for index in range(count)]
    else:
        places = _PLACES.split(match["places"])
        if not all(_PLAIN.fullmatch(one) for one in places) or (len(places) == 1 and not count):
            return []
    if count and len(places) != count:
        raise UnreadableLength(
            f"{count} {match['what'].lower()}s, and {len(places)} places.",
            "Give a place for each, or the first and a pitch: 6 grooves .100 wide to 2.600 at .125 pitch .140.",
            value=line[:80],
        )
    return [f"{match['what'].lower()} {match['rest']} at {place}{match['face'] or ''}" for place in places]


def _kind_of(line: str) -> FeatureKind | None:
    return by_first_word().get(line.split(" ", 1)[0].lower().rstrip(":"))


def _true_to(line: str) -> str:
    match = _TO.fullmatch(line)
    return f"{match['rest']}, true to {match['letter'].upper()}" if match else line


def _at_both_ends(rest: str, kind: FeatureKind | None, line: str) -> list[str]:
    meaning = kind.both_ends if kind is not None else ""
    if not meaning:
        what = f"{kind.a_title.capitalize()} is not" if kind is not None else "That is not"
        raise UnreadableLength(
            f"{what} at both ends at once.", "Write it twice, each with where it lies.", value=line[:80]
        )
    return [rest] if meaning == "one" else [f"{rest} from the {end}" for end in ("left", "right")]
