"""The one entry line: shop writing to the tool that answers it, with the numbers already in it."""

import re
from decimal import Decimal
from difflib import SequenceMatcher
from typing import Any

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import AmbiguousLength, InputError, UnreadableLength
from nomisma.core.model import Model
from nomisma.core.part.sketch_line import begins_a_feature
from nomisma.core.quantity.callout import FitCode, InchFitCode, parse_callout
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import parse_length
from nomisma.core.shorthands import SHORTHANDS, understand_shorthand

LONGEST_LINE = 120
FARTHEST_BY_ONE_UNIT = Decimal(4)
"""How many times one size may be the other where only one of them names its unit; beyond, it is asked about. Source:
this tool's own choice.
"""
HELP = (
    "It understands sizes (7/8, .8752, 22.225 mm, #32), limits (0.3755/0.3760, 28±0.1), fits (25 H7/g6, 1 RC4), an"
    " amount to take (1.229 to 1.125), a size with what it must do (7/8 slip), a feature of a part (od 1.375 ±.005 x"
    " 3.625), and joints: " + "; ".join(shorthand.example for shorthand in SHORTHANDS) + "."
)

PLAIN_FORMS = (
    "7/8", "22.225 mm", "#32", "0.3755/0.3760", "28±0.1", "0.800 +.004/-.000", "25 H7/g6", "1 RC4", "1.229 to 1.125",
    "7/8 slip",
    "25 mm running fit", "od 1.375 ±.005 x 3.625", "bore .800 +.004/-0 x .125 deep",
)  # fmt: skip
"""One line of each kind that needs no word of its own to be understood: what is shown where no word of a line is known.
"""
FORMS = (*PLAIN_FORMS, *(shorthand.example for shorthand in SHORTHANDS))
"""One line of each kind that is understood."""
_NUMBERS = re.compile(r"[0-9]+(?:[.,/-][0-9]+)*|[.,][0-9]+")

_FUNCTION_WORDS = {
    **dict.fromkeys(("slip", "slide", "slides", "sliding"), "slides_by_hand"),
    **dict.fromkeys(("run", "runs", "running", "turn", "turns"), "turns_freely"),
    **dict.fromkeys(("slow", "swing", "swings", "hinge", "pivot"), "turns_slowly"),
    **dict.fromkeys(("press", "pressed", "drive"), "pressed_for_good"),
    **dict.fromkeys(("shrink", "shrunk"), "shrunk_for_torque"),
    **dict.fromkeys(("locate", "locates", "register", "spigot"), "locates_and_comes_apart"),
    **dict.fromkeys(("wring", "wringing", "ringing", "twist"), "wrings_on"),
    **dict.fromkeys(("key", "keyed"), "located_and_keyed"),
    **dict.fromkeys(("bond", "bonded"), "bonded"),
    **dict.fromkeys(("clear", "clears"), "just_clears"),
}
_CODE_FIRST = re.compile(
    r"(?P<codes>[A-Za-z]{1,2}[0-9]{1,2}(?:/[A-Za-z]{1,2}[0-9]{1,2})?)\s+(?:on\s+)?(?P<size>[0-9.].*)"
)
_TO = re.compile(r"(?P<measured>.+?)\s+(?:to|->|→)\s+(?P<wanted>.+)", re.IGNORECASE)
_DOES = re.compile(rf"(?P<size>.+?)\s+(?P<word>{'|'.join(_FUNCTION_WORDS)})(?:\s+fit)?", re.IGNORECASE)


class EntryInput(Model):
    """A line as typed, and the unit in force for numbers that name none."""

    text: str = Field(examples=["25 H7/g6", "1.229 to 1.125", "7/8 slip"])
    unit: Unit | None = None


class EntryResult(Model):
    """Which calculation answers, with its inputs, and what was understood in words."""

    calculation: str
    inputs: dict[str, Any]
    understood: str


@calculation(
    name="entry_line",
    title="What a line of shop writing asks for",
    validity=f"One line of at most {LONGEST_LINE} characters.",
    source="shop writing: common practice, no source",
    example={"text": "1.229 to 1.125", "unit": "in"},
)
def entry_line(given: EntryInput) -> EntryResult:
    """The calculation that answers a line, with its inputs. Raises InputError, saying what is understood.

    Source: common practice (how sizes are written in a shop).

    >>> entry_line(EntryInput(text="25 H7/g6")).calculation
    'fit'
    """
    line = " ".join(given.text.split())
    if not line:
        raise UnreadableLength("Nothing was entered.", HELP, field="text")
    if len(given.text) > LONGEST_LINE:
        raise UnreadableLength(
            f"That is {len(given.text)} characters; a line here is at most {LONGEST_LINE}.",
            HELP,
            field="text",
            value=line[:80],
        )
    try:
        return _understand(line, given.unit)
    except UnreadableLength as error:
        nearest = ", ".join(nearest_forms(line))
        raise UnreadableLength(error.problem, f"Perhaps one of these: {nearest}.", field="text", value=line) from error
    except InputError as error:
        raise error.at("text") from None


