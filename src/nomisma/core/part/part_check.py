"""The part against itself: sizes that cannot all be true of one piece of metal, each with its sentence."""

from collections.abc import Iterable, Sequence
from decimal import Decimal

from nomisma.core.part.lettered import Contradiction, LetteredFeature, lengths_behind, whole_length
from nomisma.core.part.placed_check import placed_contradictions
from nomisma.core.part.references import wrong_reference
from nomisma.core.part.thread_check import thread_contradictions


def part_contradictions(features: Iterable[LetteredFeature]) -> list[Contradiction]:
    """What cannot be, whatever the part looks like: only what follows from the sizes alone (mm) is said.

    A bore as large as the largest outside, or a through bore as large as any; one smaller than a bore that goes
    through, or one as large as the eccentric it runs on; a groove's floor outside the part, or under its bore; depths,
    heights, widths and positions beyond the greatest length; steps that do not add up to the whole; a wall that outside
    and bore do not leave; an edge larger than the wall it is on; a thread on a diameter that cannot have it; true to
    what is not there; and what of its places along the axis cannot be. Each pair is held against its kindest limits, so
    that what is said is certain. Source: geometry of a round part.

    >>> from nomisma.core.part.feature import Feature
    >>> tube = [LetteredFeature("A", Feature("outside_diameter", Decimal(20), Decimal("20.1"))),
    ...         LetteredFeature("B", Feature("bore", Decimal(22), Decimal("22.1")))]
    >>> part_contradictions(tube)[0].sentence
    'The bore B is never smaller than the outside diameter A: there would be no wall.'
    """
    found = list(features)
    outsides = _of(found, "outside_diameter")
    bores = _of(found, "bore")
    lengths = [one for one in found if one.feature.of_kind.may_be_whole]
    return [
        *_walls(outsides, bores),
        *_swallowed(bores),
        *_out_of_the_eccentric(found, bores),
        *_grooves(found, outsides, bores),
        *_along(found),
        *_steps(found, lengths),
        *_wall_sizes(found, outsides, bores),
        *_edges(found, outsides, bores),
        *thread_contradictions(found),
        *_true_to(found),
        *_wrong_references(found),
        *placed_contradictions(found),
    ]


def _of(features: Sequence[LetteredFeature], *kinds: str) -> list[LetteredFeature]:
    return [one for one in features if one.feature.of_kind.name in kinds]


def _largest(features: Sequence[LetteredFeature]) -> LetteredFeature | None:
    """The one that may be largest; None where the largest of one of them is not said."""
    if not features or any(one.most_mm is None for one in features):
        return None
    return max(features, key=lambda one: one.most_mm or Decimal(0))


def _walls(outsides: list[LetteredFeature], bores: list[LetteredFeature]) -> list[Contradiction]:
    largest = _largest(outsides)
    found = []
    for bore in bores:
        # A blind bore may sit in the largest step; one that goes through passes every step.
        passes = outsides if bore.through else [largest] if largest else []
        for outside in passes:
            if bore.least_mm is not None and outside.most_mm is not None and bore.least_mm >= outside.most_mm:
                said = f"The {bore.name} is never smaller than the {outside.name}: there would be no wall."
                found.append(Contradiction((bore.letter, outside.letter), said))
                break
    return found


def _out_of_the_eccentric(features: list[LetteredFeature], bores: list[LetteredFeature]) -> list[Contradiction]:
    """A bore on the axis of an eccentric that leaves nothing of it."""
    eccentrics = {one.letter: one for one in _of(features, "eccentric_diameter")}
    found = []
    for bore in bores:
        host = eccentrics.get(bore.along.on)
        if host is None or bore.least_mm is None or host.most_mm is None or bore.least_mm < host.most_mm:
            continue
        said = f"The {bore.name} is never smaller than the {host.name} it runs on: there would be no wall."
        found.append(Contradiction((bore.letter, host.letter), said))
    return found


def _swallowed(bores: list[LetteredFeature]) -> list[Contradiction]:
    """A bore of which nothing is left beside a larger one that goes through."""
    found = []
    for bore in bores:
        for larger in bores:
            if bore is larger or not larger.through or bore.most_mm is None or larger.least_mm is None:
                continue
            if bore.most_mm < larger.least_mm:
                said = (
                    f"The {bore.name} is always smaller than the {larger.name}, which goes through: nothing of it is"
                    " left."
                )
                found.append(Contradiction((bore.letter, larger.letter), said))
                break
    return found


def _grooves(
    features: list[LetteredFeature], outsides: list[LetteredFeature], bores: list[LetteredFeature]
) -> list[Contradiction]:
    largest, found = _largest(outsides), []
    for floor in _of(features, "groove_floor_diameter"):
        if largest and floor.least_mm is not None and largest.most_mm is not None and floor.least_mm >= largest.most_mm:
            said = f"The {floor.name} is never under the {largest.name}: that is no groove."
            found.append(Contradiction((floor.letter, largest.letter), said))
        for bore in bores:
            if (
                bore.through
                and floor.most_mm is not None
                and bore.least_mm is not None
                and floor.most_mm <= bore.least_mm
            ):
                said = (
                    f"The {floor.name} is under the {bore.name}, which goes through: the groove would cut the part in"
                    " two."
                )
                found.append(Contradiction((floor.letter, bore.letter), said))
    return found


