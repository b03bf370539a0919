"""The working: how a number was made, made where the number is made, so that it can be checked by hand."""

from nomisma.core.model import Model


class Step(Model):
    """One line of working.

    `formula` is in words and signs a machinist reads; `values` is the same line with the numbers put in;
    `result` carries its unit; `source` is a standard with its clause or "common practice, no source".
    """

    name: str
    formula: str
    values: str = ""
    result: str
    source: str
    school: str = ""


COMMON_PRACTICE = "common practice, no source"
ARITHMETIC = "arithmetic"
