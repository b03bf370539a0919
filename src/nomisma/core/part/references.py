"""What one feature says of another by its letter: whether that one can be what is meant."""

from collections.abc import Mapping

from nomisma.core.part.lettered import LetteredFeature


def wrong_reference(one: LetteredFeature, others: Mapping[str, LetteredFeature]) -> str:
    """Why a letter that a feature names cannot be what is meant; empty where it can, or is not there.

    True to is said of what turns round an axis; a distance is counted from a face, or from the end of a diameter.
    Source: geometry of a turned part; without unit.

    >>> from nomisma.core.part.along import place_said
    >>> from nomisma.core.part.feature import Feature
    >>> step = LetteredFeature("A", Feature("outside_diameter"))
    >>> groove = LetteredFeature("B", Feature("position"), along=place_said("from A"))
    >>> wrong_reference(groove, {"A": step})[:70]
    'A is an outside diameter, and a distance is counted from a face: say f'
    """
    axis = others.get(one.true_to)
    if axis is not None and not axis.feature.of_kind.is_diameter and not one.feature.of_kind.may_be_to_a_face:
        return f"{axis.letter} is {axis.feature.of_kind.a_title}: true to is said of a diameter or a bore."
    place = one.along
    face = others.get(place.letter) if place.letter and not place.on and not place.end else None
    if face is not None and face.feature.of_kind.is_diameter:
        return (
            f"{face.letter} is {face.feature.of_kind.a_title}, and a distance is counted from a face: "
            f"say from the left, from the right, or from the end of {face.letter}."
        )
    return ""
