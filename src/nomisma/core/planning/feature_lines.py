"""Lines of a sketch to features with limits: each as understood before it counts, the others with their sentence."""

import re
from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Annotated, Literal

from pydantic import Field, PlainSerializer

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, UnreadableLength
from nomisma.core.fits.iso286 import SOURCE as ISO_286
from nomisma.core.model import Model
from nomisma.core.part.along import NOT_SAID, AxialPlace, place_said
from nomisma.core.part.duty import NO_DUTY, DutyName, FeatureDuty, duty_in_line
from nomisma.core.part.feature import Feature
from nomisma.core.part.feature_kinds import KindName, MaterialSide, feature_kind
from nomisma.core.part.general_tolerance import BY_FRACTION, GeneralTolerance
from nomisma.core.part.lettered import LetteredFeature, lengths_behind
from nomisma.core.part.member import member_of, other_member
from nomisma.core.part.part_check import part_contradictions
from nomisma.core.part.references import wrong_reference
from nomisma.core.part.requirement import LIMITS_FROM_WORDS, HeldTo, LimitsFrom, Requirement, decimals_needed
from nomisma.core.part.shop_writing import OWN, lines_meant
from nomisma.core.part.sketch_line import (
    PartnerReference,
    begins_a_feature,
    features_in_line,
    partner_in_line,
    place_of_line,
)
from nomisma.core.part.step_lengths import STEP_LENGTH, step_lengths
from nomisma.core.part.written import WrittenFeature
from nomisma.core.planning.class_of_fits import class_of_fits
from nomisma.core.quantity.display import both
from nomisma.core.quantity.fields import Number, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import parse_length
from nomisma.core.working import Step

MOST_LINES = 200
MOST_FEATURES = 200
"""Features of one part. Source: this tool's own choice: a page of more is none that anybody reads at a lathe."""


class FeatureLinesInput(Model):
    """Lines as a sketch is read aloud, the unit of numbers that name none, and what holds sizes without limits of their
    own.

    `general_tolerance`: a class of ISO 2768-1, the decimals of an inch title block, or none: such sizes are then for
    reference. Left out, it is class m for a size in millimetres and by decimals for one in inches; of those
    `fraction_tolerance` is the ± of one written as a fraction. `after`: how many features the part has already, by
    which the new ones are lettered on.
    """

    text: str = Field(max_length=100_000, examples=["od 1.375 ±.005 x 3.625\nbore .800 +.004/-0 x .125 deep"])
    unit: Unit = "mm"
    general_tolerance: GeneralTolerance | None = None
    fraction_tolerance: Size = BY_FRACTION
    after: int = Field(default=0, ge=0, le=MOST_FEATURES)


def _as_written(length: Length | None) -> str | None:
    """With as many decimals as its size was written with, at least: 1.370 in, beside a nominal of 1.375."""
    if length is None:
        return None
    return f"{length.value():.{max(length.decimals or 0, decimals_needed(length))}f} {length.unit}"


Limit = Annotated[Size | None, PlainSerializer(_as_written, return_type=str | None)]
"""A limit as a drawing has it, with the decimals of its size."""


class FeatureRead(Model):
    """One feature: its letter, kind and side of the material, nominal and limits (none where it has only one, or none).

    `limits_from` says where its limits come from; `along` where it lies along
    the axis; `line` the line it stands in (1 is the first), `text` what was written of it.
    """

    letter: str
    kind: KindName
    title: str
    material_side: MaterialSide
    nominal: Limit = None
    lower: Limit = None
    upper: Limit = None
    limits_from: LimitsFrom
    angle_deg: Number | None = None
    roughness_ra_um: Number | None = None
    along: str = ""
    through: bool = False
    duty: DutyName = ""
    true_to: str = ""
    goes_with: Literal["bore", "shaft", ""] = ""
    goes_with_job: int | None = None
    goes_with_letter: str = ""
    line: int
    text: str
    sentence: str


class LineRefused(Model):
    """A line that is no feature, with its sentence."""

    line: int
    text: str
    sentence: str


class Contradicted(Model):
    """Features that cannot all be as they are written, by their letters, and why."""

    letters: tuple[str, ...]
    sentence: str


