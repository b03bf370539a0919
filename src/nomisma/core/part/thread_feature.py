"""What outside and inside threads have in common as features: their line, the diameter they are cut on, how they lie in
the section.
"""

import re
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import TYPE_CHECKING, NamedTuple

from nomisma.core.errors import AmbiguousLength, UnreadableLength
from nomisma.core.part.kind import FeatureKind
from nomisma.core.part.section_shapes import ThreadLines
from nomisma.core.part.written import BY, ENDS, THROUGH, WrittenFeature, WrittenLine
from nomisma.core.quantity.length import MM_PER_INCH, Length, Unit
from nomisma.core.threads.called_out import HOW, Side, ThreadCalledOut, thread_called_out
from nomisma.core.threads.designation import threads
from nomisma.core.threads.limits import ThreadLimits, basic_minor_diameter_mm, basic_pitch_diameter_mm
from nomisma.core.threads.of_class import limits_of

if TYPE_CHECKING:
    from nomisma.core.part.section import Sheet

_CREST_TO_LINE: dict[Side, Decimal] = {"outside": Decimal("1.889"), "inside": Decimal("2.5")}
"""From the crest to what is drawn thin, in parts of from the crest to the pitch diameter: to the root d3 outside, to
the major diameter inside.

Source: ISO 68-1 (recalled): 1.2269/0.6495 and 1.0825/0.4330.
"""
OUTSIDE, INSIDE = "thread", "inside_thread"
_SPACED_PITCH = re.compile(r"(?P<size>M\s*[0-9.]+)\s+x\s+(?P<pitch>[0-9.]+)(?=\s|-|$)", re.IGNORECASE)


class _Written(NamedTuple):
    """The kinds a line of a thread writes: the thread, the diameter of its crest, and how far that goes."""

    thread: str
    crest: str
    along: str


_WRITTEN_AS: dict[Side, _Written] = {
    "outside": _Written(OUTSIDE, "outside_diameter", "length"),
    "inside": _Written(INSIDE, "bore", "depth"),
}
_FREE_PITCH = re.compile(
    r"(?P<size>\S+(?:\s*(?:mm|in))?)\s+x\s+(?P<pitch>[0-9.]+\s*(?:mm|in)?\s*(?:pitch|tpi|per\s+inch))", re.IGNORECASE
)
_BLUNT = re.compile(r",?\s+(?:with\s+)?(?:a\s+)?blunt\s+start", re.IGNORECASE)
_RUNOUT = re.compile(r",?\s+(?:with\s+)?runout\s+(?P<size>[0-9.][0-9./]*(?:\s?(?:mm|in))?)(?:\s+max)?", re.IGNORECASE)
FULL_TURN = "to the first full turn"
COARSEST_MM = Decimal(8)
"""No metric thread has a larger pitch. Source: ISO 261 (recalled)."""


@dataclass(frozen=True, kw_only=True)
class ThreadKind(FeatureKind):
    """A thread; `side`: outside or inside. Its size is its pitch diameter."""

    side: Side

    def of_text(self, text: str, unit: Unit = "mm") -> ThreadCalledOut:
        """The thread its text calls out, with the usual class where it names none. Raises InputError. Source: ISO
        965-1; ASME B1.1.
        """
        return thread_called_out(text, unit).of_class_for(self.side)

    def dimension(self, text: str) -> str:
        """By its callout. Source: ISO 6410-1 (recalled)."""
        return text

    def lay(self, sheet: "Sheet") -> None:
        """Thin lines along the diameter it is cut on: at its root outside, at its major diameter inside. Source: ISO
        6410-1 (recalled).
        """
        hosts = {step.letter: step for step in (sheet.bores if self.side == "inside" else sheet.outside)}
        for _, one in sheet.of(self.name):
            host = hosts.get(one.along.on)
            if host is None:
                continue
            sheet.draw(one)
            sheet.lies[one.letter] = (host.from_mm, host.to_mm)
            crest_mm, pitch_mm = host.diameter_mm, sheet.size_mm(one)
            line_mm = crest_mm + _CREST_TO_LINE[self.side] * (pitch_mm - crest_mm)
            sheet.threads.append(ThreadLines(one.letter, host.from_mm, host.to_mm, line_mm, self.side == "inside"))


def nominal_pitch_diameter(said: ThreadCalledOut) -> Length:
    """The basic pitch diameter of a thread, in its own unit. Source: ISO 68-1 (recalled).

    >>> str(nominal_pitch_diameter(thread_called_out("M24x2")))
    '22.701 mm'
    """
    thread = said.thread
    mm = basic_pitch_diameter_mm(thread.diameter_mm, thread.pitch_mm)
    if thread.unit == "mm":
        return Length(mm.quantize(Decimal("0.001")), "mm")
    return Length((mm / MM_PER_INCH).quantize(Decimal("0.0001")) * MM_PER_INCH, "in")


