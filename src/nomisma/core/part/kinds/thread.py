"""A thread outside: its size is its pitch diameter, read over three wires or with a thread micrometer; or rings are
tried on it.
"""

import re
from dataclasses import dataclass

from nomisma.core.errors import UnreadableLength
from nomisma.core.part.kind import FeatureKind
from nomisma.core.part.requirement import HeldTo, Requirement
from nomisma.core.part.thread_feature import OUTSIDE, ThreadKind, nominal_pitch_diameter, thread_in_line
from nomisma.core.part.written import WrittenFeature, WrittenLine
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.threads.called_out import looks_like_a_thread
from nomisma.core.threads.of_class import limits_of
from nomisma.core.working import COMMON_PRACTICE

_OVER_WIRES = re.compile(r"(?P<read>(?:over\s+)?wires?\s+.+?\s+on\s+.+?)(?:\s+for\s+(?P<thread>.+))?", re.IGNORECASE)


@dataclass(frozen=True, kw_only=True)
class _Thread(ThreadKind):
    def claims(self, text: str) -> bool:
        """M24x2, 1/2-13 UNC: of either side."""
        return looks_like_a_thread(text)

    def read(self, line: WrittenLine) -> list[WrittenFeature]:
        """Of either side where no word says so: its class does, or that it goes through."""
        return thread_in_line(line, None, usual=self.side if line.word else None)

    def required(self, text: str, unit: Unit, held: HeldTo) -> Requirement:
        """The limits of its pitch diameter by its class; none of a free thread."""
        said = self.of_text(text, unit)
        limits, nominal = limits_of(said, self.side), nominal_pitch_diameter(said)
        if limits is None:
            return Requirement(nominal, None, None, "reference", COMMON_PRACTICE)
        lower, upper = (Length(end, nominal.unit) for end in (limits.pitch.lower_mm, limits.pitch.upper_mm))
        doubt = "; a value of it is recalled without certainty" if limits.unsure else ""
        return Requirement(nominal, lower, upper, "code", f"{limits.source}{doubt}")

    def sized(self, text: str, said: str) -> str:
        """Its callout, and the pitch diameter that follows from it."""
        return f"{text}, pitch diameter {said}"

    def reading_text(self, typed: str, required: str) -> str:
        """A size over wires says for which thread: this one. Raises UnreadableLength where it says another."""
        match = _OVER_WIRES.fullmatch(typed.strip())
        if match is None or not required:
            return typed
        own = self.of_text(required)
        if match["thread"] and self.of_text(match["thread"]).form != own.form:
            raise UnreadableLength(
                f"That was read of {match['thread']}, and this is {own.words}.",
                "Leave the thread out, or choose its feature.",
                value=typed,
            )
        return f"{match['read']} for {own.words}"


KIND: FeatureKind = _Thread(
    name=OUTSIDE,
    title="thread",
    side="outside",
    words=("thread", "thd"),
    material_side="external",
    is_diameter=True,
    measured_with="three wires or a thread micrometer",
    instruments=("thread", "shaft"),
    not_direct=("shaft",),
    why_not_direct="it touches the crests",
    usual=("thread_micrometer", "micrometer"),
    ways=("wires",),
    also_tried="gauge",
    also_tried_with="a go and a no-go ring gauge",
    also_tried_at=("all along",),
    cut_as="thread",
    cut_on="outside",
    lays=6,
    example="M20x1.5 6g",
    places=("near end 0°", "near end 90°", "far end 0°", "far end 90°"),
)
