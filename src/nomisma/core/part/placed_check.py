"""Features against each other where somebody said where they lie along the axis: beyond the part, over one another,
without a wall.
"""

from collections.abc import Sequence
from itertools import combinations

from nomisma.core.part.along import Extent
from nomisma.core.part.lettered import Contradiction, LetteredFeature, length_behind, whole_length
from nomisma.core.part.section import Section, section_of

_Lies = dict[str, Extent]


def placed_contradictions(features: Sequence[LetteredFeature]) -> list[Contradiction]:
    """What cannot be of the places (mm from the left face) that the lines say; nothing is claimed of a place that is
    only assumed.

    A place counted from a feature the part has not; one beyond the part; two outsides at the same place; a bore that
    takes the whole outside away where both lie; a groove's floor under the bore below it; an edge longer than the step
    it is on. Source: geometry of a round part.

    >>> from decimal import Decimal
    >>> from nomisma.core.part.along import place_said
    >>> from nomisma.core.part.feature import Feature
    >>> steps = [LetteredFeature(letter, Feature("outside_diameter", Decimal(20), Decimal(21)), along=place_said(words))
    ...          for letter, words in (("A", "from 0 mm to 30 mm"), ("B", "from 25 mm to 40 mm"))]
    >>> placed_contradictions(steps)[0].sentence
    'The outside diameter A and the outside diameter B lie over one another along the axis.'
    """
    section = section_of(features)
    lies: _Lies = {letter: (begins, ends) for letter, begins, ends in section.lies} if section else {}
    return [
        *_counted_from_nothing(features),
        *_beyond(features, lies),
        *_no_room(features, section),
        *_rings_without_walls(features, section),
        *_over_one_another(features, lies),
        *_no_metal(features, lies),
        *_longer_than_its_step(features),
    ]


def _of(features: Sequence[LetteredFeature], kind: str) -> list[LetteredFeature]:
    return [one for one in features if one.feature.of_kind.name == kind]


def _counted_from_nothing(features: Sequence[LetteredFeature]) -> list[Contradiction]:
    letters = {one.letter for one in features}
    return [
        Contradiction((one.letter,), f"The {one.name} lies {one.along.words}, and {one.along.letter} is {what}.")
        for one in features
        if one.along.letter and (what := _wrong_letter(one, letters))
    ]


def _wrong_letter(one: LetteredFeature, letters: set[str]) -> str:
    if one.along.letter == one.letter:
        return "itself"
    return "" if one.along.letter in letters else "no feature of the part"


def _beyond(features: Sequence[LetteredFeature], lies: _Lies) -> list[Contradiction]:
    whole = whole_length(features)
    longest_mm = whole.most_mm if whole else None
    found = []
    for one in features:
        if not one.along.is_said or one.letter not in lies:
            continue
        begins, ends = lies[one.letter]
        if begins < 0 or (longest_mm is not None and ends > longest_mm):
            where = "the right face" if begins >= 0 or one.along.face == "left" else "the left face"
            letters = (one.letter, *([whole.letter] if whole else []))
            found.append(
                Contradiction(
                    letters, f"The {one.name} lies {one.along.words}: that reaches beyond {where} of the part."
                )
            )
    return found


def _no_room(features: Sequence[LetteredFeature], section: Section | None) -> list[Contradiction]:
    """Grooves in a row that are wider together than the part is long, wherever they stand."""
    found = []
    for one in features:
        row = [groove for groove in section.grooves if one.letter in groove.letters] if section else []
        if len(row) > 1 and section and row[-1].at_mm + row[-1].width_mm - row[0].at_mm > section.length_mm:
            found.append(
                Contradiction((one.letter,), f"The {one.name} takes more room along the axis than the part has.")
            )
    return found


def _rings_without_walls(features: Sequence[LetteredFeature], section: Section | None) -> list[Contradiction]:
    """A groove in a face whose walls are not there: it is as wide as the face, or a bore takes its inner one away."""
    by_letter = {one.letter: one for one in features}
    found = []
    for ring in section.face_grooves if section else ():
        groove, inner = (by_letter[letter] for letter in ring.letters[:2])
        middle_mm = (ring.from_mm + ring.to_mm) / 2
        around = next((step for step in section.outside if step.holds(middle_mm)), None) if section else None
        bores = (
            [one for one in section.bores if one.from_mm < ring.to_mm and ring.from_mm < one.to_mm] if section else []
        )
        if ring.inner_mm >= ring.outer_mm:
            found.append(
                Contradiction((groove.letter, inner.letter), f"The {groove.name} has no width between its walls.")
            )
        if around is not None and around.diameter_mm <= ring.outer_mm:
            letters = (groove.letter, around.letter)
            found.append(Contradiction(letters, f"The {groove.name} is as wide as its face: no wall is left outside."))
        for bore in (one for one in bores if one.diameter_mm >= ring.inner_mm):
            letters = (inner.letter, bore.letter)
            found.append(
                Contradiction(letters, f"The bore {bore.letter} takes the inner wall of the {groove.name} away.")
            )
    return found


def _over_one_another(features: Sequence[LetteredFeature], lies: _Lies) -> list[Contradiction]:
    placed = [one for one in _of(features, "outside_diameter") if one.along.is_said and one.letter in lies]
    return [
        Contradiction(
            (one.letter, other.letter), f"The {one.name} and the {other.name} lie over one another along the axis."
        )
        for one, other in combinations(placed, 2)
        if _share(lies[one.letter], lies[other.letter])
    ]


def _share(one: Extent, other: Extent) -> bool:
    return max(one[0], other[0]) < min(one[1], other[1])


def _no_metal(features: Sequence[LetteredFeature], lies: _Lies) -> list[Contradiction]:
    """A bore and what is around it at the same place, both said."""
    found = []
    around = [*_of(features, "outside_diameter"), *_of(features, "groove_floor_diameter")]
    for bore in _of(features, "bore"):
        for outer in around:
            said = bore.along.is_said and (outer.along.is_said or outer.feature.kind == "groove_floor_diameter")
            both = said and bore.letter in lies and outer.letter in lies
            if not both or not _share(lies[bore.letter], lies[outer.letter]):
                continue
            if bore.least_mm is not None and outer.most_mm is not None and bore.least_mm >= outer.most_mm:
                sentence = f"Where the {bore.name} lies, the {outer.name} is never larger: there would be no wall."
                found.append(Contradiction((bore.letter, outer.letter), sentence))
    return found


def _longer_than_its_step(features: Sequence[LetteredFeature]) -> list[Contradiction]:
    """An edge that is said to be on a feature, against the length of that one."""
    found = []
    for edge in [*_of(features, "chamfer"), *_of(features, "corner_radius")]:
        index = next((index for index, one in enumerate(features) if one.letter == edge.along.on), None)
        if index is None or edge.least_mm is None:
            continue
        under, behind = features[index], length_behind(features, index)
        long_mm = behind.most_mm if behind else under.said_long_mm
        if long_mm is not None and edge.least_mm > long_mm:
            found.append(
                Contradiction((edge.letter, under.letter), f"The {edge.name} is longer than the {under.name} it is on.")
            )
    return found
