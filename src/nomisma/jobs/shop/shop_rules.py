"""The shop's own rules by diameter, and what it chooses for all its jobs."""

from uuid import UUID

from sqlalchemy.orm import Session

from nomisma.core.errors import NotDefined
from nomisma.core.fits.shop_rules import ShopRule, shop_rules
from nomisma.jobs.shop.choices import usual
from nomisma.jobs.shop.rights import Action, must
from nomisma.store import shop
from nomisma.store.append import append
from nomisma.store.models import Account, ShopRuleVersion

DEFAULTS = usual("fit_system", "aim", "confidence_percent", "acceptance")
"""What holds until the shop chooses."""


def shop_rules_of(session: Session) -> list[ShopRule]:
    """The shop's own versions of the rules it has changed."""
    return [ShopRule.as_kept(row.rule) for row in shop.rules(session).values()]


def rules_now(session: Session) -> dict[str, ShopRule]:
    """Every rule as it holds in this shop."""
    return {**shop_rules(), **{rule.name: rule for rule in shop_rules_of(session)}}


def write_rule(session: Session, rule: ShopRule, *, by: Account, sent_id: UUID) -> ShopRuleVersion:
    """The next version of a rule of the shop; the earlier ones stay on record. Raises NotAllowed, NotDefined. Commits
    nothing.
    """
    must(by, Action.CHANGE_SHOP_RULES)
    if rule.name not in shop_rules():
        raise NotDefined(f"There is no rule “{rule.name[:40]}”.", "See the list of rules in the Shop.", field="name")
    return append(session, ShopRuleVersion(id=sent_id, name=rule.name, rule=rule.model_dump(mode="json"), by_id=by.id))
