"""What a plan must keep to be one that can be cut: each rule with its sentence and what would do."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from nomisma.core.cutting.boring_bar import DIAMETERS_OUT

RunRule = Literal[
    "held_is_cut", "nothing_gripped", "jaws_reach", "grip_short", "grip_small", "grip_marks", "stands_out", "overhang",
    "end_occupied", "no_centre_hole", "between_both", "no_track", "parted_supported", "parted_long", "blade_short",
    "tool_reach", "not_spotted", "no_bar", "nothing_there", "not_as_said", "edge_early", "rough_late", "metal_gone",
    "as_it_is", "not_faced", "metal_left", "not_made", "no_way",
    "stock_small", "no_metal", "too_thin", "not_trued",
    "off_axis", "off_centre_held", "off_centre_air", "parted_off_centre", "bar_long",
    "on_the_bar", "true_first",
]  # fmt: skip
CLEARANCE_MM = Decimal(3)
"""From a tool to the jaws at least, or a blade's width where that is more. Source: common practice, no source."""
LEAST_GRIP_MM = Decimal(10)
"""The least length in the jaws, or half the diameter where that is more. Source: common practice, no source."""
STEP_GRIP_MM = Decimal(3)
"""The least length against a step of soft jaws, or on a faceplate. Source: common practice, no source."""
MANDREL_SHARE = Decimal("0.25")
"""The least length on a mandrel in parts of its diameter, 10 mm at least. Source: this tool's own choice."""
MANDREL_WIDE = Decimal("0.1")
"""A mandrel drives nothing that is wider than its diameter over this. Source: this tool's own choice."""
SMALLEST_EXPANDING_MM = Decimal(6)
"""No expanding mandrel goes into a smaller bore. Source: common practice, no source (a quarter of an inch)."""
WIDE = Decimal("0.5")
"""A short grip holds nothing that is wider than the diameter gripped over this. Source: this tool's own choice."""
WIDE_FACED = Decimal(1) / 3
"""Nor anything wider than the diameter gripped over this where it is only faced and its edges broken. Source: this
tool's own choice.
"""
FREE_OUT, AT_CENTRE_OUT = Decimal(3), Decimal(10)
"""So many diameters may stand out of a chuck free, and so many with a centre in the end. Source: common practice, no
source.
"""
CENTRE_SHARE = Decimal("0.25")
"""A centre hole is no deeper than so much of the part's length. Source: this tool's own choice."""
FACED_RECESS = Decimal("0.5")
"""A recess shallower than so much of its diameter may be faced out from the solid. Source: this tool's own choice."""
PARTED_LONG = Decimal(3)
"""A piece longer than so many diameters is sawn, not parted off. Source: common practice, no source."""
SMALLEST_BORED_MM = Decimal(6)
"""No bar goes into a smaller hole. Source: common practice, no source."""
BAR_SHARE = Decimal("0.8")
"""The thickest bar that leaves chips room, in parts of the hole it goes into. Source: common practice, no source."""
AT_A_SHOULDER_MM = Decimal(1)
"""What roughing leaves at a shoulder does not count as the diameter there. Source: this tool's own choice."""


@dataclass(frozen=True, slots=True)
class RunRuleRow:
    """A rule: what it says, and what would do."""

    sentence: str
    remedy: str


