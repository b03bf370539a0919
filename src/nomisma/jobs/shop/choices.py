"""What a shop may choose, and a job for itself: every choice there is, whose it may be, and the one way to
change any.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal
from uuid import UUID, uuid4, uuid5

from sqlalchemy.orm import Session

from nomisma.core.errors import NotDefined
from nomisma.core.operations.reamers import COMMON_REAMERS
from nomisma.jobs.shop.rights import Action, must
from nomisma.store import shop
from nomisma.store.append import append
from nomisma.store.models import Account, ShopSetting

Whose = Literal["shop", "job", "both"]


@dataclass(frozen=True, slots=True)
class Choice:
    """One choice: its name (a star stands for any ending), what holds until somebody chooses, and whose it may be."""

    name: str
    usual: str
    whose: Whose
    words: str


CHOICES = (
    Choice("fit_system", "make_to_suit", "both", "the fit system looked at first"),
    Choice("aim", "middle", "both", "where between the limits to aim"),
    Choice("confidence_percent", "95", "both", "how sure a mate made to suit is, %"),
    Choice("aim_spread", "", "both", "spread of the sizes that are cut, one standard deviation"),
    Choice("rework_cost", "", "both", "what cutting again costs, in any one currency"),
    Choice("scrap_cost", "", "both", "what a scrapped part costs, in the same"),
    Choice("acceptance", "guarded", "both", "the rule by which a piece is accepted"),
    Choice("pieces", "1", "job", "how many pieces are made"),
    Choice("goes_by", "piece", "job", "whether a batch goes on with the next step or the next piece"),
    Choice("measuring_plan", "", "job", "where each piece is measured"),
    Choice("approach", "equal_cuts", "both", "how size is approached"),
    Choice("dialling_method", "count_in", "both", "how the dial is read"),
    Choice("cut_risk_percent", "0.2", "both", "the risk taken of a cut past the limit, %"),
    Choice("parts_of_line", "1", "both", "how finely a line of the dial is split"),
    Choice("least_cut", "0.02 mm", "both", "the least cut that cuts cleanly, on diameter"),
    Choice("finish_cut", "0.2 mm", "both", "the finishing cut, on diameter"),
    Choice("cut_machine", "", "job", "the machine it is cut on"),
    Choice("cut_material", "", "job", "what is cut"),
    Choice("cut_tool", "hss", "job", "what it is cut with"),
    Choice("nose_radius", "", "job", "the tool's nose radius"),
    Choice("wanted_ra_um", "", "job", "the roughness wanted, Ra in µm"),
    Choice("largest_outside", "", "job", "the largest outside that turns with it"),
    Choice("work_balanced", "yes", "job", "whether the work is balanced"),
    Choice("lift_kg", "20", "shop", "from which weight two lift, or a hoist does, kg"),
    Choice("set_up_minutes", "10", "shop", "what a set-up takes, minutes"),
    Choice("tool_minutes", "1", "shop", "what changing a tool takes, minutes"),
    Choice("measuring_minutes", "1.5", "shop", "what a measuring takes, minutes"),
    Choice("reamers", COMMON_REAMERS, "shop", "the reamers at hand"),
    Choice("drills", "", "shop", "the drills at hand; nothing: every one of the tables"),
    Choice("least_bored", "6 mm", "shop", "the smallest hole a boring bar goes into"),
    Choice("speed_*", "", "shop", "the shop's own surface speed of a tool in a material, m/min"),
    Choice("slips_*", "", "shop", "the slips on the shelf of a unit"),
    Choice("coach_forgets_*", "", "shop", "from when on a machine's cuts count"),
)
"""Every choice there is. Stored by name with who chose and when; the newest counts."""
BY_NAME = {one.name: one for one in CHOICES}


def choice_named(name: str) -> Choice:
    """The choice of that name. Raises NotDefined."""
    family = next((one for one in CHOICES if one.name.endswith("*") and name.startswith(one.name[:-1])), None)
    found = BY_NAME.get(name) or family
    if found is None:
        raise NotDefined(f"There is nothing called “{name[:40]}” to choose.", "Look at the Shop.", field=name)
    return found


def usual(*names: str) -> dict[str, str]:
    """What holds of some choices until somebody chooses."""
    return {name: choice_named(name).usual for name in names}


def choose(
    session: Session,
    wanted: Mapping[str, str],
    *,
    by: Account,
    job_id: UUID | None = None,
    reason: str = "",
    in_force: Mapping[str, str] | None = None,
    sent_id: UUID | None = None,
) -> list[ShopSetting]:
    """Write what differs from what is in force, of the shop or of one job; earlier choices stay on record. Commits
    nothing.

    `in_force`: what the person saw, where that is worked out; else what is recorded. `sent_id`: of the form, so that a
    repeat is harmless. Raises NotAllowed where an apprentice chooses for the shop, NotDefined for a choice there is
    not, or that is not theirs.
    """
    if job_id is None:
        must(by, Action.CHANGE_SHOP_RULES)
    wrong: Whose = "job" if job_id is None else "shop"
    known = in_force if in_force is not None else shop.settings(session, job_id)
    written = []
    for name, value in wanted.items():
        choice = choice_named(name)
        if choice.whose == wrong:
            raise NotDefined(f"“{name}” is chosen for the {wrong}, not here.", "Choose it there.", field=name)
        if value != known.get(name, choice.usual):
            row_id = setting_id(sent_id, name) if sent_id else uuid4()
            row = ShopSetting(id=row_id, name=name, value=value, job_id=job_id, by_id=by.id, reason=reason)
            written.append(append(session, row))
    return written


def setting_id(sent_id: UUID, name: str) -> UUID:
    """The id of a choice that a form was kept as."""
    return uuid5(sent_id, name)