def nearest_forms(line: str, count: int = 3) -> list[str]:
    """The examples that a line not understood is most like: those that share its words first, then by how its numbers
    stand.

    Source: the standard library's sequence matching, over lines with their numbers taken for one sign; this tool's own
    choice.

    >>> nearest_forms("bushing 3/8 1/4 1/2", 1)
    ['bush 3/8 on 1/4 x 1/2']
    >>> nearest_forms("speeds for brass", 1)
    ['speed 1 in mild steel']
    """
    shape, words = _shape(line), _words(line)

    def likeness(form: str) -> tuple[int, float]:
        shared = sum(1 for word in _words(form) if any(_alike(word, one) for one in words))
        return shared, SequenceMatcher(None, shape, _shape(form)).ratio()

    nearest = sorted(FORMS, key=likeness, reverse=True)[:count]
    return nearest if likeness(nearest[0])[0] else sorted(PLAIN_FORMS, key=likeness, reverse=True)[:count]


ALIKE = 0.75
"""How alike two words are taken for one, slips of the finger in them. Source: this tool's own choice."""


def _alike(word: str, said: str) -> bool:
    """Whether a word is that of a form, with another ending or a slip of the finger: truing is true."""
    stem = word.removesuffix("e")
    same_stem = len(stem) > 2 and said.startswith(stem) and len(said) - len(stem) <= LONGEST_ENDING
    return same_stem or SequenceMatcher(None, word, said).ratio() >= ALIKE


LONGEST_ENDING = 4
"""Letters an ending may have: truing, shrinking. Source: this tool's own choice."""


def _words(line: str) -> list[str]:
    return [word for word in re.findall(r"[a-z]+", line.lower()) if len(word) > 2 and word not in _SMALL_WORDS]


_SMALL_WORDS = {"and", "for", "from", "into", "off", "over", "the", "with"}


def _shape(line: str) -> str:
    return _NUMBERS.sub("#", line.lower())


def _understand(line: str, unit: Unit | None) -> EntryResult:
    if code_first := _CODE_FIRST.fullmatch(line):
        line = f"{code_first['size']} {code_first['codes']}"
    if shorthand := understand_shorthand(line, unit):
        calculation_name, inputs, understood = shorthand
        return EntryResult(calculation=calculation_name, inputs=inputs, understood=understood)
    if begins_a_feature(line):
        given = {"text": line, "unit": unit} if unit else {"text": line}
        return EntryResult(calculation="feature_lines", inputs=given, understood="a feature of a part")
    if to := _TO.fullmatch(line):
        return _amount(to["measured"], to["wanted"], unit)
    if does := _DOES.fullmatch(line):
        size = parse_length(does["size"], unit)
        function = _FUNCTION_WORDS[does["word"].lower()]
        return EntryResult(
            calculation="fit_options",
            inputs={"nominal": str(size), "function": function, "unit": size.unit},
            understood=f"{size}, {function.replace('_', ' ')}",
        )
    callout = parse_callout(line, unit)
    if isinstance(callout, FitCode):
        codes = "/".join(code for code in (callout.hole, callout.shaft) if code)
        return EntryResult(
            calculation="fit",
            inputs={"callout": f"{callout.nominal} {codes}"},
            understood=f"fit {codes} on {callout.nominal}",
        )
    if isinstance(callout, InchFitCode):
        return EntryResult(
            calculation="fit",
            inputs={"callout": f"{callout.nominal} {callout.fit_class}"},
            understood=f"inch class {callout.fit_class} on {callout.nominal}",
        )
    inputs = {"text": line, "unit": unit} if unit else {"text": line}
    meaning = str(callout) if isinstance(callout, Length) else line
    return EntryResult(calculation="size", inputs=inputs, understood=f"a size: {meaning}")


def _amount(measured_text: str, wanted_text: str, unit: Unit | None) -> EntryResult:
    """`1.229 to 1.125`: where only one side names its unit, the other is in the same."""
    wanted = parse_length(wanted_text, _unit_of(measured_text) or unit)
    measured = parse_length(measured_text, _unit_of(wanted_text) or unit)
    # 1-3/8 is inches by itself; whether the 34.9 beside it is, its size must say.
    one_names_it = (_unit_of(wanted_text) is None) != (_unit_of(measured_text) is None)
    if one_names_it and not 1 / FARTHEST_BY_ONE_UNIT < measured.mm / wanted.mm < FARTHEST_BY_ONE_UNIT:
        raise AmbiguousLength(
            f"{measured} to {wanted} is far apart for one cut.",
            f"Write the unit of each, like {measured_text} in to {wanted_text} mm.",
        )
    return EntryResult(
        calculation="amount_to_take",
        inputs={"measured": str(measured), "wanted": str(wanted)},
        understood=f"from {measured} to {wanted}, on diameter",
    )


def _unit_of(text: str) -> Unit | None:
    """The unit a size names for itself, if it names one."""
    try:
        return parse_length(text).unit
    except InputError:
        return None
