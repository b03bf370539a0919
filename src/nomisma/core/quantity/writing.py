"""Shop writing in: one size as a machinist writes it, to an exact Length.

Understands `.8750`, `0.875`, `7/8`, `1-3/8`, `1 3/8`, `22.225 mm`, `25,4 mm`, `17/32 drill`, `#32`, `letter F`,
`3 thou`, `2 tenths`, `20 µm`, and a size with a small amount added, `3/8 +1 thou`. What could mean two sizes is
refused with the way to write it.
"""

import re
from decimal import Decimal

from nomisma.core.errors import AmbiguousLength, InputError, OutOfRange, UnreadableLength
from nomisma.core.number import may_be_thousands
from nomisma.core.quantity.drills import drill_sizes_in
from nomisma.core.quantity.length import MM_PER_INCH, Length, Unit, round_to

LONGEST_TEXT = 60

_UNIT_WORDS: dict[str, tuple[Unit, Decimal]] = {
    **dict.fromkeys(("in", "inch", "inches", '"', "''"), ("in", Decimal(1))),
    **dict.fromkeys(("thou", "thous"), ("in", Decimal("0.001"))),
    **dict.fromkeys(("tenth", "tenths"), ("in", Decimal("0.0001"))),
    **dict.fromkeys(("mm", "millimetre", "millimetres", "millimeter", "millimeters"), ("mm", Decimal(1))),
    **dict.fromkeys(("um", "micron", "microns", "micrometre", "micrometres"), ("mm", Decimal("0.001"))),
}

NUMBER = r"[0-9]+(?:[.,][0-9]*)?|[.,][0-9]+"
"""A decimal number with a point or a comma, without its sign, in ASCII digits."""
_SIZE = re.compile(
    rf"""(?: (?:(?P<whole>[0-9]+)[\s-]+)? (?P<top>[0-9]+) \s*/\s* (?P<bottom>[0-9]+) | (?P<number>{NUMBER}) )
         \s* (?P<unit>[a-z]+|"|'')? \s*""",
    re.VERBOSE,
)
_PITCH = re.compile(r"(?P<per_inch>[1-9][0-9]{0,2})\s*(?:t\.?p\.?i\.?|threads(?: per inch)?)")
_DRILL = re.compile(r"(?:#|no\.?\s*|number\s+)(?P<number>[0-9]{1,2})|letter\s+(?P<letter>[a-z])")
_ADDED = re.compile(rf"(?P<base>.*\S)\s*(?P<sign>[+-])\s*(?P<amount>(?:{NUMBER})\s*(?:thou|tenths?|um|microns?))")
_HOW = "Write it like 7/8, 1-3/8, .8752, 22.225 mm or 3 thou."


def tidy(text: str, *, longest: int = LONGEST_TEXT) -> str:
    """One line, lower case, single spaces, plain quotes, signs and micro; refuses what is empty or far too long.

    Source: shop writing: common practice, no source.

    >>> tidy("  25  H7/g6 ")
    '25 h7/g6'
    """
    if len(text) > longest:
        raise UnreadableLength(
            f"That is {len(text):,} characters; this is never longer than {longest}.".replace(",", " "),
            "Type just the size.",
            value=text[:80],
        )
    plain = " ".join(text.split())
    for odd, usual in (("−", "-"), ("–", "-"), ("″", '"'), ("”", '"'), ("µ", "u"), ("μ", "u"), ("⁄", "/"), ("×", "x")):
        plain = plain.replace(odd, usual)
    if not plain:
        raise UnreadableLength("Nothing was entered.", _HOW, value=text)
    return plain.lower()


def parse_length(text: str, unit: Unit | None = None, *, positive: bool = True) -> Length:
    """One size from shop writing; `unit` is the unit in force for a number that names none.

    Fractions, drill names, thou, tenths and threads per inch (8 tpi is 1/8 in) are inches whatever the unit in force.
    Raises UnreadableLength, AmbiguousLength or OutOfRange; where `positive`, zero and below are out of range.

    Source: shop writing: common practice, no source.

    >>> str(parse_length("1-3/8")), str(parse_length("3/8 +1 thou")), str(parse_length("22.225 mm", "in"))
    ('1.375 in', '0.376 in', '22.225 mm')
    """
    line = tidy(text)
    negative = line.startswith("-")
    try:
        length = _parse(line[1:].strip() if negative or line.startswith("+") else line, unit)
    except InputError as error:
        error.value = text
        raise
    if negative:
        length = Length(-length.mm, length.unit, length.text, length.decimals)
    if positive and length.mm <= 0:
        raise OutOfRange(
            f"{text.strip()} is not a size: a size is above zero.", "Enter the size without a sign.", value=text
        )
    return Length(length.mm, length.unit, text.strip(), length.decimals)


