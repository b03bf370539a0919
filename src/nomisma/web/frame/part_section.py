"""The section of a job's part with the marks of its features, for every page that shows it."""

import re
from collections.abc import Collection, Sequence

from markupsafe import Markup

from nomisma.core.part.axial_lengths import axial_lengths
from nomisma.core.part.lettered import LetteredFeature
from nomisma.core.part.section import section_of
from nomisma.core.planning.feature_lines import FeatureLinesResult, lettered
from nomisma.core.quantity.display import show_between, show_exact
from nomisma.core.quantity.length import UNITS, Unit
from nomisma.jobs.standing.state import JobState
from nomisma.web.drawings.dimensioned import NARROW, WIDE, Dimension, dimensioned
from nomisma.web.drawings.section import LetterMark, Span, section_picture
from nomisma.web.frame.job_in_hand import href_at


def drawing_of_lines(
    found: FeatureLinesResult, unit: Unit, there: Sequence[LetteredFeature] = ()
) -> tuple[Markup, list[str]]:
    """The part that lines say with its sizes, while they are typed, and the features that have no place in it.

    `there`: what the part has already.
    """
    known = [*there, *(lettered(one) for one in found.features)]
    section = section_of(known)
    if section is None:
        return Markup(""), [f"{one.letter}, {one.title}" for one in found.features]
    titles = {one.letter: one.feature.title for one in known}
    dimensions = [_dimension(one, LetterMark(one.letter, None, titles[one.letter], ""), unit) for one in known]
    drawn = dimensioned(section, axial_lengths(known, section), dimensions, (unit,), width=NARROW)
    return drawn.figure, [f"{one.letter}, {one.title}" for one in found.features if one.letter in drawn.unplaced]


def drawing_of_job(state: JobState, *, width: int = WIDE) -> tuple[Markup, list[str]]:
    """The part that is made with its sizes, and the features that have no place in it; a letter leads to its page."""
    return state.once(f"drawing, {width} wide", lambda: _drawing(state, width))


def _drawing(state: JobState, width: int) -> tuple[Markup, list[str]]:
    known = state.lettered
    section = section_of(known)
    if section is None:
        return Markup(""), []
    marks = {one.letter: one for one in _marks(state, "measure")}
    dimensions = [_dimension(one, marks[one.letter], state.unit) for one in known if one.letter in marks]
    drawn = dimensioned(section, axial_lengths(known, section), dimensions, width=width)
    return drawn.figure, [f"{one.letter}, {one.called}" for one in state.made if one.letter in drawn.unplaced]


def _dimension(one: LetteredFeature, mark: LetterMark, unit: Unit) -> Dimension:
    """What a drawing says of a feature: as it is written in its own unit, by its limits in the other."""
    own: Unit = "mm" if _IN_MM.search(one.written) else "in" if _IN_INCH.search(one.written) else unit
    kind = one.feature.of_kind
    said = {
        shown: re.sub(rf"\s*\b{shown}\b", "", kind.dimension(one.written if shown == own else _by_limits(one, shown)))
        for shown in UNITS
    }
    return Dimension(mark, said["in"], said["mm"])


_IN_MM, _IN_INCH = re.compile(r"mm\b"), re.compile(r"\bin\b|\"")


def _by_limits(one: LetteredFeature, unit: Unit) -> str:
    """A size by its limits in a unit, else as it is written: what has no size has none in another unit."""
    lower, upper = one.feature.lower_mm, one.feature.upper_mm
    if lower is not None and upper is not None:
        return show_between(lower, upper, unit)
    if upper is not None:
        return f"{show_exact(upper, unit)} max"
    if lower is not None:
        return f"{show_exact(lower, unit)} min"
    return f"({show_exact(one.nominal_mm, unit)})" if one.nominal_mm is not None else one.written


def section_of_job(
    state: JobState, stage: str = "make", spans: tuple[Span, ...] = (), *, stressed: Collection[str] | None = None
) -> Markup:
    """The part that is made in half section, lengths under it; empty where nothing of it has a place in one. A letter
    leads to its stage.

    `stressed`: the letters that are stressed, in place of the one in hand.
    """
    if spans or stressed is not None:
        return _section(state, stage, spans, stressed)
    return state.once(f"section, {stage}", lambda: _section(state, stage, (), None))


def _section(state: JobState, stage: str, spans: tuple[Span, ...], stressed: Collection[str] | None) -> Markup:
    found = section_of(state.lettered)
    if found is None:
        return Markup("")
    return section_picture(found, _marks(state, stage, stressed=stressed), spans)


def _marks(state: JobState, stage: str, *, stressed: Collection[str] | None = None) -> list[LetterMark]:
    """What stands at the letter of each feature that is made."""
    return [
        LetterMark(
            one.letter,
            one.verdict.state if one.verdict else None,
            f"{one.feature.title}, {one.words}",
            href_at(one, stage),
            in_hand=(
                one.letter in stressed if stressed is not None else one.letter == state.letter and len(state.made) > 1
            ),
        )
        for one in state.made
    ]