RUN_RULES: dict[RunRule, RunRuleRow] = {
    "held_is_cut": RunRuleRow(
        "The cut comes too near to what holds the work.",
        "Let it stand out further, or cut that surface from the other end.",
    ),
    "nothing_gripped": RunRuleRow(
        "The jaws would hold what is not there.", "Hold it on a cylinder that is there at that moment."
    ),
    "jaws_reach": RunRuleRow(
        "Something larger stands behind what is gripped: the jaws do not get to it.",
        "Hold it on the larger diameter, inside, or on a mandrel.",
    ),
    "grip_short": RunRuleRow(
        "Too little of it is in the jaws.",
        "Half the diameter or 10 mm; less only against a step of soft jaws, on a faceplate or on a mandrel.",
    ),
    "grip_small": RunRuleRow(
        "It is wide and heavy for so short and small a grip.", "A faceplate, the outside in soft jaws, or a mandrel."
    ),
    "grip_marks": RunRuleRow("Jaws mark what is finished.", "Soft jaws, or strips of aluminium under the jaws."),
    "stands_out": RunRuleRow(
        "It cannot stand out so far.", "Count it from the jaws' front to the end, facing still on."
    ),
    "overhang": RunRuleRow(
        "It stands out too far to be cut free.",
        "A centre in its end, a steady, or short through the spindle.",
    ),
    "end_occupied": RunRuleRow(
        "A centre stands in the end that is to be worked.",
        "Work the end first, held short; or with a steady and the centre out.",
    ),
    "no_centre_hole": RunRuleRow(
        "The centre has no hole to run in.", "Face the end and drill the centre first, held short; or a plug."
    ),
    "between_both": RunRuleRow("Between centres wants a centre hole in both ends.", "Face and centre both ends first."),
    "no_track": RunRuleRow(
        "The steady's rollers have no round surface to run on.",
        "A track turned first, a surface that is finished, or a cat-head.",
    ),
    "parted_supported": RunRuleRow(
        "Nothing is parted off against a centre or beyond a steady.", "Take the support away, or saw it."
    ),
    "parted_long": RunRuleRow("The piece is too long to be parted off.", "Saw it, with both faces to come."),
    "blade_short": RunRuleRow("The blade does not reach the middle, or the hole.", "A longer blade, or the saw."),
    "tool_reach": RunRuleRow(
        "No tool gets there past what is larger outside, or smaller in the hole.",
        "Cut what stands in the way first, or work from the other end.",
    ),
    "true_first": RunRuleRow(
        "Nothing runs true yet for the needle that sets it off centre.", "Turn what lies on the part's own axis first."
    ),
    "on_the_bar": RunRuleRow(
        "At that end it is still one with its bar.", "Part it off first; then that end can be worked."
    ),
    "not_spotted": RunRuleRow("A drill that is not spotted wanders.", "Spot it first."),
    "no_bar": RunRuleRow("No boring bar goes into so small a hole.", "Drill and ream it."),
    "bar_long": RunRuleRow(
        "A bar that goes into that hole is too long for its thickness: it sings, and bores tapered.",
        "Ream it, open it with a larger drill first, bore from both ends, or send it to who drills deep.",
    ),
    "nothing_there": RunRuleRow(
        "There is nothing left to cut.", "Leave it out, or put it where its metal is still on."
    ),
    "not_as_said": RunRuleRow("The metal there has another size at that moment.", "Plan it again from the stock."),
    "edge_early": RunRuleRow(
        "The surface it is cut in is not finished yet.", "Finish the diameter first, then what is cut in it."
    ),
    "rough_late": RunRuleRow(
        "It is roughed after something was finished: heat and let-go stress move that.",
        "Rough everything before anything is finished.",
    ),
    "metal_gone": RunRuleRow("It takes metal that the drawing has.", "Stop at the drawing's size and shoulder."),
    "as_it_is": RunRuleRow(
        "It cuts a surface that stays as it is.", "Hold it, indicate it, run a steady on it; no cut."
    ),
    "not_faced": RunRuleRow("The end is not faced yet.", "Face it first."),
    "metal_left": RunRuleRow("Metal is left that the drawing has not.", "Another cut, or another set-up."),
    "not_made": RunRuleRow("No operation makes it.", "Say where it lies on Part; else it is made elsewhere."),
    "no_way": RunRuleRow(
        "Nothing holds the work so that this can be cut.",
        "Longer stock to hold, a plug, or a fixture; decide it with whoever sets the job.",
    ),
    "off_axis": RunRuleRow(
        "It is cut on another axis than its own.",
        "What lies off centre in a chucking of its own, set over by its throw; all else before it.",
    ),
    "off_centre_held": RunRuleRow(
        "That does not hold work off centre.", "A four-jaw chuck, the needle swinging twice the throw; or a faceplate."
    ),
    "parted_off_centre": RunRuleRow(
        "A parting blade that meets the work once a turn breaks.", "Saw it off, or true it up again and part it then."
    ),
    "off_centre_air": RunRuleRow(
        "Off centre it comes out of the metal that is there.", "Stock as wide as it swings; or a smaller throw: ask."
    ),
    "no_metal": RunRuleRow(
        "Nothing is left there to cut.",
        "Sleeve it, or spray or weld it up first; or cut it smaller and make its mate to suit.",
    ),
    "not_trued": RunRuleRow(
        "Three jaws hold it where they close: nothing is trued in them.",
        "The four-jaw by the needle; or cut it in one chucking with what it must be true to.",
    ),
    "too_thin": RunRuleRow(
        "It is too thin to be held for its second face.",
        "Part it from a bar and leave that face as parted off; or bond it to a true stub turned in its place.",
    ),
    "stock_small": RunRuleRow("The stock does not give the part.", "Other stock; or ask what may give."),
}
"""Source: common practice, no source (the trade's rules of what can be cut)."""


