"""What the core says when it cannot answer: one tree, in the machinist's terms.

Every error names the field, keeps the value as typed, says what is wrong and what to do next.
The web and the command line turn these into a page, a fragment or JSON; the core knows no status codes.
"""

from collections.abc import Iterator
from contextlib import contextmanager


class NomismaError(Exception):
    """The root of everything Nomisma raises on purpose."""


class InputError(NomismaError):
    """Something entered cannot be used: `field`, `value` as typed, `problem` and `remedy` as sentences.

    `offer`: fields with values that would do, where there are such; empty otherwise.
    """

    def __init__(self, problem: str, remedy: str, *, field: str = "", value: object = "") -> None:
        super().__init__(f"{problem} {remedy}")
        self.problem = problem
        self.remedy = remedy
        self.field = field
        self.value = value
        self.offer: dict[str, str] = {}

    @property
    def sentence(self) -> str:
        """Problem and remedy in one breath."""
        return f"{self.problem} {self.remedy}"

    def at(self, field: str) -> "InputError":
        """The same error, named for the field it was typed in (kept if it already has one)."""
        self.field = self.field or field
        return self


@contextmanager
def refused_as(problem: str, remedy: str, *, field: str = "", value: object = "") -> Iterator[None]:
    """Whatever is refused inside is refused in these words: those of the place where it was typed. Raises OutOfRange.

    Source: none, bookkeeping.

    >>> with refused_as("“x” is no cutting force.", "Give it in newton."):
    ...     raise UnreadableLength("not a number", "write it out")
    Traceback (most recent call last):
    nomisma.core.errors.OutOfRange: “x” is no cutting force. Give it in newton.
    """
    try:
        yield
    except InputError:
        raise OutOfRange(problem, remedy, field=field, value=value) from None


class UnreadableLength(InputError):
    """Shop writing that is not understood."""


class AmbiguousLength(InputError):
    """Shop writing that could mean two sizes; the person must say which."""


class OutOfRange(InputError):
    """Understood, but outside what the rule, the table or the machine covers."""


class NotDefined(InputError):
    """A code or combination that the standard does not define, or that this version does not carry."""


def needed(text: str, field: str) -> str:
    """The text of a field that must not stay empty. Raises InputError.

    Source: none, bookkeeping.

    >>> needed("drops in", "note")
    'drops in'
    """
    if not text.strip():
        raise InputError("Nothing was entered.", "Fill this in, then send again.", field=field)
    return text
