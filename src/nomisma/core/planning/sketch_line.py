"""One line of a sketch, read aloud: which features it says, and what is written of each. Nothing is worked out here."""

import re
from dataclasses import dataclass
from typing import Literal

from nomisma.core.errors import UnreadableLength
from nomisma.core.part.along import NOT_SAID, AxialPlace, place_in_line
from nomisma.core.part.feature_kinds import KindName, feature_kind
from nomisma.core.quantity.length import Unit

LONGEST_LINE = 160
HOW = (
    "Write it like od 1.375 ±.005 x 3.625, bore .800 +.004/-0 x .125 deep, hole 17/32 thru, boss .800 x .125 high, length 2.125 ±.010, "
    "groove .125 wide to .625 at .937 from the left, cham 1/16 x 45, taper 1:20 over 50, 25 h7; "
    "behind it where it lies: from 12 to 30, at 12 from the right, from the end of A, on A; and what it is there for: only seen, true to A."
)


@dataclass(frozen=True, slots=True)
class SketchedFeature:
    """One feature as a line says it: its kind, the text of its size with limits, and, behind `along`, where it lies."""

    kind: KindName
    size: str
    along: str = ""
    through: bool = False


_FIRST_WORDS: dict[str, KindName | Literal["boss", "groove", "taper"]] = {
    **dict.fromkeys(("od", "o.d.", "dia", "diameter", "outside", "shaft"), "outside_diameter"),
    **dict.fromkeys(("boss", "spigot", "register"), "boss"),
    **dict.fromkeys(("bore", "id", "i.d.", "hole", "inside"), "bore"),
    **dict.fromkeys(("length", "long", "len"), "length"),
    **dict.fromkeys(("depth", "deep"), "depth"),
    **dict.fromkeys(("height", "high"), "height"),
    **dict.fromkeys(("width", "thickness", "thick"), "width"),
    "wall": "wall",
    "position": "position",
    "taper": "taper",
    "groove": "groove",
    **dict.fromkeys(("cham", "chamfer"), "chamfer"),
    **dict.fromkeys(("rad", "radius", "fillet"), "corner_radius"),
    **dict.fromkeys(("runout", "tir"), "runout"),
    **dict.fromkeys(("ra", "finish"), "surface_finish"),
    "trial": "by_trial",
}
"""What a line begins with, in the words of a shop. Source: common practice, no source."""
_BY = re.compile(r"\s+x\s+", re.IGNORECASE)
_ENDS = re.compile(r"\s*\b(?:deep|long|high|wide|thick)\s*$", re.IGNORECASE)
_THROUGH = re.compile(r"\s*\b(?:thru|through)\s*$", re.IGNORECASE)
_GROOVE = re.compile(
    r"(?P<width>.+?)\s+wide(?:\s+to\s+(?P<floor>.+?))?(?:\s+at\s+(?P<at>.+?)(?:\s+(?P<face>from\s+.+))?)?",
    re.IGNORECASE,
)
_AXIS: dict[str, KindName] = {"outside_diameter": "length", "boss": "height", "bore": "depth"}


@dataclass(frozen=True, slots=True)
class PartnerReference:
    """What a feature is said to go with: the bore or the shaft of another job, by its letter where it has several."""

    kind: Literal["bore", "shaft"]
    job: int
    letter: str = ""


_ON_JOB = re.compile(
    r"(?P<line>.+?)\s+(?:on|in)\s+(?:the\s+)?(?P<what>bore|hole|shaft|od)(?:\s+(?P<letter>[A-Z]{1,2}))?\s+of\s+job\s+(?P<job>[0-9]{1,9})",
    re.IGNORECASE,
)


def partner_in_line(line: str) -> tuple[str, PartnerReference | None]:
    """A line without what it says of a partner in another job, and that partner.

    Source: common practice, no source.

    >>> partner_in_line("od 25 g6 on bore of job 104")
    ('od 25 g6', PartnerReference(kind='bore', job=104, letter=''))
    """
    match = _ON_JOB.fullmatch(" ".join(line.split()))
    if match is None:
        return line, None
    kind: Literal["bore", "shaft"] = "bore" if match["what"].lower() in ("bore", "hole") else "shaft"
    return match["line"], PartnerReference(kind, int(match["job"]), (match["letter"] or "").upper())


def begins_a_feature(line: str) -> bool:
    """Whether a line begins with the word of a feature: od, bore, length, cham …

    Source: common practice, no source.

    >>> begins_a_feature("bore .800 +.004/-0"), begins_a_feature("28 ±0.1")
    (True, False)
    """
    return line.split(" ", 1)[0].lower().rstrip(":") in _FIRST_WORDS