class FeatureLinesResult(Model):
    """The features in the order of their lines, lettered A, B, C …; the lines that were not understood; what
    contradicts itself.
    """

    features: list[FeatureRead]
    not_understood: list[LineRefused]
    contradictions: list[Contradicted]
    working: list[Step]


@calculation(
    name="feature_lines",
    title="A part read off its sketch, line by line",
    validity=(
        f"At most {MOST_LINES} lines; sizes above 0 up to 10 000 mm; general tolerances of ISO 2768-1 from 0.5 mm."
    ),
    source=f"shop writing: common practice, no source; {ISO_286}; ISO 2768-1:1989, Tables 1 and 2",
    example={"text": "od 1.375 ±.005 x 3.625\nbore .800 +.004/-0 x .125 deep\ncham 1/16 x 45", "unit": "in"},
)
def feature_lines(given: FeatureLinesInput) -> FeatureLinesResult:
    """Every line as features with limits, or with the sentence why not. Raises InputError where there is no line, or
    far too many.

    Source: common practice (shorthand); ISO 286-1 (classes); ISO 2768-1 (general tolerances).

    >>> found = feature_lines(FeatureLinesInput(text="od 1.375 ±.005 x 3.625", unit="in"))
    >>> [one.sentence for one in found.features][0]
    'A: outside diameter from 1.370 in to 1.380 in; limits by the line itself.'
    """
    lines = [(number, line.strip()) for number, line in enumerate(given.text.splitlines(), 1) if line.strip()]
    if not lines:
        raise UnreadableLength(
            "Nothing was entered.", "Write one feature a line, like od 1.375 ±.005 x 3.625.", field="text"
        )
    if len(lines) > MOST_LINES:
        raise InputError(
            f"That is {len(lines)} lines; a part here has at most {MOST_LINES}.", "Paste fewer.", field="text"
        )
    held = HeldTo(class_of_fits, given.general_tolerance, given.fraction_tolerance)
    features: list[FeatureRead] = []
    refused: list[LineRefused] = []
    working: list[Step] = []
    for number, line in lines:
        try:
            meant = _on_the_eccentric(line, features)
            read = [_on_its_diameter(said, features, given.unit) for said in _read_line(meant, given.unit, held)]
        except InputError as error:
            refused.append(LineRefused(line=number, text=line[:160], sentence=error.sentence))
            continue
        own = letter_of(given.after + len(features))
        for said in read:
            first = given.after + len(features)
            for index, (one, required) in enumerate(said.features):
                on = f"on {letter_of(first + one.on)}" if one.on is not None else ""
                besides = said.besides if index == 0 else _Besides()
                placed = replace(one, along=one.along or on or besides.along.words.replace(OWN_LETTER, own))
                features.append(_feature(placed, required, letter_of(first + index), number, besides))
                working.append(_step(features[-1], required))
    if len(features) > MOST_FEATURES:
        raise InputError(
            f"These lines say {len(features)} features; a part here has at most {MOST_FEATURES}.",
            "Make it two parts.",
            field="text",
        )
    features, working, wrong = _with_right_references(features, working, dict(lines))
    refused = sorted([*refused, *wrong], key=lambda one: one.line)
    part = _without_what_is_there(map(lettered, features), {letter_of(index) for index in range(given.after)})
    read_alone = FeatureLinesResult(
        features=features,
        not_understood=refused,
        working=working,
        contradictions=[Contradicted(letters=one.letters, sentence=one.sentence) for one in part_contradictions(part)],
    )
    return as_part_of(read_alone)


def _without_what_is_there(features: Iterable[LetteredFeature], there: Collection[str]) -> list[LetteredFeature]:
    """Features as they can be held against each other alone: what they say of those the part has already is the part's
    to check.
    """
    return [
        replace(
            one,
            true_to="" if one.true_to in there else one.true_to,
            along=NOT_SAID if one.along.letter in there else one.along,
        )
        for one in features
    ]


