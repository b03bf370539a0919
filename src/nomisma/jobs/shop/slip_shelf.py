"""The slips on the shop's shelf, in inch and in metric: which set, what is missing of it, what is the shop's own, the
wear pieces.
"""

from dataclasses import asdict, dataclass, fields

from sqlalchemy.orm import Session

from nomisma.core.lengths.slip_shelf import SlipShelf, shelf_of
from nomisma.core.quantity.length import Unit
from nomisma.jobs.shop.choices import choose
from nomisma.jobs.shop.rights import Action, must
from nomisma.store import shop
from nomisma.store.models import Account

USUAL_SET: dict[Unit, str] = {"in": "in81", "mm": "m88"}


@dataclass(frozen=True, slots=True)
class SlipsOwned:
    """What the shelf of one unit holds, as typed; `set` empty: nobody said, and the usual set is reckoned with."""

    set: str = ""
    missing: str = ""
    own: str = ""
    wear: str = ""
    grade: str = "1"

    def shelf(self, unit: Unit) -> SlipShelf:
        """The pieces. Raises InputError."""
        return shelf_of(self.set or USUAL_SET[unit], missing=self.missing, own=self.own, wear=self.wear, unit=unit)


def slips_owned(session: Session, unit: Unit) -> SlipsOwned:
    """What the shop said of its slips of a unit, the newest; nothing where nobody did."""
    kept = shop.settings(session)
    said = {one.name: kept.get(f"slips_{unit}_{one.name}", "") for one in fields(SlipsOwned)}
    return SlipsOwned(**{name: text for name, text in said.items() if text})


def keep_slips(session: Session, unit: Unit, owned: SlipsOwned, *, by: Account) -> None:
    """Say what is on the shelf of a unit. Raises NotAllowed, InputError where it cannot be. Commits nothing."""
    must(by, Action.ENTER_SLIPS)
    owned.shelf(unit)
    choose(session, {f"slips_{unit}_{name}": text for name, text in asdict(owned).items()}, by=by)
