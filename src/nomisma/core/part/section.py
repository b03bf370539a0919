"""The part in section, laid out from its features: steps of the outside, bores, grooves and edges along the axis."""

from collections.abc import Iterable
from dataclasses import dataclass, field
from decimal import Decimal
from functools import lru_cache

from nomisma.core.part.along import Extent
from nomisma.core.part.feature_kinds import feature_kinds
from nomisma.core.part.lettered import LetteredFeature, lengths_behind, whole_length
from nomisma.core.part.section_shapes import Cylinder, Eccentric, FaceGroove, Groove, ThreadLines


@dataclass(frozen=True, slots=True)
class Section:
    """The whole, from face to face; `chamfer_mm` of its outer edges; `assumed`: what was drawn so because nobody said
    otherwise.

    `lengths_not_said`: the letters of the outsides among it whose length nobody said, so that the whole length is not
    known either. `lies`: each letter whose place along the axis is known, with where it begins and ends, mm from the
    left face, as it was said.
    """

    length_mm: Decimal
    outside: tuple[Cylinder, ...]
    bores: tuple[Cylinder, ...]
    grooves: tuple[Groove, ...]
    chamfer_mm: Decimal
    chamfer_letter: str
    elsewhere: tuple[str, ...]
    assumed: tuple[str, ...]
    lengths_not_said: tuple[str, ...] = ()
    lies: tuple[tuple[str, Decimal, Decimal], ...] = ()
    threads: tuple[ThreadLines, ...] = ()
    face_grooves: tuple[FaceGroove, ...] = ()
    eccentrics: tuple[Eccentric, ...] = ()

    @property
    def diameter_mm(self) -> Decimal:
        """The largest outside, mm."""
        return max(step.diameter_mm for step in self.outside)

    def places(self, letter: str) -> bool:
        """Whether a feature stands in the drawing by its letter."""
        steps = {name for one in (*self.outside, *self.bores) for name in (one.letter, one.along_letter) if name}
        others = {
            *(name for one in self.grooves for name in one.letters),
            *(name for one in self.face_grooves for name in one.letters),
            *(one.letter for one in self.threads),
            self.chamfer_letter,
        }
        return letter in steps | others

    def outside_at(self, along_mm: Decimal) -> Decimal:
        """The outside diameter (mm) of the step that holds a place along the axis; of the last one past its end."""
        return next(
            (step.diameter_mm for step in self.outside if step.holds(along_mm)),
            self.outside[-1].diameter_mm,
        )


def section_of(features: Iterable[LetteredFeature]) -> Section | None:
    """The section that the features describe, as one would sketch it from their lines; None without an outside of a
    known size.

    Where a feature lies is as its line says it (`AxialPlace`). Of the others, outside steps stand one behind the other
    from the left, in the order of their letters; a bore with a depth comes in from the left face, one without goes
    through. A length with no diameter before it is the whole. Sizes are the middles of their limits, and what is
    assumed is listed. Source: common practice, no source.

    >>> from nomisma.core.part.feature import Feature
    >>> plain = [LetteredFeature("A", Feature("outside_diameter", Decimal(20), Decimal(20))),
    ...          LetteredFeature("B", Feature("length", Decimal(30), Decimal(30)))]
    >>> found = section_of(plain); found.length_mm, found.outside[0].to_mm, found.assumed
    (Decimal('30'), Decimal('30'), ())
    """
    return _laid_out(tuple(features))


@lru_cache(maxsize=512)  # the same part is laid out for its drawing, its plan and its checks, on every page of it
def _laid_out(features: tuple[LetteredFeature, ...]) -> Section | None:
    sheet = Sheet([one for one in features if middle_mm(one)])
    for kind in sorted(feature_kinds().values(), key=lambda one: one.lays):
        if kind.lays and (kind.lays == 1 or sheet.outside):
            kind.lay(sheet)
    if not sheet.outside:
        return None
    return Section(
        length_mm=sheet.outside[-1].to_mm,
        outside=tuple(sheet.outside),
        bores=tuple(sheet.bores),
        grooves=tuple(sheet.grooves),
        chamfer_mm=sheet.size_mm(sheet.chamfer) if sheet.chamfer else Decimal(0),
        chamfer_letter=sheet.chamfer.letter if sheet.chamfer else "",
        elsewhere=tuple(one.letter for one in sheet.known if one.letter not in sheet.drawn),
        assumed=tuple(sheet.assumed),
        lengths_not_said=tuple(sheet.lengths_not_said),
        threads=tuple(sheet.threads),
        face_grooves=tuple(sheet.face_grooves),
        eccentrics=tuple(sheet.eccentrics),
        lies=tuple((letter, *extent) for letter, extent in sheet.lies.items()),
    )