def _read(written: list[WrittenFeature], unit: Unit, held: HeldTo) -> list[tuple[WrittenFeature, Requirement]]:
    """What the features of a line require; what a thread is cut on has its limits from the thread's class."""
    required = [_required(one, unit, held) for one in written]
    for one, found in zip(written, list(required), strict=True):
        if one.on is not None and found.limits_from == "code":
            required[one.on] = replace(required[one.on], limits_from="code", source=found.source)
    return list(zip(written, required, strict=True))


def _required(one: WrittenFeature, unit: Unit, held: HeldTo) -> Requirement:
    return feature_kind(one.kind).required(one.size, unit, held)


@dataclass(frozen=True, slots=True)
class _SaidLine:
    """What one line of one feature says: its features with what they require, and what stands beside the first."""

    features: list[tuple[WrittenFeature, Requirement]]
    besides: "_Besides"


def _read_line(line: str, unit: Unit, held: HeldTo) -> list[_SaidLine]:
    """What a line says, and every line that it means besides. Raises InputError."""
    found = []
    for meant in lines_meant(line.replace("\t", " ")):
        unsaid, duty = duty_in_line(meant.replace(OWN, OWN_LETTER))
        placed, along = place_of_line(unsaid, unit)
        plain, partner = partner_in_line(placed)
        read = _read(features_in_line(plain, unit, is_on=bool(along.on)), unit, held)
        _check_partner(read[0][0], partner)
        found.append(_SaidLine(read, _Besides(partner, duty, along)))
    return found


def _on_its_diameter(said: _SaidLine, before: list[FeatureRead], unit: Unit) -> _SaidLine:
    """What a line says to lie on a diameter by its size, on the letter that has it. Raises UnreadableLength where none
    has, or several.
    """
    one, required = said.features[0]
    if not one.on_size:
        return said
    size = parse_length(one.on_size, unit)
    those = [
        read.letter
        for read in before
        if feature_kind(read.kind).is_diameter and read.nominal and read.nominal.mm == size.mm
    ]
    if len(those) != 1:
        raise UnreadableLength(
            f"{'No diameter above is' if not those else f'{len(those)} diameters are'} {size}.",
            "Say on which it lies by its letter: on A.",
            value=one.on_size,
        )
    return replace(said, features=[(replace(one, along=f"on {those[0]}"), required), *said.features[1:]])


_ON_THE_ECCENTRIC = re.compile(r"(?P<thru>\s(?:thru|through))?(?:\s(?:in|on|of))?\sthe\s+eccentric\s*$", re.IGNORECASE)


def _on_the_eccentric(line: str, before: list[FeatureRead]) -> str:
    """A line that says “the eccentric” with its letter. Raises UnreadableLength where none stands above, or several."""
    match = _ON_THE_ECCENTRIC.search(line)
    if match is None:
        return line
    those = [one.letter for one in before if one.kind == "eccentric_diameter"]
    if len(those) != 1:
        raise UnreadableLength(
            "No eccentric stands above." if not those else f"{len(those)} eccentrics stand above.",
            "Write the eccentric's line before it, or say on which it lies by its letter: on A.",
            value=line,
        )
    return f"{line[: match.start()]}{match['thru'] or ''} on {those[0]}"


OWN_LETTER = "ZZ"
"""Stands for the letter of the feature a line is of while that is not known: no part has so many features."""


def as_part_of(found: FeatureLinesResult, there: Sequence[LetteredFeature] = ()) -> FeatureLinesResult:
    """What lines say, lengths that end at a shoulder as step lengths: on those metal is left where they are short.

    `there`: what the part has already, for a step may be added beside a larger one. Without unit. Source: as
    `step_lengths`.

    >>> from decimal import Decimal
    >>> found = feature_lines(FeatureLinesInput(text="od 20 x 30"))
    >>> step = LetteredFeature("Z", Feature("outside_diameter", Decimal(40), Decimal(40)))
    >>> [one.kind for one in as_part_of(found, [step]).features]
    ['outside_diameter', 'step_length']
    """
    found = _asked_of_lengths(found, there)
    letters = step_lengths([*there, *map(lettered, found.features)])
    kind = feature_kind(STEP_LENGTH)
    as_step = {"kind": kind.name, "title": kind.title, "material_side": kind.material_side}
    read = [
        one.model_copy(update={**as_step, "sentence": one.sentence.replace(one.title, kind.title, 1)})
        if one.letter in letters
        else one
        for one in found.features
    ]
    titles = {
        f"{one.letter}, {one.title}": f"{one.letter}, {kind.title}" for one in found.features if one.letter in letters
    }
    steps = [step.model_copy(update={"name": titles.get(step.name, step.name)}) for step in found.working]
    return found.model_copy(update={"features": read, "working": steps})


