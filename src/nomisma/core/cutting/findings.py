"""What the last cut says of the machine, the tool and the reader: held against what was predicted for it."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from nomisma.core.cutting.learned import USUAL, CutModel, CutSeen, Predicted, Prior, learned
from nomisma.core.materials.material import material_named
from nomisma.core.part.feature import cut_direction
from nomisma.core.part.feature_kinds import KindName
from nomisma.core.quantity.length import Unit
from nomisma.core.quantity.misread_steps import misread_steps

FAR = 4.5
"""Scales beyond which a cut is not chance. Source: this tool's own choice."""
KIND_KNOWN = 0.8
"""How likely a kind of dial must be to be named. Source: this tool's own choice."""
WARM_K = 30.0
"""How much warmer than the shop a part may be just off the tool. Source: common practice, no source."""
CLEARLY_LESS_MM = 0.0005
"""How much shorter each of a run of cuts must fall to be a dull tool. Source: this tool's own choice."""
NAMED_ANEW = 0.10
"""How near what came off must be to another reading of what was typed for that to be asked about. Source: this tool's
own choice.
"""


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
    kind: KindName = "shaft",
    size_mm: float,
    unit: Unit,
    reading_mm: float,
    least_mm: float,
    backlash_mm: float = 0.0,
    line_mm: float = 0.0,
    prior: Prior = USUAL,
) -> list[Finding]:
    """What the newest cut (and the run of them) shows, sizes in mm on diameter; `line_mm` of the dial. Source: common
    practice, no source.
    """
    if not cuts:
        return []
    last, earlier = cuts[-1], list(cuts[:-1])
    model = learned(cuts, reading_mm=reading_mm, prior=prior)
    found = _dial(model)
    expected = _expected(earlier, last, reading_mm, prior)
    miss = last.removed - expected.middle
    far = abs(miss) / expected.scale > FAR
    if found and abs(last.removed - last.dialled * model.factor) < max(4 * expected.scale, 0.1 * last.removed):
        return found
    if far and (words := meant_otherwise(dialled_mm=last.dialled, removed_mm=last.removed, line_mm=line_mm)):
        remedy = "Correct what was dialled, with its unit or as lines (28 lines, 1 turn + 5)."
        return [
            *found,
            Finding("dialled_typed", f"What came off fits if what was dialled is {words}.", remedy, ask=True),
        ]
    if far and (step := _misread(miss, expected.scale, unit)):
        return [*found, step]
    if 0 < last.dialled * model.factor < least_mm * 0.999:
        found.append(
            Finding(
                "too_thin", "That cut was too thin to cut cleanly: the tool rubs.", "Leave it, or take more next time."
            )
        )
    if far and (one := _moved(miss, expected, kind=kind, size_mm=size_mm, backlash_mm=backlash_mm)):
        found.append(one)
    if dull := _dull(cuts, reading_mm, prior):
        found.append(dull)
    return found


def _expected(earlier: list[CutSeen], last: CutSeen, reading_mm: float, prior: Prior) -> Predicted:
    """What the last cut was expected to take, by the cuts before it."""
    before = learned(earlier, reading_mm=reading_mm, prior=prior)
    model = before.touched() if last.first and earlier else before
    light = last.last_pass
    return model.predict_passes((last.dialled - light, light) if light and light < last.dialled else (last.dialled,))


def _moved(miss: float, expected: Predicted, *, kind: KindName, size_mm: float, backlash_mm: float) -> Finding | None:
    """Backlash, a warm part, or something that gave way."""
    larger = -cut_direction(kind) * miss  # a warm part measures larger, inside too
    if backlash_mm and abs(miss + backlash_mm) < 3 * expected.scale:
        return Finding(
            "backlash",
            "It took less by about this screw's backlash.",
            "Wind back past it and come in again in the direction of the cut.",
        )
    if 0 < larger < WARM_K * material_named("mild_steel").alpha_per_k * size_mm:
        return Finding(
            "hot",
            "It measures larger than it should: a part still warm does.",
            "Let it cool, measure again, then cut.",
            ask=True,
        )
    return Finding(
        "moved",
        "That cut took what nothing before explains: something has moved.",
        "Check tool, post and work, and touch on anew. If it is so, the coach goes on from the size you found.",
        ask=True,
    )


def _dial(model: CutModel) -> list[Finding]:
    if model.factor_chance < KIND_KNOWN or model.factor == 1.0:
        return []
    if model.factor == 2.0:
        return [
            Finding(
                "radius_dial",
                "Each cut takes twice what was dialled: this dial reads radius.",
                "Set the machine right in the Shop; until then the advice counts it double.",
            )
        ]
    return [
        Finding(
            "diameter_dial",
            "Each cut takes half of what was dialled: this dial reads diameter.",
            "Set the machine right in the Shop; until then the advice counts it half.",
        )
    ]


def meant_otherwise(*, dialled_mm: float, removed_mm: float, line_mm: float = 0.0) -> str:
    """What was dialled, typed as another thing, if what came off fits that: lines for an amount, mm for inch, thou for
    inch; else empty.

    `line_mm`: one line of the dial on diameter. Source: common practice, no source.

    >>> meant_otherwise(dialled_mm=28.0, removed_mm=0.281, line_mm=0.01)
    'lines typed as an amount in mm'
    """
    meant: tuple[tuple[str, float], ...] = (
        ("mm typed as inch", 1 / 25.4),
        ("inch typed as mm", 25.4),
        ("thou typed as inch", 1 / 1000.0),
    )
    if line_mm:
        meant += (("lines typed as an amount in mm", line_mm), ("lines typed as an amount in inch", line_mm / 25.4))
    for words, factor in meant:
        amount = dialled_mm * factor
        if amount > 0.05 and abs(removed_mm - amount) < NAMED_ANEW * amount:
            return words
    return ""


def _misread(miss: float, scale: float, unit: Unit) -> Finding | None:
    for step in misread_steps(unit):
        if abs(abs(miss) - float(step.mm)) < max(3 * scale, 0.02):
            return Finding(
                "misread", f"That is off by {step.said}.", "Read the micrometer again before anything is cut.", ask=True
            )
    return None


def _dull(cuts: Sequence[CutSeen], reading_mm: float, prior: Prior) -> Finding | None:
    """Four cuts, each short of its prediction by more than the one before."""
    own = list(cuts)
    if len(own) < 6:
        return None
    model = learned(own[:-4], reading_mm=reading_mm, prior=prior)
    misses = []
    for cut in own[-4:]:
        model = model.touched() if cut.first else model
        misses.append(cut.removed - model.predict(cut.dialled).middle)
        model = model.after(cut.dialled, cut.removed)
    falling = all(b < a - CLEARLY_LESS_MM for a, b in pairwise(misses))
    if falling and misses[-1] < -3 * max(reading_mm, 0.002) and misses[-2] < -max(reading_mm, 0.002):
        return Finding(
            "push_off",
            "Each cut falls a little shorter than the last: the push-off grows.",
            "The tool is getting dull: hone or change it, and touch on anew.",
        )
    return None
