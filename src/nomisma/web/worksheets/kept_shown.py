"""Answers that were kept with a job, shown again as the worksheet gave them."""

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from markupsafe import Markup
from pydantic import ValidationError

from nomisma.core.quantity.length import Unit
from nomisma.core.registry import calculation_named
from nomisma.exchange.record import RecordedAnswer
from nomisma.web.worksheets.catalog import TOOLS
from nomisma.web.worksheets.tool import Tool


@dataclass(frozen=True)
class KeptShown:
    """A kept answer as it is shown again: its worksheet, what was asked by its labels, and the answer as it was.

    No answer where an earlier version of the program answered otherwise; what was asked stands, and the JSON has all of
    it.
    """

    kept: RecordedAnswer
    tool: Tool
    asked: list[tuple[str, str]]
    answer: Any
    picture: Markup


def kept_shown(answers: Iterable[RecordedAnswer]) -> list[KeptShown]:
    """The kept answers whose worksheet this version of the program has; the others are in the JSON as they were."""
    found = []
    for row in answers:
        tool = TOOLS.get(row.calculation)
        if tool is None:
            continue
        asked = [(label, row.asked[name]) for name, label in tool.labels if row.asked.get(name)]
        try:
            answer = calculation_named(row.calculation).result_model.as_kept(row.answer)
        except ValidationError:
            found.append(KeptShown(row, tool, asked, None, Markup()))
            continue
        unit: Unit = "mm" if row.unit == "mm" else "in"
        found.append(KeptShown(row, tool, asked, answer, tool.picture(answer, unit)))
    return found
