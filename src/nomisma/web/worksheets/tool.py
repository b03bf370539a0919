"""One worksheet: its fields, how they become a calculation's inputs, and its picture."""

import re
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from decimal import Decimal
from functools import cached_property
from typing import Any, Literal

from markupsafe import Markup

from nomisma.core.errors import InputError, refused_as
from nomisma.core.fits.partner import PartnerInput
from nomisma.core.materials.material import materials
from nomisma.core.number import number_from
from nomisma.core.quantity.callout import says_pins, with_unit_in_force
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import parse_length, split_sizes
from nomisma.core.registry import calculation_named
from nomisma.jobs.standing.state import JobState

_PAIR = re.compile(r"\.[0-9]*\s*(?:in|mm)?\s*/|/\s*[0-9]*\.")
"""Two limits with a stroke between; a rule fraction has no point beside its stroke."""
FieldKind = Literal[
    "size", "difference", "number", "choice", "text", "limits", "member", "flag", "round", "throws", "lines"
]
LONGEST, LONGEST_LINES = 200, 4000


@dataclass(frozen=True, slots=True)
class Field:
    """One field of a worksheet.

    `limits` is a callout kept as text; `round` readings of an indicator with spaces between; `member` a bore or a shaft
    by readings or callout; `throws` of the kind 0.125 at 120; `lines` text of several lines;
    `tag` the unit shown beside it where it is no length. `group` is the
    fold it lies in (empty: always open). `example` is shown, greyed, in an empty worksheet.
    """

    name: str
    label: str
    kind: FieldKind
    example: str = ""
    hint: str = ""
    tag: str = ""
    group: str = ""
    options: tuple[tuple[str, str], ...] = ()
    member: Literal["bore", "shaft"] = "bore"

    @property
    def longest(self) -> int:
        """How many characters it takes."""
        return LONGEST_LINES if self.kind == "lines" else LONGEST

    @property
    def is_typed(self) -> bool:
        """Whether a hand writes in it; the others are chosen or ticked, and always say something."""
        return self.kind not in ("choice", "flag")

    @property
    def is_length(self) -> bool:
        """Whether a bare number in it is in the unit in force."""
        return self.kind in ("size", "difference", "limits", "member", "round", "throws")


def material_field(name: str, label: str, example: str, group: str = "") -> Field:
    """A choice from the table of materials."""
    options = tuple((material.name, material.title) for material in materials().values())
    return Field(name, label, "choice", example, group=group, options=options)


@dataclass(frozen=True)
class JobValues:
    """What a job already knows, as text for a worksheet's fields; empty where it does not.

    `kind`, `limits`, `aim`, `measured`: of the made member; `measured_outside`: of a made member that is measured and
    goes into a bore; `bore_aim`, `outside_aim`: of a made bore, of a made outside; `speeds`, `most_rpm`: of the job's
    machine; `chain`, `stops`: its lengths, a line each; `outside`: its largest outside; `thread`: the callout of the
    one in hand; `groove`: its first groove; `bore_ends`: of a bore, for a mandrel; `blank`: its length and largest
    diameter; `shoulder`: to the one the feature in hand ends at; `bush`: of a job that makes one, all that is known of
    it.
    """

    bore: str = ""
    shaft: str = ""
    diameter: str = ""
    interference_min: str = ""
    interference_max: str = ""
    clearance_min: str = ""
    clearance_max: str = ""
    reading_uncertainty: str = ""
    kind: str = ""
    limits: str = ""
    aim: str = ""
    measured: str = ""
    measured_outside: str = ""
    bore_aim: str = ""
    outside_aim: str = ""
    speeds: str = ""
    most_rpm: str = ""
    chain: str = ""
    stops: str = ""
    outside: str = ""
    thread: str = ""
    groove: Mapping[str, str] = field(default_factory=dict)
    bore_ends: Mapping[str, str] = field(default_factory=dict)
    blank: Mapping[str, str] = field(default_factory=dict)
    shoulder: Mapping[str, str] = field(default_factory=dict)
    bush: Mapping[str, str] = field(default_factory=dict)


Picture = Callable[[Any, Unit], Markup]