def place_of_line(line: str, unit: Unit) -> tuple[str, AxialPlace]:
    """A line without where its feature lies along the axis, and that; a groove's is a feature of its own. Raises UnreadableLength.

    Source: common practice, no source.

    >>> place_of_line("od 30 h9 x 20 at 12", "mm")[1].words
    'at 12 mm from the left'
    """
    is_groove = _FIRST_WORDS.get(line.split(" ", 1)[0].lower().rstrip(":")) == "groove"
    return (line, NOT_SAID) if is_groove else place_in_line(line, unit)


def features_in_line(line: str) -> list[SketchedFeature]:
    """The features one line says, in its order; one that says diameter and depth makes two. Raises UnreadableLength.

    Source: common practice, no source (how a sketch is read aloud).

    >>> [one.kind for one in features_in_line("od 1.375 ±.005 x 3.625")]
    ['outside_diameter', 'length']
    """
    text = " ".join(line.replace("×", " x ").split())
    if len(text) > LONGEST_LINE:
        raise UnreadableLength(
            f"That is {len(text)} characters; a line here is at most {LONGEST_LINE}.", HOW, value=text[:80]
        )
    first, _, rest = text.partition(" ")
    word = _FIRST_WORDS.get(first.lower().rstrip(":"))
    if word is None:
        return [SketchedFeature(_kind_by_code(text), text)]
    if not rest:
        raise UnreadableLength(f"“{text}” names a feature and no size.", HOW, value=text)
    if word == "groove":
        return _groove(rest, text)
    if word == "taper":
        return _taper(rest, text)
    if word in ("chamfer", "by_trial"):
        return [SketchedFeature(word, rest)]
    return _with_second(word, rest, text)


def _with_second(word: KindName | Literal["boss", "groove"], rest: str, line: str) -> list[SketchedFeature]:
    """A diameter and, behind an x, how long, deep or high it is."""
    kind: KindName = "outside_diameter" if word == "boss" or word == "groove" else word
    through = _THROUGH.search(rest) is not None
    parts = _BY.split(_THROUGH.sub("", rest))
    if len(parts) > 2 or (len(parts) == 2 and (through or word not in _AXIS)):
        raise UnreadableLength(f"“{line[:40]}” says more sizes than one {feature_kind(kind).title} has.", HOW, value=line)
    sizes = [_ENDS.sub("", part) for part in parts]
    if not all(sizes):
        raise UnreadableLength(f"“{line[:40]}” names a feature and no size.", HOW, value=line)
    found = [SketchedFeature(kind, sizes[0], through=through)]
    return [*found, SketchedFeature(_AXIS[word], sizes[1])] if len(sizes) == 2 else found


def _groove(rest: str, line: str) -> list[SketchedFeature]:
    match = _GROOVE.fullmatch(rest)
    if match is None:
        raise UnreadableLength(f"“{line[:40]}” is not understood as a groove.", HOW, value=line)
    found = [SketchedFeature("groove_width", match["width"])]
    if match["floor"]:
        found.append(SketchedFeature("groove_floor_diameter", match["floor"]))
    if match["at"]:
        found.append(SketchedFeature("position", match["at"], along=match["face"] or ""))
    return found


_TAPER = re.compile(
    r"(?P<inside>(?:bore|inside|hole)\s+)?(?P<taper>.+?\s+over\s+.+?)(?:\s+from\s+(?P<size>.+))?", re.IGNORECASE
)


def _taper(rest: str, line: str) -> list[SketchedFeature]:
    """A taper over a length and, behind from, the size it begins with: outside, or of a bore where that is said."""
    match = _TAPER.fullmatch(rest)
    if match is None:
        raise UnreadableLength(
            f"“{line[:40]}” is not understood as a taper.",
            "Write it like taper 1:20 over 50 ±0.02 from 25 ±0.05.",
            value=line,
        )
    found = [SketchedFeature("taper", match["taper"])]
    kind: KindName = "bore" if match["inside"] else "outside_diameter"
    return [*found, SketchedFeature(kind, match["size"])] if match["size"] else found


def _kind_by_code(text: str) -> KindName:
    """A bare size with a class says by its letters whether it is a shaft or a bore; without one, nothing is claimed."""
    if re.search(r"[0-9\s][a-z]{1,2}[0-9]{1,2}$", text):
        return "outside_diameter"
    return "bore" if re.search(r"[0-9\s][A-Z]{1,2}[0-9]{1,2}$", text) else "plain_size"