def _asked_of_lengths(found: FeatureLinesResult, there: Sequence[LetteredFeature]) -> FeatureLinesResult:
    """A length on a line of its own behind one of several outsides may be that one's or the whole: it is asked."""
    part = [*there, *map(lettered, found.features)]
    outsides = [one for one in part if one.feature.kind == "outside_diameter"]
    if len(outsides) < 2 or any(one.feature.of_kind.is_whole for one in part):
        return found
    own_line = {one.letter: one for one in found.features}
    asked: dict[int, LineRefused] = {}
    for outside, length in lengths_behind(part, "outside_diameter"):
        read, before = own_line.get(length.letter if length else ""), own_line.get(outside.letter)
        if read is None or (before is not None and before.line == read.line) or read.kind != "length":
            continue
        size = read.text
        asked[read.line] = LineRefused(
            line=read.line,
            text=f"length {size}",
            sentence=(
                f"Is {size} the length of {outside.letter} only, or of the whole part? Write x {size} behind "
                f"{outside.letter}, or overall {size}."
            ),
        )
    kept = [(one, step) for one, step in zip(found.features, found.working, strict=True) if one.line not in asked]
    return found.model_copy(
        update={
            "features": [one for one, _ in kept],
            "working": [step for _, step in kept],
            "not_understood": sorted([*found.not_understood, *asked.values()], key=lambda one: one.line),
        }
    )


def _with_right_references(
    features: list[FeatureRead], working: list[Step], lines: Mapping[int, str]
) -> tuple[list[FeatureRead], list[Step], list[LineRefused]]:
    """The features whose letters name what can be meant, and the lines of those that do not: letters stay as they were
    counted.
    """
    by_letter = {read.letter: lettered(read) for read in features}
    why = {read.line: said for read in features if (said := wrong_reference(by_letter[read.letter], by_letter))}
    kept = [(read, step) for read, step in zip(features, working, strict=True) if read.line not in why]
    refused = [LineRefused(line=line, text=lines[line][:160], sentence=said) for line, said in why.items()]
    return [read for read, _ in kept], [step for _, step in kept], refused


def read_as(kind: KindName, text: str, unit: Unit, rule: GeneralTolerance | None = None) -> tuple[FeatureRead, Step]:
    """A size with limits of a feature whose kind is known, whether the line names it or not. Raises InputError.

    Source: common practice, no source (shorthand).

    >>> read_as("groove_width", "2.2 +0.1/0", "mm")[0].upper.mm
    Decimal('2.3')
    """
    text, *more = lines_meant(text)
    text, duty = duty_in_line(text)
    text, along = place_of_line(text, unit)
    said = features_in_line(text, unit, is_on=True) if begins_a_feature(text) else [WrittenFeature(kind, text)]
    if more or [one.kind for one in said] != [kind]:
        raise UnreadableLength(
            f"“{text[:60]}” says something else than {feature_kind(kind).a_title}.",
            "Another feature is a line of its own.",
            value=text,
        )
    required = _required(said[0], unit, HeldTo(class_of_fits, rule))
    read = _feature(
        replace(said[0], along=said[0].along or along.words),
        required,
        letter_of(0),
        1,
        _Besides(duty=duty, along=along),
    )
    return read, _step(read, required)


@dataclass(frozen=True, slots=True)
class _Besides:
    """What a line says beside a size: what it goes with, what it is there for, and where it lies along the axis."""

    partner: PartnerReference | None = None
    duty: FeatureDuty = NO_DUTY
    along: AxialPlace = NOT_SAID