def _along(features: list[LetteredFeature]) -> list[Contradiction]:
    """What goes along the axis against how long the part is: its whole length, else its steps together."""
    pairs = lengths_behind(features, "outside_diameter")
    whole, steps = whole_length(features), [behind for _, behind in pairs if behind is not None]
    said = [whole] if whole else steps if len(steps) == len(pairs) else []
    most_mm = _sum(one.most_mm for one in said)
    if not said or most_mm is None or (whole is None and any(one.along.is_said for one, _ in pairs)):
        return []
    letters = tuple(one.letter for one in said)
    of_steps = {one.letter for one in steps}  # held against the whole together
    return [
        Contradiction(
            (one.letter, *letters), f"The {one.name} is always more than the part is long ({', '.join(letters)})."
        )
        for one in features
        if one.feature.of_kind.is_along and one.letter not in {*letters, *of_steps} and _over(one.least_mm, most_mm)
    ]


def _steps(features: list[LetteredFeature], lengths: list[LetteredFeature]) -> list[Contradiction]:
    """The lengths of the steps against the whole, where each step has one and nobody said that one lies elsewhere."""
    pairs = lengths_behind(features, "outside_diameter")
    along = [behind for _, behind in pairs if behind is not None]
    whole = [one for one in lengths if one not in along]
    if not along or len(along) < len(pairs) or len(whole) != 1 or any(one.along.is_said for one, _ in pairs):
        return []
    if not _over(_sum(one.least_mm for one in along), whole[0].most_mm):
        return []
    letters = ", ".join(one.letter for one in along)
    said = (
        f"{'The step' if len(along) == 1 else 'Together the steps'} {letters} {'is' if len(along) == 1 else 'are'}"
        f" always more than the whole length {whole[0].letter}: they do not close. Say where a step lies if one stands"
        " inside another (od 20 x 10 at 5)."
    )
    return [Contradiction((*(one.letter for one in along), whole[0].letter), said)]


def _sum(sizes: Iterable[Decimal | None]) -> Decimal | None:
    total = Decimal(0)
    for size in sizes:
        if size is None:
            return None
        total += size
    return total


def _over(one: Decimal | None, other: Decimal | None) -> bool:
    return one is not None and other is not None and one > other


def _wall_sizes(
    features: list[LetteredFeature], outsides: list[LetteredFeature], bores: list[LetteredFeature]
) -> list[Contradiction]:
    """A wall against what the outside and the bore leave of it, where there is one of each."""
    if len(outsides) != 1 or len(bores) != 1:
        return []
    (outside,), (bore,) = outsides, bores
    found = []
    for wall in _of(features, "wall"):
        over = _over(_twice(wall.least_mm, bore.least_mm), outside.most_mm)
        under = _over(outside.least_mm, _twice(wall.most_mm, bore.most_mm))
        if over or under:
            said = (
                f"The {wall.name} is never what the {outside.name} and the {bore.name} leave, "
                f"which is always {'less' if over else 'more'}: they do not close."
            )
            found.append(Contradiction((wall.letter, outside.letter, bore.letter), said))
    return found


def _twice(wall_mm: Decimal | None, bore_mm: Decimal | None) -> Decimal | None:
    """The outside (mm) that a wall on both sides of a bore makes."""
    return None if wall_mm is None or bore_mm is None else 2 * wall_mm + bore_mm


def _edges(
    features: list[LetteredFeature], outsides: list[LetteredFeature], bores: list[LetteredFeature]
) -> list[Contradiction]:
    largest = _largest(outsides)
    if largest is None or largest.most_mm is None:
        return []
    through = [bore.least_mm for bore in bores if bore.through and bore.least_mm is not None]
    wall_mm = (largest.most_mm - max(through, default=Decimal(0))) / 2
    return [
        Contradiction((one.letter,), f"The {one.name} is larger than the thickest wall the part can have.")
        for one in _of(features, "chamfer", "corner_radius")
        if wall_mm > 0 and one.least_mm is not None and one.least_mm > wall_mm
    ]


def _wrong_references(features: Sequence[LetteredFeature]) -> list[Contradiction]:
    by_letter = {one.letter: one for one in features}
    found = ((one, wrong_reference(one, by_letter)) for one in features)
    return [Contradiction((one.letter,), f"{one.letter} names {said}") for one, said in found if said]


def _true_to(features: Sequence[LetteredFeature]) -> list[Contradiction]:
    """What must be true to itself, or to a feature the part has not."""
    letters = {one.letter for one in features}
    words = {True: "itself", False: "no feature of the part"}
    return [
        Contradiction(
            (one.letter,), f"The {one.name} must be true to {one.true_to}, which is {words[one.true_to == one.letter]}."
        )
        for one in features
        if one.true_to and (one.true_to == one.letter or one.true_to not in letters)
    ]