@dataclass(frozen=True)
class Tool:
    """A worksheet. `method` says how an assembly goes together that is planned with it; `answer` names the part that
    shows its answer.

    `on_part`: its answer shown on the section of the job's own part.
    """

    calculation: str
    path: str
    title: str
    question: str
    fields: tuple[Field, ...]
    picture: Picture
    method: str = ""
    from_job: Callable[[JobValues], Mapping[str, str]] = lambda values: {}  # noqa: ARG005
    takes_unit: bool = True
    takes_rules: bool = False
    takes_speeds: bool = False
    takes_slips: bool = False
    on_part: Callable[[JobState, Any], Markup] = lambda state, answer: Markup("")  # noqa: ARG005
    answer: str = ""
    groups: tuple[str, ...] = field(init=False, default=())

    def __post_init__(self) -> None:
        """Folds in the order their first field stands."""
        object.__setattr__(self, "groups", tuple(dict.fromkeys(one.group for one in self.fields if one.group)))

    @property
    def labels(self) -> tuple[tuple[str, str], ...]:
        """What each field is called on the page."""
        return tuple((one.name, one.label) for one in self.fields)

    @property
    def answer_template(self) -> str:
        """The part that shows its answer."""
        return f"worksheets/answers/{self.answer or self.calculation}.html"

    def nothing_typed(self, typed: Mapping[str, str]) -> bool:
        """Whether no number or text is anybody's own; what is only chosen or ticked does not make it so."""
        return not any(typed.get(one.name) for one in self.fields if one.is_typed)

    def asked(self, typed: Mapping[str, str], *, with_example: bool = True) -> dict[str, str]:
        """Its fields as typed, and what the calculation takes for those left empty.

        The examples `with_example` where nothing was typed: they are all of them or none, and never stand beside a
        number of one's own.
        """
        if self.nothing_typed(typed):
            chosen = {one.name: typed[one.name] for one in self.fields if not one.is_typed and one.name in typed}
            begun = {one.name: self.examples[one.name] for one in self.fields if with_example or not one.is_typed}
            return {**self.defaults, **begun, **chosen}
        given = {one.name: typed.get(one.name, "").replace("\x00", "").strip()[: one.longest] for one in self.fields}
        return {name: text or self.defaults[name] for name, text in given.items()}

    @cached_property
    def defaults(self) -> dict[str, str]:
        """What the calculation takes for each field that is left empty, as it would be typed: a page shows what it
        computes with.
        """
        model = calculation_named(self.calculation).input_model.model_fields
        return {one.name: _default(one, model[one.name].default if one.name in model else None) for one in self.fields}

    @cached_property
    def examples(self) -> dict[str, str]:
        """What stands in an empty worksheet."""
        return {one.name: one.example or self.defaults[one.name] for one in self.fields}

    def inputs(self, asked: Mapping[str, str], unit: Unit) -> dict[str, Any]:
        """The calculation's inputs from what was typed. Raises InputError with the field's name."""
        values: dict[str, Any] = {"unit": unit} if self.takes_unit else {}
        reading_uncertainty = (
            _value(READING_UNCERTAINTY, asked[READING_UNCERTAINTY.name], unit)
            if asked.get(READING_UNCERTAINTY.name)
            else None
        )
        for one in self.fields:
            text = asked.get(one.name, "")
            if text and one is not READING_UNCERTAINTY:
                values[one.name] = _value(one, text, unit, reading_uncertainty)
        return values

    def asked_from(self, inputs: Mapping[str, Any]) -> dict[str, str]:
        """Fields as text from a calculation's inputs, for the entry line."""
        return {one.name: _as_text(inputs[one.name]) for one in self.fields if inputs.get(one.name) is not None}


READING_UNCERTAINTY = Field(
    "reading_uncertainty",
    "A reading is worth ±",
    "difference",
    group="More",
    hint="Counts for members given by readings.",
)
"""The field that says what the readings of `member` fields are worth (expanded uncertainty)."""


def _value(one: Field, text: str, unit: Unit, reading_uncertainty: Length | None = None) -> Any:
    try:
        if one.kind in ("size", "difference"):
            return parse_length(text, unit, positive=one.kind == "size")
        if one.kind == "round":
            return [parse_length(part, unit, positive=False) for part in split_sizes(text)]
        if one.kind == "throws":
            return [_throw(part, unit) for part in text.split(";") if part.strip()]
        if one.kind == "member":
            return member_input(one.member, text, unit, reading_uncertainty)
    except InputError as error:
        error.field = one.name
        raise
    return text == "yes" if one.kind == "flag" else text


def _throw(text: str, unit: Unit) -> dict[str, Any]:
    """A throw and its direction: 0.125 at 120. Raises InputError."""
    size, _, at = text.partition(" at ")
    with refused_as(
        f"“{text.strip()}” is not a throw with its direction.", "Write it like 0.125 at 120; 0.125 at 240."
    ):
        degrees = number_from(at.replace("°", ""), least=0)
    return {"throw": parse_length(size, unit), "towards_deg": float(degrees)}


def member_input(
    kind: Literal["bore", "shaft"], text: str, unit: Unit, reading_uncertainty: Length | None = None
) -> PartnerInput:
    """Readings with spaces between, or one callout (25 H7, 0.3755/0.3760, 28±0.1, 1 RC4). Raises InputError."""
    if one_size := _same_twice(text, unit):
        return PartnerInput(kind=kind, readings=[one_size], uncertainty=reading_uncertainty or Length.of(0, unit))
    if is_callout(text):
        return PartnerInput(kind=kind, callout=with_unit_in_force(text, unit))
    sizes = [parse_length(part, unit) for part in split_sizes(text)]
    return PartnerInput(kind=kind, readings=sizes, uncertainty=reading_uncertainty or Length.of(0, unit))


def _same_twice(text: str, unit: Unit) -> Length | None:
    """The one size of a member that is written as limits which are the same, 11.372/11.372: it is known, not
    toleranced.
    """
    sizes = [part.strip() for part in text.split("/")]
    if _PAIR.search(text) is None or len(sizes) != 2:
        return None
    try:
        lower, upper = (parse_length(one, unit) for one in sizes)
    except InputError:
        return None
    return upper if lower.mm == upper.mm else None


def is_callout(text: str) -> bool:
    """Whether a member's text is a callout rather than readings."""
    words = text.split()
    coded = any(word[:1].isalpha() and word[-1:].isdigit() for word in words[1:])
    pair = _PAIR.search(text) is not None
    return coded or pair or says_pins(text) or any(mark in text for mark in "±+")


def _default(one: Field, value: Any) -> str:
    """A model's default as it would be typed; the first choice where there is none, for that is what a menu shows."""
    if isinstance(value, Length):
        return str(value) if value.mm else "0"
    if isinstance(value, str | Decimal | int | float):
        return _as_text(value)
    return one.options[0][0] if one.kind == "choice" else ""


def _as_text(value: Any) -> str:
    if isinstance(value, dict):
        readings: Iterable[str] = value.get("readings") or []
        return str(value.get("callout") or " ".join(readings))
    if isinstance(value, list):
        return " ".join(str(one) for one in value)
    if isinstance(value, bool):
        return "yes" if value else ""
    return str(value)
