"""Whether the sizes of a part can be meant as they are written: a unit typed for another makes a part that no lathe of
the shop holds.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from decimal import Decimal

from nomisma.core.part.feature_kinds import feature_kind
from nomisma.core.part.member import member_of
from nomisma.core.planning.feature_lines import FeatureRead
from nomisma.core.planning.which_lathe import MachineRoom
from nomisma.core.quantity.display import show
from nomisma.core.quantity.length import MM_PER_INCH, Unit


@dataclass(frozen=True, slots=True)
class SizesDoubted:
    """What is asked before such a part is begun, and the unit that all of it may have been meant in; none where another
    does no better.
    """

    sentence: str
    meant_in: Unit | None = None


@dataclass(frozen=True, slots=True)
class Largest:
    """What the lathes of a shop hold at most, mm: across, and between centres; none where nobody entered it of every
    lathe.
    """

    across_mm: Decimal | None = None
    long_mm: Decimal | None = None

    @property
    def said(self) -> list[Decimal]:
        """What is known of it."""
        return [one for one in (self.across_mm, self.long_mm) if one is not None]


def largest_of(lathes: Sequence[MachineRoom]) -> Largest:
    """The most that any of these lathes holds; nothing is known where one of them has no figure. Source: arithmetic;
    mm.

    >>> largest_of([MachineRoom(name="Bench lathe", room_mm={"swing_over_bed": Decimal(180)})]).across_mm
    Decimal('180')
    """
    swings = [one.room_mm.get("swing_over_gap") or one.room_mm.get("swing_over_bed") for one in lathes]
    longest = [one.room_mm.get("between_centres") for one in lathes]
    return Largest(_most(swings), _most(longest))


def _most(sizes: Sequence[Decimal | None]) -> Decimal | None:
    known = [one for one in sizes if one is not None]
    return max(known) if known and len(known) == len(sizes) else None


def doubted(features: Sequence[FeatureRead], unit: Unit, largest: Largest) -> SizesDoubted | None:
    """What is to be asked of lines read in `unit`; None where nothing is. Source: common practice, no source.

    Asked about: a size that no lathe of the shop holds, and lines that mix units.

    >>> from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines
    >>> read = feature_lines(FeatureLinesInput(text="od 30 x 160", unit="in")).features
    >>> doubted(read, "in", Largest(Decimal(330), Decimal(900))).meant_in
    'mm'
    """
    return _too_large(features, unit, largest) or _mixed(features, unit)


def _too_large(features: Iterable[FeatureRead], unit: Unit, largest: Largest) -> SizesDoubted | None:
    over: list[str] = []
    fits_in_mm = True
    for one in features:
        most = (
            largest.across_mm
            if member_of(one.kind)
            else largest.long_mm
            if feature_kind(one.kind).may_be_whole
            else None
        )
        if one.nominal is None or most is None or one.nominal.mm <= most:
            continue
        what = "across" if member_of(one.kind) else "long"
        over.append(
            f"{one.letter} is {one.nominal} {what}, and the largest lathe here takes {show(most, unit, decimals=1)}"
        )
        fits_in_mm = fits_in_mm and one.nominal.unit == "in" and one.nominal.mm / MM_PER_INCH <= most
    if not over:
        return None
    meant: Unit | None = "mm" if unit == "in" and fits_in_mm else None
    return SizesDoubted(f"{'; '.join(over[:3])}.{' All of it in mm?' if meant else ''}", meant)


def _mixed(features: Sequence[FeatureRead], unit: Unit) -> SizesDoubted | None:
    """Lines whose own limits are in the other unit than the job's, beside some that are in it; a class is in mm
    wherever it stands.
    """
    own = [one for one in features if one.nominal is not None and one.limits_from in ("line", "general")]
    others = [one for one in own if one.nominal and one.nominal.unit != unit]
    if not others or len(others) == len(own):
        return None
    named = ", ".join(dict.fromkeys(f"{one.letter} ({one.nominal})" for one in others[:6]))
    words = {"in": "inches", "mm": "millimetres"}
    other: Unit = "mm" if unit == "in" else "in"
    return SizesDoubted(
        f"The job is in {words[unit]}, and in {words[other]} {'is' if len(others) == 1 else 'are'} {named}. Is that"
        " meant so?"
    )
