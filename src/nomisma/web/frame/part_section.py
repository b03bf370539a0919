"""The section of a job's part with the marks of its features, for every page that shows it."""

from collections.abc import Collection

from markupsafe import Markup

from nomisma.core.part.section import section_of
from nomisma.core.planning.feature_lines import FeatureLinesResult, FeatureRead, lettered
from nomisma.jobs.standing.stages import stage_at
from nomisma.jobs.standing.state import JobState
from nomisma.web.drawings.section import LetterMark, Span, section_picture
from nomisma.web.frame.job_in_hand import href


def section_of_lines(found: FeatureLinesResult) -> tuple[Markup, list[FeatureRead]]:
    """The part that lines say, while they are typed, and the features that have no place in the drawing."""
    section = section_of([lettered(one) for one in found.features])
    if section is None:
        return Markup(""), list(found.features)
    unplaced = [one for one in found.features if not section.places(one.letter)]
    marks = [LetterMark(one.letter, None, one.title, "") for one in found.features if section.places(one.letter)]
    return section_picture(section, marks), unplaced


def section_of_job(
    state: JobState, stage: str = "measure", spans: tuple[Span, ...] = (), *, stressed: Collection[str] | None = None
) -> Markup:
    """The part that is made in half section, lengths under it; empty where nothing of it has a place in one. A letter
    leads to its stage.

    `stressed`: the letters that are stressed, in place of the one in hand.
    """
    found = section_of(state.lettered)
    if found is None:
        return Markup("")
    marks = [
        LetterMark(
            one.letter,
            one.verdict.state if one.verdict else None,
            f"{one.feature.title}, {one.words}",
            href(one, stage_at(one, stage)),
            in_hand=(
                one.letter in stressed if stressed is not None else one.letter == state.letter and len(state.made) > 1
            ),
        )
        for one in state.made
    ]
    return section_picture(found, marks, spans)
