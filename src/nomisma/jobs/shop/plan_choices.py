"""What a shop says of its own planning: from which weight two lift, and how long it takes to set up, to change a tool,
to measure; and what is at hand for holes.
"""

from collections.abc import Mapping
from decimal import Decimal

from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.core.number import number_from
from nomisma.core.operations.hole_tools import HoleTools, hole_tools
from nomisma.core.planning.sheet import Handling
from nomisma.core.quantity.writing import parse_length
from nomisma.jobs.shop.choices import choose, usual
from nomisma.store import shop
from nomisma.store.models import Account

DEFAULTS = usual("lift_kg", "set_up_minutes", "tool_minutes", "measuring_minutes", "reamers", "drills", "least_bored")
"""What holds until the shop chooses; it may choose each of these. Source: common practice, no source."""
MOST = {"lift_kg": 1000, "set_up_minutes": 600, "tool_minutes": 120, "measuring_minutes": 120}


def plan_choices(session: Session) -> dict[str, str]:
    """What is in force."""
    own = shop.settings(session)
    return {name: own.get(name, value) for name, value in DEFAULTS.items()}


def handling_of(choices: Mapping[str, str]) -> Handling:
    """The minutes among what is in force."""
    return Handling(*(float(choices[name]) for name in ("set_up_minutes", "tool_minutes", "measuring_minutes")))


def tools_of(choices: Mapping[str, str]) -> HoleTools:
    """What is at hand for holes among what is in force. Raises InputError for a list or a size that cannot be read."""
    try:
        least = parse_length(choices["least_bored"], positive=True)
    except InputError as error:
        raise error.at("least_bored") from None
    return hole_tools(choices["reamers"], choices["drills"], least.mm)


def keep_plan_choices(session: Session, wanted: Mapping[str, str], *, by: Account) -> None:
    """Append what changed; commits nothing. Raises InputError for what is no number in its range, no size or no list,
    NotAllowed.
    """
    tools_of({**DEFAULTS, **wanted})
    for name, text in wanted.items():
        if name not in MOST:
            continue
        number_from(text, least=Decimal(0) if name != "lift_kg" else Decimal(1), most=MOST[name], field=name)
    choose(session, {name: text.replace(",", ".") if name in MOST else text for name, text in wanted.items()}, by=by)