def thread_in_line(line: WrittenLine, side: Side | None, *, usual: Side | None = None) -> list[WrittenFeature]:
    """The features a line of a thread says: the diameter it is cut on, how long or deep that is, and the thread on it.

    `side`: as the line's first word says; None: as its class says, or that it goes through, else the `usual` one. On a
    diameter that is there already (`is_on`) it is the thread alone. Raises InputError. Source: common practice, no
    source.

    >>> [one.kind for one in thread_in_line(WrittenLine("M20x1.5 6g x 30", "", "M20x1.5 6g x 30"), None)]
    ['outside_diameter', 'length', 'thread']
    """
    rest, besides = _besides(line.rest)
    through = THROUGH.search(rest) is not None
    said, *behind = BY.split(_pitch_joined(THROUGH.sub("", rest)))
    if len(behind) > 1 or (behind and (through or line.is_on)):
        raise UnreadableLength(f"“{line.text[:40]}” says more sizes than a thread has.", HOW, value=line.text)
    called = thread_called_out(said, line.unit)
    deep = bool(behind) and ENDS.search(behind[0]) is not None and "deep" in behind[0].lower()
    long = bool(behind) and ENDS.search(behind[0]) is not None and "long" in behind[0].lower()
    side = _side(line, called, side or ("inside" if through or deep else "outside" if long else None), usual)
    called = called.of_class_for(side)
    limits = limits_of(called, side)
    written = _WRITTEN_AS[side]
    if line.is_on:
        return [WrittenFeature(written.thread, called.words), *(replace(one, on=0) for one in besides)]
    found = [WrittenFeature(written.crest, _crest_text(called, side, limits), through=through)]
    if behind:
        found.append(WrittenFeature(written.along, ENDS.sub("", behind[0])))
    return [*found, WrittenFeature(written.thread, called.words, on=0), *(replace(one, on=0) for one in besides)]


def _besides(text: str) -> tuple[str, list[WrittenFeature]]:
    """A line of a thread without how it begins and how far it may run out; and those as features of their own."""
    found = []
    if _BLUNT.search(text):
        text = _BLUNT.sub("", text)
        found.append(WrittenFeature("blunt_start", FULL_TURN))
    if match := _RUNOUT.search(text):
        text = f"{text[: match.start()]}{text[match.end() :]}"
        found.append(WrittenFeature("thread_runout", f"{match['size']} max"))
    return text, found


def _pitch_joined(text: str) -> str:
    """M20 x 1.5 x 30 as M20x1.5 x 30: a pitch behind an x is part of the callout, a length is not."""
    if free := _FREE_PITCH.match(text):
        return f"{free['size']}x{free['pitch']}{text[free.end() :]}"
    match = _SPACED_PITCH.match(text)
    if match is None:
        return text
    known = threads().get(match["size"].upper().replace(" ", ""))
    number = Decimal(match["pitch"]) if re.fullmatch(r"[0-9]*\.?[0-9]+", match["pitch"]) else Decimal(0)
    is_pitch = 0 < number <= (known.pitch_mm if known else COARSEST_MM)
    return f"{match['size']}x{match['pitch']}{text[match.end() :]}" if is_pitch else text


def _side(line: WrittenLine, called: ThreadCalledOut, said: Side | None, usual: Side | None) -> Side:
    side = called.side or said or usual
    if side is None:
        name = called.thread.name
        raise AmbiguousLength(
            f"“{line.text[:40]}” could be a thread outside or inside.",
            f"Write thread {name} or {name} with its class for the outside; tap {name}, {name} thru, or its class for"
            " the inside.",
            value=line.text,
        )
    if said is not None and said != side:
        raise UnreadableLength(
            f"“{line.text[:40]}”: {called.thread_class} is a class of {side} threads.",
            "Check the class, or the first word.",
            value=line.text,
        )
    return side


def _crest_text(called: ThreadCalledOut, side: Side, limits: ThreadLimits | None) -> str:
    """The diameter a thread is cut on as a line writes it: its limits by the class, or its bare size where there are
    none.
    """
    thread = called.thread
    if limits is not None:
        per = Decimal("25.4") if thread.unit == "in" else Decimal(1)
        lower, upper = ((end / per).normalize() for end in (limits.crest.lower_mm, limits.crest.upper_mm))
        return f"{lower:f} {thread.unit}/{upper:f} {thread.unit}"
    size_mm = thread.diameter_mm if side == "outside" else basic_minor_diameter_mm(thread.diameter_mm, thread.pitch_mm)
    size = size_mm / (Decimal("25.4") if thread.unit == "in" else 1)
    return f"{size.quantize(Decimal('0.0001')).normalize():f} {thread.unit}"
