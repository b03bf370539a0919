"""A thread as a drawing calls it out: its size and pitch, its class, its hand and its starts."""

import re
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Literal

from nomisma.core.errors import InputError, UnreadableLength
from nomisma.core.quantity.length import MM_PER_INCH, Unit
from nomisma.core.quantity.writing import parse_length
from nomisma.core.threads.designation import Thread, thread_named, threads

Series = Literal["", "UNC", "UNF", "UNEF", "UN", "UNS"]
Side = Literal["outside", "inside"]
HOW = "Write it like M24x2 6g, M24x2 6H, 1/2-13 UNC 2A, 3/4-16 UNF 2B LH, M16x1.5 2 starts, or 30 x 2 pitch 55°."
USUAL_CLASS: dict[tuple[Unit, Side], str] = {
    ("mm", "outside"): "6g", ("mm", "inside"): "6H", ("in", "outside"): "2A", ("in", "inside"): "2B",
}  # fmt: skip
"""The class of a thread that names none. Source: ISO 965-1 and ASME B1.1 (recalled): the medium class."""
SIXTY = Decimal(60)
_HAND = re.compile(r"[\s,-]+(?:LH|left[\s-]hand(?:ed)?)$", re.IGNORECASE)
_STARTS = re.compile(r"[\s,-]+(?P<starts>[2-8])[\s-]+starts?$", re.IGNORECASE)
_METRIC_CLASS = re.compile(r"[\s-]+(?P<class>[3-9][eEfFgGhH](?:[3-9][eEfFgGhH])?)$")
_INCH_CLASS = re.compile(r"[\s-]+(?P<class>[123][ABab])$")
_SERIES = re.compile(r"(?P<thread>.+?)\s*(?P<series>UNC|UNF|UNEF|UNS|UN)$", re.IGNORECASE)
_FREE = re.compile(
    r"(?P<size>.+?)\s*x\s*(?P<pitch>[0-9.]+\s*(?:mm|in)?)\s*(?P<how>pitch|tpi|per\s+inch)(?:\s+(?P<angle>[0-9.]+)\s*(?:°|deg))?",
    re.IGNORECASE,
)
_METRIC_LOOK = re.compile(r"M\s*[0-9]", re.IGNORECASE)
_INCH_LOOK = re.compile(r"#?[0-9./ -]+-\s*[0-9]+(?:\s|$|UN|-)", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class ThreadCalledOut:
    """A thread with all that is said of it; `lead_mm`: from one turn to the next, the pitch times the starts.

    `thread_class` is empty where none is said; `angle_deg` is that between the flanks; one that is free belongs to no
    series with limits.
    """

    thread: Thread
    thread_class: str = ""
    series: Series = ""
    left_hand: bool = False
    starts: int = 1
    angle_deg: Decimal = SIXTY
    is_free: bool = False

    @property
    def lead_mm(self) -> Decimal:
        """How far a nut goes in a turn, mm."""
        return self.thread.pitch_mm * self.starts

    @property
    def form(self) -> tuple[Decimal, Decimal, int, Decimal]:
        """What its flanks are cut to: diameter and pitch (mm), starts, angle (degrees); the class does not count."""
        return self.thread.diameter_mm, self.thread.pitch_mm, self.starts, self.angle_deg

    @property
    def side(self) -> Side | None:
        """Whether its class is one of outside or of inside threads; None where no class is said."""
        if not self.thread_class:
            return None
        last = self.thread_class[-1]
        inside = last.isupper() if self.thread.unit == "mm" else last == "B"
        return "inside" if inside else "outside"

    @property
    def words(self) -> str:
        """As it is written."""
        series = f" {self.series}" if self.series else ""
        said = [f"{self.thread.name}{series}", self.thread_class, f"{self.starts} starts" if self.starts > 1 else ""]
        return " ".join(one for one in (*said, "LH" if self.left_hand else "") if one)

    def of_class_for(self, side: Side) -> "ThreadCalledOut":
        """The same with the usual class where it names none. Raises UnreadableLength where its class is of the other
        side.
        """
        if self.side not in (None, side):
            raise UnreadableLength(
                f"{self.thread_class} is a class of {self.side} threads.",
                f"Choose {USUAL_CLASS[self.thread.unit, side]}.",
            )
        usual = "" if self.is_free else USUAL_CLASS[self.thread.unit, side]
        return self if self.thread_class else replace(self, thread_class=usual)


def looks_like_a_thread(text: str) -> bool:
    """Whether a text begins as threads are written: M24x2, 1/2-13, #10-32, 3/4-16 UNF. Source: ISO 965-1, ASME B1.1
    (designations; recalled).

    >>> [looks_like_a_thread(one) for one in ("M24x2 thru", "1/2-13 UNC 2A", "25 H7", "1-1/2")]
    [True, True, False, False]
    """
    if _METRIC_LOOK.match(text):
        return True
    return _INCH_LOOK.match(text) is not None and _is_inch_thread(text)


def _is_inch_thread(text: str) -> bool:
    """Of the table, or said to be one by its mark or its series: 12-15 alone might be anything."""
    first = re.split(r"\s+(?=[A-Za-z])", text, maxsplit=1)[0]
    try:
        thread = thread_named(_INCH_CLASS.sub("", first))
    except InputError:
        return False
    return thread.name in threads() or "#" in first or re.search(r"\bUN", text, re.IGNORECASE) is not None


def thread_called_out(text: str, unit: Unit = "mm") -> ThreadCalledOut:
    """A thread as it is written; of a free one bare sizes are in `unit`. Raises UnreadableLength, NotDefined.

    Source: ISO 965-1 and ASME B1.1 (designations; recalled); left hand, starts and free pitches: common practice, no
    source.

    >>> found = thread_called_out("M24x2-6g LH"); found.thread.pitch_mm, found.thread_class, found.left_hand, found.side
    (Decimal('2'), '6g', True, 'outside')
    >>> thread_called_out("1/2-13 UNC-2B").side, thread_called_out("30 x 2 pitch 55°").angle_deg
    ('inside', Decimal('55'))
    """
    plain = " ".join(text.replace("×", "x").split())
    rest, hand = _HAND.subn("", plain)
    starts = 1
    if match := _STARTS.search(rest):
        rest, starts = rest[: match.start()], int(match["starts"])
    if match := _FREE.fullmatch(rest):
        return replace(_free(match, unit), left_hand=bool(hand), starts=starts)
    pattern = _METRIC_CLASS if _METRIC_LOOK.match(rest) else _INCH_CLASS
    found = pattern.search(rest)
    if found:
        rest = rest[: found.start()].rstrip(" -")
    named = _SERIES.fullmatch(rest)
    series: Series = next((one for one in _SERIES_NAMES if named and named["series"].upper() == one), "")
    thread = thread_named(named["thread"] if named else rest)
    wanted = found["class"] if found else ""
    return ThreadCalledOut(thread, wanted if thread.unit == "mm" else wanted.upper(), series, bool(hand), starts)


_SERIES_NAMES: tuple[Series, ...] = ("UNC", "UNF", "UNEF", "UN", "UNS")


def _free(match: re.Match[str], unit: Unit) -> ThreadCalledOut:
    """A thread of any diameter, pitch and angle: it has no class, and no limits follow."""
    diameter = parse_length(match["size"], unit)
    per_inch = match["how"].lower() != "pitch"
    amount = parse_length(match["pitch"], unit)
    pitch_mm = MM_PER_INCH / amount.value() if per_inch else amount.mm
    angle = Decimal(match["angle"]) if match["angle"] else SIXTY
    if not (0 < pitch_mm < diameter.mm and 10 <= angle <= 90):
        raise UnreadableLength(f"“{match.group()[:40]}” is no thread that could be cut.", HOW, value=match.group())
    # Its name bears its units: it is read again where others are in force.
    pitch = f"{amount.value():f} tpi" if per_inch else f"{amount.value():f} {amount.unit} pitch"
    name = f"{diameter.value():f} {diameter.unit} x {pitch} {angle.normalize():f}°"
    return ThreadCalledOut(Thread(name, diameter.unit, diameter.mm, pitch_mm), angle_deg=angle, is_free=True)
