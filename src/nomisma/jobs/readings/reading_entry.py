"""A reading as a hand gives it, before anything of it is believed; and what its texts say."""

from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Literal
from uuid import UUID

from nomisma.core.errors import InputError, needed
from nomisma.core.materials.material import material_named
from nomisma.core.materials.temperature import check_measured_at
from nomisma.core.measuring.indirect import WAY_WORDS, IndirectReading, indirect_reading
from nomisma.core.measuring.instrument_kinds import is_of_family
from nomisma.core.measuring.pins import PinBracketInput, pin_bracket
from nomisma.core.measuring.place import parse_place
from nomisma.core.part.feature_kinds import KindName, TakenAs, feature_kind
from nomisma.core.quantity.callout import pins_tried
from nomisma.core.quantity.fields import celsius
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import parse_length, split_sizes
from nomisma.jobs.readings.instrument_choice import InstrumentChoice

CameOff = Literal["", "cut", "stoned"]
"""What took metal off since the reading before: nothing, the tool, or stone or cloth."""
LONGEST_PINS = 60
LONGEST_DIALLED = 120


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadingEntry:
    """One reading, its texts as they were typed.

    `instrument`: the choice's id; `dialled`: at the cross-slide, for what came off, `as_advised` where it was only said
    to be as the coach had it; `answers`: the question put about the entry before.
    """

    id: UUID
    size: str
    instrument: str
    place: str
    piece: str = ""
    came_off: CameOff = ""
    dialled: str = ""
    as_advised: bool = False
    new_set_up: bool = False
    temperature: str = ""
    material: str = ""
    conditions: tuple[str, ...] = ()
    answers: UUID | None = None

    @property
    def size_text(self) -> str:
        """What was typed as the log keeps it."""
        try:
            return parse_length(self.size, "in").text
        except InputError:
            return self.size.strip()

    def about(self, kind: KindName, required: str) -> "ReadingEntry":
        """The same with what the requirement's text adds to its size, so that it can be worked out again: the thread
        wires lie in.

        Raises InputError where it was read of another.
        """
        try:
            return replace(self, size=feature_kind(kind).reading_text(self.size, required))
        except InputError as error:
            raise error.at("size") from None

    def read_with(self, choice: InstrumentChoice, *, taken_as: TakenAs = "size") -> tuple[Length, Decimal | None]:
        """What was read; pins give the middle of their bracket and half of it (mm), both as marked. Raises InputError.

        `taken_as` difference: two readings may be given, the highest and the lowest, and what lies between them counts.
        """
        if not choice.brackets:
            return self.number(choice.unit, taken_as), None
        return self._bracket(choice)

    def indirect(self, choice: InstrumentChoice) -> IndirectReading | None:
        """The readings the size follows from, where it is not read itself. Raises InputError."""
        return None if choice.brackets else indirect_reading(self.size, choice.unit)

    def must_be_a_way_to(self, kind: KindName, choice: InstrumentChoice) -> None:
        """Refuse what leads to no feature of that kind: another way, a pile of anything but slips, a reading of
        something else.

        Raises InputError.
        """
        of_kind, found = feature_kind(kind), self.indirect(choice)
        how = "; ".join(WAY_WORDS[way] for way in of_kind.ways)
        if found is None:
            if choice.instrument.measures in of_kind.not_direct:
                raise InputError(
                    f"{choice.name} does not read {of_kind.a_title} itself: {of_kind.why_not_direct}.",
                    f"Measure it with {of_kind.measured_with}: {how}.",
                    field="size",
                    value=self.size,
                )
            return
        if found.way not in of_kind.ways:
            raise InputError(
                f"That is no way to measure {of_kind.a_title}.",
                f"Give its size{f', or {how}' if how else ''}.",
                field="size",
                value=self.size,
            )
        if found.way in ("pile", "sine_bar") and not is_of_family(choice.instrument.kind, "slip_gauges"):
            raise InputError("A pile is what slips are.", "Choose the slips as the instrument.", field="instrument_id")

    def is_of_difference(self, taken_as: TakenAs) -> bool:
        """Whether two readings were given whose difference counts."""
        return taken_as == "difference" and len(split_sizes(self.size)) == 2

    def number(self, unit: Unit, taken_as: TakenAs) -> Length:
        """What was read, or what lies between two readings, in `unit` unless it names one. Raises InputError."""
        try:
            return self._number(unit, taken_as)
        except InputError as error:
            raise error.at("size") from None

    def must_be_reached(self, choice: InstrumentChoice, size: Length, taken_as: TakenAs) -> None:
        """Refuse what the instrument cannot reach: the size; of two readings each, or with an indicator how far it
        went. Raises OutOfRange.
        """
        if found := self.indirect(choice):
            for mm in found.read_mm:
                choice.must_reach(Length(mm, choice.unit), "size")
            return
        indicated = is_of_family(choice.instrument.kind, "indicator")
        two = self.is_of_difference(taken_as) and not indicated
        for one in self._two(choice.unit) if two else (size,):
            choice.must_reach(one, "size")

    def _two(self, unit: Unit) -> tuple[Length, Length]:
        first, second = (parse_length(text, unit, positive=False) for text in split_sizes(self.size))
        return first, second

    def _number(self, unit: Unit, taken_as: TakenAs) -> Length:
        if found := indirect_reading(self.size, unit):
            return Length(found.size_mm(), unit, self.size.strip())
        if not self.is_of_difference(taken_as):
            return parse_length(self.size, unit)
        high, low = self._two(unit)
        if high.mm == low.mm:
            raise InputError(
                "Both readings are the same: that would be none at all.",
                "Read it again.",
                field="size",
                value=self.size,
            )
        return Length(abs(high.mm - low.mm), unit, self.size.strip())

    def _bracket(self, choice: InstrumentChoice) -> tuple[Length, Decimal]:
        if not self.size or len(self.size) > LONGEST_PINS:
            raise InputError(
                "No pins were named." if not self.size else "That is too long for two pins.",
                "Give the pin that goes and the one that does not, like go 0.250 no-go 0.251.",
                field="size",
            )
        try:
            go, no_go = pins_tried(self.size, choice.unit)
            found = pin_bracket(PinBracketInput(go=go, no_go=no_go))
        except InputError as error:
            error.field = "size"
            raise
        half = (found.greatest.mm - found.least.mm) / 2
        return Length((found.least.mm + found.greatest.mm) / 2, choice.unit, self.size), half

    def place_in(self, unit: Unit) -> str:
        """The place as it is kept: bare numbers in it are in `unit`. Raises InputError."""
        return parse_place(needed(self.place, "place"), unit).text

    def warmth(self) -> tuple[Decimal | None, str]:
        """The part's temperature in °C (typed with F at its end it was in °F) and its material; none where not given.
        Raises InputError.
        """
        temperature = self._temperature()
        if temperature is None:
            return None, ""
        if not self.material:
            raise InputError(
                "A temperature is given, but not what the part is made of.",
                "Choose its material.",
                field="temperature_c",
            )
        material_named(self.material, field="temperature_c")
        return temperature, self.material

    def _temperature(self) -> Decimal | None:
        if not self.temperature:
            return None
        try:
            value = celsius(self.temperature)
        except InputError as error:
            raise error.at("temperature_c") from None
        check_measured_at(value, self.temperature)
        return value.quantize(Decimal("0.01"))
