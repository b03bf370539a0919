"""What the last cut says of the machine, the tool and the reader: held against what was predicted for it."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from nomisma.core.cutting.depth import dial_factor, scaled
from nomisma.core.cutting.learned import CutSeen, learned
from nomisma.core.quantity.length import Unit

QUANTA_MM: dict[Unit, tuple[tuple[float, str], ...]] = {
    "mm": ((0.5, "one turn of the thimble, 0.5 mm"), (1.0, "1 mm"), (25.0, "25 mm")),
    "in": ((0.635, "one turn of the thimble, 0.025 in"), (2.54, "0.100 in"), (25.4, "an inch")),
}
"""How far a micrometer is misread. Source: common practice, no source."""
FAR = 4.5
"""Scales beyond which a cut is not chance. Source: this tool's own choice."""
ALPHA_STEEL_PER_K = 11.7e-6
WARM_K = 30.0
"""How much warmer than the shop a part may be just off the tool. Source: common practice, no source."""


@dataclass(frozen=True, slots=True)
class Finding:
    """What was noticed: its name, the sentence, and what to do; `ask` where the reading should be taken again first."""

    name: str
    sentence: str
    remedy: str
    ask: bool = False


def findings(
    cuts: Sequence[CutSeen],
    *,
    kind: str = "shaft",
    size_mm: float,
    unit: Unit,
    reading_mm: float,
    least_mm: float,
    backlash_mm: float = 0.0,
) -> list[Finding]:
    """What the newest cut (and the run of them) shows, sizes in mm on diameter. Source: common practice, no source."""
    if not cuts:
        return []
    last, earlier = cuts[-1], list(cuts[:-1])
    factor = dial_factor(cuts)
    found = _dial(factor)
    expected = learned(scaled(earlier, factor), reading_mm=reading_mm).predict(
        last.dialled * factor, last.removed_before, first=last.first
    )
    miss = last.removed - expected.middle
    far = abs(miss) / expected.scale > FAR
    larger = -miss if kind == "shaft" else miss  # a warm part measures larger, inside too
    if far and (quantum := _quantum(miss, expected.scale, unit)):
        return [*found, quantum]
    if 0 < last.dialled * factor < least_mm * 0.999:
        found.append(
            Finding("too_thin", "That cut was too thin to cut cleanly: the tool rubs.", "Leave it, or take more next time.")
        )
    if far and backlash_mm and abs(miss + backlash_mm) < 3 * expected.scale:
        found.append(
            Finding(
                "backlash",
                "It took less by about this screw's backlash.",
                "Wind back past it and come in again in the direction of the cut.",
            )
        )
    elif far and 0 < larger < WARM_K * ALPHA_STEEL_PER_K * size_mm:
        found.append(
            Finding(
                "hot",
                "It measures larger than it should: a part still warm does.",
                "Let it cool, measure again, then cut.",
                ask=True,
            )
        )
    elif far:
        found.append(
            Finding(
                "moved",
                "That cut took what nothing before explains: something has moved.",
                "Check tool, post and work, and touch on anew.",
                ask=True,
            )
        )
    if dull := _dull(cuts, factor, reading_mm):
        found.append(dull)
    return found


def _dial(factor: float) -> list[Finding]:
    if factor == 2.0:
        return [
            Finding(
                "radius_dial",
                "Each cut takes twice what was dialled: this dial reads radius.",
                "Set the machine right in the Shop; until then the advice counts it double.",
            )
        ]
    if factor == 0.5:
        return [
            Finding(
                "diameter_dial",
                "Each cut takes half of what was dialled: this dial reads diameter.",
                "Set the machine right in the Shop; until then the advice counts it half.",
            )
        ]
    return []


def _quantum(miss: float, scale: float, unit: Unit) -> Finding | None:
    for step, words in QUANTA_MM[unit]:
        if abs(abs(miss) - step) < max(3 * scale, 0.02):
            return Finding(
                "misread", f"That is off by {words}.", "Read the micrometer again before anything is cut.", ask=True
            )
    return None


def _dull(cuts: Sequence[CutSeen], factor: float, reading_mm: float) -> Finding | None:
    """Four cuts, each short of its prediction by more than the one before."""
    own = list(cuts)
    if len(own) < 6:
        return None
    misses = []
    for index in range(len(own) - 4, len(own)):
        model = learned(scaled(own[: len(own) - 4], factor), reading_mm=reading_mm)
        cut = own[index]
        misses.append(cut.removed - model.predict(cut.dialled * factor, cut.removed_before, first=cut.first).middle)
    falling = all(b < a for a, b in pairwise(misses))
    if falling and misses[-1] < -3 * max(reading_mm, 0.002):
        return Finding(
            "push_off",
            "Each cut falls a little shorter than the last: the push-off grows.",
            "The tool is getting dull: hone or change it, and touch on anew.",
        )
    return None
