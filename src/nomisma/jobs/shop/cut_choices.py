"""How cuts are taken: what holds until somebody chooses, the shop's choices and a job's."""

from decimal import Decimal

from sqlalchemy.orm import Session

from nomisma.core.quantity.length import UM_PER_MICROINCH, Unit
from nomisma.core.quantity.writing import parse_length
from nomisma.jobs.shop.choices import choose, usual
from nomisma.store import shop
from nomisma.store.models import Account, Job

OF_SHOP = usual("approach", "dialling_method", "cut_risk_percent", "parts_of_line", "least_cut", "finish_cut")
"""What a shop may choose for all its jobs, and what holds until it does."""
DEFAULTS = OF_SHOP | usual(
    "cut_machine", "cut_material", "cut_tool", "nose_radius", "wanted_ra_um", "largest_outside", "work_balanced"
)
"""How cuts are taken unless the shop or the job says otherwise."""
FIELDS = tuple(DEFAULTS)
OF_INCH = {"least_cut": "0.0008 in", "finish_cut": "0.008 in"}
"""The same in an inch job, until somebody chooses."""


def choices_of(session: Session, job: Job | None, *, unit: str) -> dict[str, str]:
    """The choices in force: a job's own before the shop's before what is shipped, in the unit of the job or else
    `unit`, that of who looks.
    """
    own = shop.settings(session, job.id if job else None)
    inch = (job.unit if job else unit) == "in"
    if job:
        inherited = shop.settings(session)
        own |= {
            name: _said_in(own[name], job.unit) for name in OF_INCH if name in own and own[name] == inherited.get(name)
        }
    return {name: own.get(name, value) for name, value in {**DEFAULTS, **(OF_INCH if inch else {})}.items()}


def _said_in(length: str, unit: Unit) -> str:
    """What the shop chose in its own unit, as it is said in a job's: to a tenth, or to 0.002 mm."""
    chosen = parse_length(length)
    step = Decimal("0.0001") if unit == "in" else Decimal("0.001")
    return (
        length if chosen.unit == unit else str(parse_length(f"{max(chosen.value(unit).quantize(step), step)} {unit}"))
    )


def as_shown(choices: dict[str, str], unit: Unit) -> dict[str, str]:
    """The choices as the form shows them: the finish wanted in µin in an inch job."""
    ra = choices["wanted_ra_um"]
    return {**choices, "wanted_ra_um": f"{Decimal(ra) / UM_PER_MICROINCH:.0f}"} if ra and unit == "in" else choices


def keep_choices(session: Session, wanted: dict[str, str], job: Job | None, *, by: Account) -> None:
    """Append what changed; commits nothing. Earlier choices stay on record."""
    choose(session, wanted, by=by, job_id=job.id if job else None, in_force=choices_of(session, job, unit=by.unit))
