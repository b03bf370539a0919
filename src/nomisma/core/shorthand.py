"""One way of writing on the entry line: its pattern, and how it becomes a calculation's inputs."""

import re
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from nomisma.core.quantity.length import Unit

SIZE = r"(?:[0-9]+(?:\.[0-9]*)?|\.[0-9]+)(?:[-\s]?[0-9]+/[0-9]+|/[0-9]+)?(?:\s?(?:mm|in|\")(?![a-z]))?"
"""A size within a line, with its unit where it names one."""
Understood = tuple[str, dict[str, Any], str]
"""The calculation, its inputs, and what was understood in words."""


@dataclass(frozen=True, slots=True)
class Shorthand:
    """One way of writing: its pattern, an example, and how it becomes a calculation's inputs."""

    example: str
    pattern: re.Pattern[str]
    read: Callable[[dict[str, str], Unit | None], Understood]


def written(example: str, pattern: str, read: Callable[[dict[str, str], Unit | None], Understood]) -> Shorthand:
    """A shorthand whose pattern holds whatever the case of its letters. Source: this tool's own.

    >>> written("wall 3", "wall (?P<size>.+)", lambda parts, unit: ("wall", parts,
    ...     "")).pattern.fullmatch("WALL 3")["size"]
    '3'
    """
    return Shorthand(example, re.compile(pattern, re.IGNORECASE), read)