@dataclass(frozen=True, slots=True)
class Complaint:
    """Where a plan cannot be cut: the rule, what it is about (letters, sizes), and in which set-up and cut of it (from
    0; none: the set-up as it is held, or the end). `letters`: what the cut makes.
    """

    rule: RunRule
    about: str = ""
    set_up: int | None = None
    cut: int | None = None
    letters: tuple[str, ...] = ()

    @property
    def sentence(self) -> str:
        """What is wrong, in words."""
        row = RUN_RULES[self.rule]
        return f"{self.about}: {row.sentence[0].lower()}{row.sentence[1:]}" if self.about else row.sentence

    @property
    def remedy(self) -> str:
        """What would do."""
        return RUN_RULES[self.rule].remedy


def widest_held_mm(diameter_mm: Decimal, *, is_only_faced: bool) -> Decimal:
    """The widest work that a short grip on a diameter (mm) holds, mm. Source: this tool's own choice.

    >>> widest_held_mm(Decimal(12), is_only_faced=False), round(widest_held_mm(Decimal(12), is_only_faced=True))
    (Decimal('24'), 36)
    """
    return diameter_mm / (WIDE_FACED if is_only_faced else WIDE)


def least_grip_mm(diameter_mm: Decimal, *, on_a_step: bool = False, on_a_mandrel: bool = False) -> Decimal:
    """The least length in the jaws, or on a mandrel, for a diameter gripped, mm. Source: common practice, no source.

    >>> least_grip_mm(Decimal(65)), least_grip_mm(Decimal(65), on_a_step=True)
    (Decimal('32.5'), Decimal('3'))
    """
    if on_a_mandrel:
        return max(diameter_mm * MANDREL_SHARE, LEAST_GRIP_MM)
    return STEP_GRIP_MM if on_a_step else max(diameter_mm / 2, LEAST_GRIP_MM)


def clearance_mm(blade_mm: Decimal | None = None) -> Decimal:
    """From a tool or a blade (mm) to the jaws at least. Source: common practice, no source.

    >>> clearance_mm(), clearance_mm(Decimal(4))
    (Decimal('3'), Decimal('4'))
    """
    return max(CLEARANCE_MM, blade_mm or CLEARANCE_MM)


def reach_of_a_bar_mm(hole_mm: Decimal) -> Decimal:
    """How deep a boring bar of carbide goes into a hole of a diameter (mm), mm. Source: handbook order, recalled
    (core/cutting/boring_bar.py); common practice, no source (`BAR_SHARE`).

    >>> reach_of_a_bar_mm(Decimal(10))
    Decimal('48.0')
    """
    return DIAMETERS_OUT["tungsten_carbide"] * BAR_SHARE * hole_mm
