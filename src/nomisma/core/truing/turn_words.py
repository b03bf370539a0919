"""Parts of a turn and directions as the hand and the eye know them."""

from nomisma.core.truing.harmonics import Round, amplitude_by_chance

SHAPE_WORDS = {2: "oval", 3: "three-lobed", 4: "four-lobed", 5: "five-lobed"}
_PARTS = {
    1: "one turn", 2: "half a turn", 3: "a third of a turn", 4: "a quarter turn", 6: "a sixth of a turn",
    8: "an eighth of a turn",
    12: "a twelfth of a turn", 16: "a sixteenth of a turn", 20: "a twentieth of a turn",
    32: "a thirty-second of a turn",
}  # fmt: skip


def turns_in_words(turns: float) -> str:
    """A part of a turn as the hand knows it. Source: common practice, no source.

    >>> turns_in_words(0.048), turns_in_words(0.26), turns_in_words(1.5)
    ('a twentieth of a turn', 'a quarter turn', '1.5 turns')
    """
    if turns > 1.2:
        return f"{turns:.1f} turns"
    if turns < 1 / 40:
        return "a touch of the key"
    part = min(_PARTS, key=lambda n: abs(1 / n - turns) / turns)
    return _PARTS[part]


def towards(at_deg: float, jaws: int = 4) -> str:
    """A direction by its jaw (of so many `jaws`, evenly spaced), or by the two it lies between.

    Source: none, wording.

    >>> towards(4), towards(95), towards(315), towards(180, jaws=3)
    ('jaw 1', 'jaw 2', 'between jaws 4 and 1', 'between jaws 2 and 3')
    """
    step = 360 / jaws
    nearest = round(at_deg / step) % jaws
    if abs((at_deg - step * nearest + 180) % 360 - 180) <= step / 4:
        return f"jaw {nearest + 1}"
    first = int(at_deg // step) % jaws
    return f"between jaws {first + 1} and {(first + 1) % jaws + 1}"


def shape_words(found: Round, noise_mm: float) -> str:
    """The largest shape that stands clear of the needle's noise (one standard deviation, mm); empty where none does.

    Source: core.truing.harmonics.amplitude_by_chance, at 95 % over all the shapes looked for.

    >>> from math import cos, radians
    >>> from nomisma.core.truing.harmonics import taken_apart
    >>> angles = [index * 45.0 for index in range(8)]
    >>> shape_words(taken_apart(angles, [0.05 * cos(radians(2 * angle)) for angle in angles]), 0.001)
    'oval'
    """
    count = len(found.left)
    seen = [
        shape
        for shape in found.shapes
        if shape.amplitude > amplitude_by_chance(shape.number, of=len(found.shapes), readings=count, noise=noise_mm)
    ]
    largest = max(seen, key=lambda shape: shape.amplitude, default=None)
    return SHAPE_WORDS.get(largest.number, "") if largest else ""