def lettered(read: FeatureRead) -> LetteredFeature:
    """A feature as it was read, for the checks of the whole part. Source: common practice, no source; sizes in mm.

    >>> read = feature_lines(FeatureLinesInput(text="od 25 h7", unit="mm")).features[0]
    >>> lettered(read).feature.upper_mm
    Decimal('25.000')
    """
    lower, upper, nominal = (length.mm if length else None for length in (read.lower, read.upper, read.nominal))
    return LetteredFeature(
        read.letter,
        Feature(read.kind, lower, upper),
        read.through,
        nominal,
        read.true_to,
        place_said(read.along),
        read.text,
    )


def _check_partner(one: WrittenFeature, partner: PartnerReference | None) -> None:
    """A shaft goes into a bore, a bore onto a shaft. Raises UnreadableLength."""
    member = member_of(one.kind)
    if partner is not None and (member is None or partner.kind != other_member(member)):
        raise UnreadableLength(
            f"{feature_kind(one.kind).a_title.capitalize()} does not go with a {partner.kind}.",
            "An outside goes with a bore, a bore with a shaft.",
        )


def letter_of(index: int) -> str:
    """The letter of the feature at an index from 0: A … Z, then AA, AB …

    Source: common practice, no source.

    >>> letter_of(0), letter_of(25), letter_of(26), letter_of(701), letter_of(702)
    ('A', 'Z', 'AA', 'ZZ', 'AAA')
    """
    letters = ""
    index += 1
    while index:
        index, rest = divmod(index - 1, 26)
        letters = chr(ord("A") + rest) + letters
    return letters


def _feature(one: WrittenFeature, required: Requirement, letter: str, line: int, besides: _Besides) -> FeatureRead:
    partner, duty, along = besides.partner, besides.duty, one.along
    kind = feature_kind(one.kind)
    ends = [end for end in (required.lower, required.upper) if end]
    decimals = max([(required.nominal and required.nominal.decimals) or 0, *map(decimals_needed, ends)])
    lower, upper = (replace(end, decimals=decimals) if end else None for end in (required.lower, required.upper))
    words = [f"{word} {_as_written(end)}" for word, end in (("from", lower), ("to", upper)) if end]
    said = (
        required.said
        or " ".join(words)
        or (f"Ra {required.roughness_ra_um} µm at most" if required.roughness_ra_um else str(required.nominal))
    )
    said = kind.sized(one.size, said)
    angle = f" at {required.angle_deg}°" if required.angle_deg else ""
    where = f", {along}" if along else ""
    through = ", through" if one.through else ""
    there_for = f"; {duty.words}" if duty.name else ""
    mate = f", goes with the {partner.kind} of job {partner.job}" if partner else ""
    return FeatureRead(
        letter=letter,
        kind=kind.name,
        title=kind.title,
        material_side=kind.material_side,
        nominal=required.nominal,
        lower=lower,
        upper=upper,
        limits_from=required.limits_from,
        angle_deg=required.angle_deg,
        roughness_ra_um=required.roughness_ra_um,
        along=along,
        through=one.through,
        line=line,
        text=one.size,
        duty=duty.name,
        true_to=duty.true_to,
        **(
            {"goes_with": partner.kind, "goes_with_job": partner.job, "goes_with_letter": partner.letter}
            if partner
            else {}
        ),
        sentence=(f"{letter}: {kind.title} {said}{angle}{through}{where}{mate}; {_by_what(required)}{there_for}."),
    )


def _by_what(required: Requirement) -> str:
    """Where its limits come from, with the figure or the class: what a class was taken on stands there too."""
    words = _limits_by(required.limits_from)
    if required.limits_from == "general":
        return f"{words}, {required.source}"
    return f"{words} on {required.class_on}" if required.class_on else words


def _limits_by(limits_from: LimitsFrom) -> str:
    """Where limits come from; without any it is there for reference."""
    words = LIMITS_FROM_WORDS[limits_from]
    return words if limits_from == "reference" else f"limits by {words}"


def _step(feature: FeatureRead, required: Requirement) -> Step:
    ends = [both(end.mm, end.unit) for end in (required.lower, required.upper) if end]
    return Step(
        name=f"{feature.letter}, {feature.title}",
        formula=_limits_by(feature.limits_from),
        values=feature.text,
        result=required.said or " to ".join(ends) or "no limits",
        source=required.source,
    )
