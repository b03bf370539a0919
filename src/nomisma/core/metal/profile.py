"""A diameter along the axis, exact: the outside of a workpiece, or its hole."""

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from decimal import Decimal
from itertools import pairwise

Take = Callable[[Decimal, Decimal], Decimal]


@dataclass(frozen=True, slots=True)
class Stretch:
    """A straight stretch of a profile, mm: from where to where along the axis, and the diameter at either end."""

    from_mm: Decimal
    to_mm: Decimal
    at_from_mm: Decimal
    at_to_mm: Decimal

    @property
    def is_cylinder(self) -> bool:
        """Whether it is as wide at one end as at the other."""
        return self.at_from_mm == self.at_to_mm

    def at(self, along_mm: Decimal) -> Decimal:
        """The diameter at a place of it, mm."""
        if self.is_cylinder:
            return self.at_from_mm
        share = (along_mm - self.from_mm) / (self.to_mm - self.from_mm)
        return self.at_from_mm + share * (self.at_to_mm - self.at_from_mm)

    def mirrored(self, about_mm: Decimal) -> "Stretch":
        """Seen from the other end of something so long, mm."""
        return Stretch(about_mm - self.to_mm, about_mm - self.from_mm, self.at_to_mm, self.at_from_mm)

    def between(self, from_mm: Decimal, to_mm: Decimal) -> "Stretch | None":
        """What of it lies between two places; None where nothing does."""
        begins, ends = max(from_mm, self.from_mm), min(to_mm, self.to_mm)
        return Stretch(begins, ends, self.at(begins), self.at(ends)) if begins < ends else None


@dataclass(frozen=True, slots=True)
class Profile:
    """Stretches one behind the other along the axis, without a gap."""

    stretches: tuple[Stretch, ...]

    def within(self, from_mm: Decimal, to_mm: Decimal) -> Iterator[Stretch]:
        """Its stretches between two places, cut off there."""
        for one in self.stretches:
            if one.to_mm > from_mm and one.from_mm < to_mm and (part := one.between(from_mm, to_mm)):
                yield part

    def largest_mm(self, from_mm: Decimal, to_mm: Decimal) -> Decimal:
        """The largest diameter between two places, mm; 0 where it does not reach."""
        return max((max(one.at_from_mm, one.at_to_mm) for one in self.within(from_mm, to_mm)), default=Decimal(0))

    def smallest_mm(self, from_mm: Decimal, to_mm: Decimal) -> Decimal:
        """The smallest diameter between two places, mm; 0 where it does not reach."""
        return min((min(one.at_from_mm, one.at_to_mm) for one in self.within(from_mm, to_mm)), default=Decimal(0))

    def turned(self, cut: Stretch) -> "Profile":
        """What is left outside after a cut: nowhere larger than that."""
        return self._with(cut, min)

    def opened(self, cut: Stretch) -> "Profile":
        """What a hole is after a cut: nowhere smaller than that."""
        return self._with(cut, max)

    def _with(self, cut: Stretch, take: Take) -> "Profile":
        made: list[Stretch] = []
        for one in self.stretches:
            if one.to_mm <= cut.from_mm or one.from_mm >= cut.to_mm:
                made.append(one)
                continue
            for begins, ends in _parts(one, cut):
                own = one.between(begins, ends)
                if own is not None:
                    other = cut.between(begins, ends)
                    made += [own] if other is None else list(_taken(own, other, take))
        return Profile(_joined(made))

    def shortened(self, from_mm: Decimal, to_mm: Decimal) -> "Profile":
        """Between two places alone."""
        return Profile(tuple(self.within(from_mm, to_mm)))

    def mirrored(self, about_mm: Decimal) -> "Profile":
        """Seen from the other end of something so long, mm."""
        return Profile(tuple(one.mirrored(about_mm) for one in reversed(self.stretches)))


def cylinder(from_mm: Decimal, to_mm: Decimal, diameter_mm: Decimal) -> Stretch:
    """A stretch that is as wide everywhere, mm. Source: geometry.

    >>> cylinder(Decimal(0), Decimal(10), Decimal(20)).at(Decimal(5))
    Decimal('20')
    """
    return Stretch(from_mm, to_mm, diameter_mm, diameter_mm)


def profile_of(stretches: Iterable[Stretch]) -> Profile:
    """A profile of stretches that stand one behind the other, mm. Source: geometry.

    >>> bar = profile_of([cylinder(Decimal(0), Decimal(30), Decimal(20))])
    >>> turned = bar.turned(cylinder(Decimal(10), Decimal(30), Decimal(16)))
    >>> [(str(one.to_mm), str(one.at_to_mm)) for one in turned.stretches]
    [('10', '20'), ('30', '16')]
    """
    return Profile(_joined(list(stretches)))


def _parts(one: Stretch, cut: Stretch) -> Iterator[tuple[Decimal, Decimal]]:
    places = sorted({one.from_mm, one.to_mm, *(at for at in (cut.from_mm, cut.to_mm) if one.from_mm < at < one.to_mm)})
    yield from pairwise(places)


def _taken(own: Stretch, other: Stretch, take: Take) -> Iterator[Stretch]:
    """The smaller (or larger) of two over one stretch; they may cross once."""
    first, last = own.at_from_mm - other.at_from_mm, own.at_to_mm - other.at_to_mm
    places = [own.from_mm, own.to_mm]
    if first * last < 0:
        places.insert(1, own.from_mm + (own.to_mm - own.from_mm) * first / (first - last))
    for begins, ends in pairwise(places):
        yield Stretch(begins, ends, take(own.at(begins), other.at(begins)), take(own.at(ends), other.at(ends)))


def _joined(stretches: list[Stretch]) -> tuple[Stretch, ...]:
    """Cylinders of one diameter side by side as one."""
    made: list[Stretch] = []
    for one in stretches:
        last = made[-1] if made else None
        if last is not None and last.is_cylinder and one.is_cylinder and last.at_to_mm == one.at_from_mm:
            made[-1] = Stretch(last.from_mm, one.to_mm, last.at_from_mm, one.at_to_mm)
        else:
            made.append(one)
    return tuple(made)
