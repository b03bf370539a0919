"""A thread against the diameter it is said to lie on: whether that can have its crests and metal for its flanks."""

from collections.abc import Iterator, Sequence

from nomisma.core.part.lettered import Contradiction, LetteredFeature
from nomisma.core.threads.called_out import thread_called_out
from nomisma.core.threads.limits import basic_minor_diameter_mm, basic_pitch_diameter_mm

_CRESTS = {"outside": "outside_diameter", "bore": "bore"}


def thread_contradictions(features: Sequence[LetteredFeature]) -> list[Contradiction]:
    """Threads on a diameter (mm) that is never as they need it; held against its kindest limits.

    An outside thread lies between its pitch diameter and its nominal one, an inside thread between its minor diameter
    and its pitch diameter: beyond that there are no crests, or no flanks. Nothing is claimed of a free thread. Source:
    ISO 68-1 (recalled).

    >>> from decimal import Decimal
    >>> from nomisma.core.part.along import AxialPlace
    >>> from nomisma.core.part.feature import Feature
    >>> bolt = [LetteredFeature("A", Feature("outside_diameter", Decimal("29.8"), Decimal("30.2"))),
    ...         LetteredFeature("B", Feature("thread"), along=AxialPlace(on="A"), written="M20x1.5 6g")]
    >>> thread_contradictions(bolt)[0].sentence
    'The outside diameter A is never small enough for M20x1.5 6g: at most 20.000 mm.'
    """
    return list(_wrong({one.letter: one for one in features}, features))


def _wrong(by_letter: dict[str, LetteredFeature], features: Sequence[LetteredFeature]) -> Iterator[Contradiction]:
    for one in features:
        kind, host = one.feature.of_kind, by_letter.get(one.along.on)
        if kind.cut_as != "thread" or host is None or host.feature.of_kind.name != _CRESTS[kind.cut_on]:
            continue
        said = thread_called_out(one.written)
        if said.is_free:
            continue
        major_mm, pitch_mm = said.thread.diameter_mm, said.thread.pitch_mm
        flanks_mm = basic_pitch_diameter_mm(major_mm, pitch_mm)
        is_outside = kind.cut_on == "outside"
        least_mm = flanks_mm if is_outside else basic_minor_diameter_mm(major_mm, pitch_mm)
        most_mm = major_mm if is_outside else flanks_mm
        letters = (host.letter, one.letter)
        if host.least_mm is not None and host.least_mm > most_mm:
            end = f"at most {most_mm:.3f} mm"
            yield Contradiction(letters, f"The {host.name} is never small enough for {one.written}: {end}.")
        if host.most_mm is not None and host.most_mm < least_mm:
            end = f"at least {least_mm:.3f} mm"
            yield Contradiction(letters, f"The {host.name} is never large enough for {one.written}: {end}.")
