"""One line of a sketch, read aloud: which features it says, and what is written of each. Nothing is worked out here."""

import re
from dataclasses import dataclass
from difflib import get_close_matches
from typing import Literal

from nomisma.core.errors import UnreadableLength
from nomisma.core.part.along import NOT_SAID, AxialPlace, place_in_line
from nomisma.core.part.feature_kinds import FeatureKind, by_first_word, feature_kinds
from nomisma.core.part.written import HOW, LONGEST_LINE, WrittenFeature, WrittenLine
from nomisma.core.quantity.length import Unit

UNSAID_KIND = "plain_size"
"""What a bare size is of which nothing says what it is of."""


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


_PARTNERS: dict[str, Literal["bore", "shaft"]] = {"bore": "bore", "hole": "bore", "shaft": "shaft", "od": "shaft"}


def partner_in_line(line: str) -> tuple[str, PartnerReference | None]:
    """A line without what it says of a partner in another job, and that partner.

    Source: common practice, no source.

    >>> partner_in_line("od 25 g6 on bore of job 104")
    ('od 25 g6', PartnerReference(kind='bore', job=104, letter=''))
    """
    match = _ON_JOB.fullmatch(" ".join(line.split()))
    if match is None:
        return line, None
    return match["line"], PartnerReference(
        _PARTNERS[match["what"].lower()], int(match["job"]), (match["letter"] or "").upper()
    )


def begins_a_feature(line: str) -> bool:
    """Whether a line begins with the word of a feature: od, bore, length, cham …

    Source: common practice, no source.

    >>> begins_a_feature("bore .800 +.004/-0"), begins_a_feature("28 ±0.1")
    (True, False)
    """
    return _first_word(line) in by_first_word()


def _first_word(line: str) -> str:
    return line.split(" ", 1)[0].lower().rstrip(":")


def place_of_line(line: str, unit: Unit) -> tuple[str, AxialPlace]:
    """A line without where its feature lies along the axis, and that; a groove's is a feature of its own. Raises
    UnreadableLength.

    Source: common practice, no source.

    >>> place_of_line("od 30 h9 x 20 at 12", "mm")[1].words
    'at 12 mm from the left'
    """
    kind: FeatureKind | None = by_first_word().get(_first_word(line))
    return (line, NOT_SAID) if kind is not None and kind.reads_its_place else place_in_line(line, unit)


def features_in_line(line: str, unit: Unit = "mm", *, is_on: bool = False) -> list[WrittenFeature]:
    """The features one line says, in its order; one that says diameter and depth makes two. Raises UnreadableLength.

    `unit`: of numbers that name none; `is_on`: the line said that its feature lies on another. Source: common practice,
    no source (how a sketch is read aloud).

    >>> [one.kind for one in features_in_line("od 1.375 ±.005 x 3.625")]
    ['outside_diameter', 'length']
    """
    text = " ".join(line.replace("×", " x ").split())
    if len(text) > LONGEST_LINE:
        raise UnreadableLength(
            f"That is {len(text)} characters; a line here is at most {LONGEST_LINE}.", HOW, value=text[:80]
        )
    first, _, rest = text.partition(" ")
    word = first.lower().rstrip(":")
    kind = by_first_word().get(word)
    if kind is None:
        claiming = next((one for one in feature_kinds().values() if one.claims(text)), None)
        if claiming is None:
            _check_word(word, text)
            return [WrittenFeature(UNSAID_KIND, text)]
        return claiming.read(WrittenLine(text, "", text, unit, is_on))
    if not rest:
        raise UnreadableLength(f"“{text}” names a feature and no size.", HOW, value=text)
    return kind.read(WrittenLine(text, word, rest, unit, is_on))


_OF_A_SIZE = frozenset(
    ("sample", "like", "off", "as", "the", "a", "go", "enters", "letter", "no", "number", "max", "min")
)
"""What a size may begin with that is no number."""


def _check_word(word: str, text: str) -> None:
    """Raises UnreadableLength, with the nearest word that begins a line, where a line begins with one that does not."""
    if not word.isalpha() or word in _OF_A_SIZE:
        return
    nearest = get_close_matches(word, by_first_word(), n=1, cutoff=0.75)
    or_else = f" The nearest that does is {nearest[0]}." if nearest else ""
    raise UnreadableLength(f"No feature is called “{word[:30]}” here.{or_else}", HOW, value=text)