@dataclass
class Sheet:
    """What is being laid out: the features of a known size, what of them has its place by now, and what was assumed for
    it.

    The kinds lay themselves (`FeatureKind.lay`), outsides first: bores, grooves and edges lie in them.
    """

    known: list[LetteredFeature]
    outside: list[Cylinder] = field(default_factory=list)
    bores: list[Cylinder] = field(default_factory=list)
    grooves: list[Groove] = field(default_factory=list)
    threads: list[ThreadLines] = field(default_factory=list)
    face_grooves: list[FaceGroove] = field(default_factory=list)
    eccentrics: list[Eccentric] = field(default_factory=list)
    chamfer: LetteredFeature | None = None
    drawn: set[str] = field(default_factory=set)
    assumed: list[str] = field(default_factory=list)
    lengths_not_said: list[str] = field(default_factory=list)
    lies: dict[str, Extent] = field(default_factory=dict)
    whole_mm: Decimal = Decimal(0)

    def put(
        self, one: LetteredFeature, long_mm: Decimal, or_else: Extent, along: LetteredFeature | None = None
    ) -> Extent:
        """Where a feature of that length lies: as it is said, else where it stands otherwise; noted for what is counted
        from it.
        """
        extent = one.along.extent_mm(long_mm, self.whole_mm, self.lies) if one.along.is_said else or_else
        if extent is None:
            self.assumed.append(f"where {one.letter} is")
        self.lies |= dict.fromkeys((part.letter for part in self.draw(one, along)), extent or or_else)
        return extent or or_else

    def draw(self, *features: LetteredFeature | None) -> tuple[LetteredFeature, ...]:
        """Take features as placed; those of them that there are."""
        there = tuple(one for one in features if one is not None)
        self.drawn |= {one.letter for one in there}
        return there

    @property
    def whole(self) -> LetteredFeature | None:
        """The length from face to face, where one is said."""
        return whole_length(self.known)

    def lengths_behind(self, kind: str) -> list[tuple[LetteredFeature, LetteredFeature | None]]:
        """The features of a kind, each with what says how far it goes."""
        return lengths_behind(self.known, kind)

    def size_mm(self, one: LetteredFeature) -> Decimal:
        """The size (mm) a feature is drawn with."""
        return middle_mm(one) or Decimal(0)

    def said_long_mm(self, one: LetteredFeature, along: LetteredFeature | None) -> Decimal | None:
        """How long (mm) a feature is by its place, or by what stands behind it; None where nobody said."""
        if one.said_long_mm is not None:
            return one.said_long_mm
        return self.size_mm(along) if along else None

    def of(self, kind: str) -> list[tuple[int, LetteredFeature]]:
        """The features of a kind with where they stand among the others."""
        return [(index, one) for index, one in enumerate(self.known) if one.feature.of_kind.name == kind]

    def behind(self, index: int, *kinds: str) -> LetteredFeature | None:
        """The feature right behind one, where it says how far that one goes."""
        following = self.known[index + 1] if index + 1 < len(self.known) else None
        return following if following is not None and following.feature.of_kind.name in kinds else None


def middle_mm(one: LetteredFeature) -> Decimal | None:
    """The size (mm) a feature is drawn with: the middle of its limits, its one limit, or its nominal; None where none
    is known.

    Source: geometry.

    >>> from nomisma.core.part.feature import Feature
    >>> middle_mm(LetteredFeature("A", Feature("length", Decimal(40), Decimal(41))))
    Decimal('40.5')
    """
    target = one.feature.target_mm
    size = target if target is not None else one.nominal_mm
    return size if size is not None and size > 0 else None
