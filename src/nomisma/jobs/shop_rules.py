"""The shop's own rules by diameter, and what it chooses for all its jobs."""

from sqlalchemy.orm import Session

from nomisma.core.fits.shop_rules import ShopRule, shop_rules
from nomisma.jobs.choices import usual
from nomisma.store import shop

DEFAULTS = usual("school", "aim", "confidence_percent", "acceptance")
"""What holds until the shop chooses."""


def shop_rules_of(session: Session) -> list[ShopRule]:
    """The shop's own versions of the rules it has changed."""
    return [ShopRule.model_validate(row.rule) for row in shop.rules(session).values()]


def rules_now(session: Session) -> dict[str, ShopRule]:
    """Every rule as it holds in this shop."""
    return {**shop_rules(), **{rule.name: rule for rule in shop_rules_of(session)}}
