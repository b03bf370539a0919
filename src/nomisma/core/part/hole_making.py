"""How a hole is said to be made: bored, or drilled or reamed to its size."""

import re
from typing import Literal

HoleMaking = Literal["bored", "drilled", "reamed", "tapped"]
"""A hole that is tapped is drilled for its tap; what is said of none is bored."""
_SAID: dict[str, HoleMaking] = {"drill": "drilled", "ream": "reamed", "bored": "bored"}
_TEXT = re.compile(rf"(?P<word>{'|'.join(_SAID)})\s+(?P<size>.+)", re.IGNORECASE)
MAKING_WORDS = tuple(_SAID)
"""What a line begins with to say so. Source: common practice, no source."""


def making_of(text: str) -> tuple[HoleMaking, str]:
    """How the text of a hole's size says that it is made, and its size. Source: common practice, no source.

    >>> making_of("drill 17/32"), making_of("12 H7")
    (('drilled', '17/32'), ('bored', '12 H7'))
    """
    match = _TEXT.fullmatch(text)
    return (_SAID[match["word"].lower()], match["size"]) if match else ("bored", text)


def making_said(text: str) -> HoleMaking | None:
    """How the text of a hole's size says that it is made; None where it leaves it to whoever plans it. Source: common
    practice, no source.

    >>> making_said("bored 12 H7"), making_said("12 H7")
    ('bored', None)
    """
    return making_of(text)[0] if _TEXT.fullmatch(text) else None