def _parse(line: str, unit: Unit | None) -> Length:
    """A tidied size without its sign."""
    if line in ("nan", "inf", "infinity"):
        raise UnreadableLength(f"“{line}” is not a size.", _HOW)
    if added := _ADDED.fullmatch(line):
        if _ADDED.fullmatch(added["base"]):
            raise UnreadableLength(
                f"“{line[:40]}” adds two amounts to one size.", "Two deviations make limits; one amount a size."
            )
        base, amount = _parse(added["base"], unit), _parse(added["amount"], unit)
        signed_mm = amount.mm if added["sign"] == "+" else -amount.mm
        return Length(base.mm + signed_mm, base.unit)
    if drill := _DRILL.fullmatch(line.removesuffix(" drill")):
        return _drill(drill["number"] or drill["letter"].upper())
    if pitch := _PITCH.fullmatch(line):
        return Length(round_to(MM_PER_INCH / int(pitch["per_inch"]), 9), "in")
    match = _SIZE.fullmatch(line.removesuffix("drill").strip())
    if not match:
        raise _not_a_size(line)
    named = _unit_named(match["unit"], line)
    if match["top"]:
        return _fraction(match, named)
    return _decimal(match["number"], named, unit)


def _not_a_size(line: str) -> InputError:
    if re.fullmatch(rf"(?:{NUMBER})e[+-]?[0-9]+.*", line):
        return UnreadableLength(f"“{line}” is written with an exponent.", "Write the size out, like 0.001 or 1000.")
    if re.search(r"[0-9],[0-9]+\.[0-9]|[0-9]\.[0-9]+,[0-9]", line):
        return AmbiguousLength(f"“{line}” has both a comma and a point.", "Leave out the mark for thousands.")
    return UnreadableLength(f"“{line[:40]}” is not understood as a size.", _HOW)


def _unit_named(word: str | None, line: str) -> tuple[Unit, Decimal] | None:
    if word is None:
        return None
    if word not in _UNIT_WORDS:
        raise UnreadableLength(
            f"“{word}” in “{line[:40]}” is not a unit used here.", "Use in, thou, tenths, mm or µm (um)."
        )
    return _UNIT_WORDS[word]


def _drill(name: str) -> Length:
    size = drill_sizes_in().get(name)
    if size is None:
        raise OutOfRange(f"There is no drill number {name}.", "Number drills go from #1 to #80, letters from A to Z.")
    return Length.of(size, "in", decimals=4)


def _fraction(match: re.Match[str], named: tuple[Unit, Decimal] | None) -> Length:
    top, bottom = int(match["top"]), int(match["bottom"])
    if named and named[0] == "mm":
        raise AmbiguousLength(
            f"“{match[0].strip()}” is a fraction in millimetres.",
            "Write millimetres as a decimal, fractions in inches.",
        )
    if named and named[1] != 1:
        raise UnreadableLength(
            f"“{match[0].strip()}” is a fraction of a thou.", "Write it as a decimal, like 0.5 thou."
        )
    if bottom == 0:
        raise UnreadableLength(f"“{match[0].strip()}” divides by zero.", "Check the fraction; 7/8 is written 7/8.")
    if bottom not in (2, 4, 8, 16, 32, 64):
        raise UnreadableLength(
            f"“{match[0].strip()}” is not a rule fraction.",
            "Fractions go in halves, quarters, 8ths, 16ths, 32nds and 64ths; otherwise write a decimal.",
        )
    if match["whole"] and top >= bottom:
        raise AmbiguousLength(
            f"“{match[0].strip()}” has a fraction of one or more.", "Write it like 1-3/8 or as a decimal."
        )
    return Length.of(Decimal(int(match["whole"] or 0)) + Decimal(top) / bottom, "in")


def _decimal(number: str, named: tuple[Unit, Decimal] | None, in_force: Unit | None) -> Length:
    unit, scale = named or (in_force, Decimal(1))
    if "," in number:
        number = _with_point(number, unit, named is not None)
    if unit is None:
        raise AmbiguousLength(f"“{number}” has no unit.", "Add in or mm.")
    _, _, tail = number.partition(".")
    if len(tail) > 12:
        raise UnreadableLength(
            f"“{number[:20]}…” has more decimals than anyone can measure.", "Give at most 12 decimals."
        )
    if len(number) > 20:
        raise OutOfRange(f"{number[:12]}… is far too long for a size.", "Check the digits.")
    return Length.of(Decimal(number) * scale, unit, text=number, decimals=len(tail))


def _with_point(number: str, unit: Unit | None, unit_written: bool) -> str:
    """A decimal comma as a point, where that is the only way to read it: metric, and the unit written or no
    thousands.
    """
    whole, _, tail = number.partition(",")
    if unit == "in":
        raise AmbiguousLength(
            f"“{number}” has a comma, and inches take a point.",
            f"Write {whole or 0}.{tail} or {whole}{tail}, or add mm.",
        )
    if not unit_written and may_be_thousands(number):
        raise AmbiguousLength(
            f"“{number}” could be {whole}.{tail} or {whole}{tail}.",
            f"Write {whole}.{tail} or {whole}{tail}, or add the unit: {number} mm is read as {whole}.{tail} mm.",
        )
    return f"{whole}.{tail}"


def split_sizes(text: str) -> list[str]:
    """Sizes one after the other: `.8752 .8751`, `24.98 mm; 24.97 mm`. A unit or a fraction stays with its number.

    Source: shop writing: common practice, no source.

    >>> split_sizes(".8752 .8751; 24.97 mm 1 3/8")
    ['.8752', '.8751', '24.97 mm', '1 3/8']
    """
    pieces: list[str] = []
    for word in text.replace(";", " ").split():
        joins = pieces and (word[0].isalpha() or word[0] == '"' or ("/" in word and pieces[-1].isdigit()))
        if joins:
            pieces[-1] += f" {word}"
        else:
            pieces.append(word)
    return pieces
