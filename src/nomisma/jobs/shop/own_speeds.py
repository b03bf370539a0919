"""The shop's own surface speeds: what it runs instead of the table."""

from decimal import Decimal

from sqlalchemy.orm import Session

from nomisma.store import shop


def speed_setting(tool: str, material: str) -> str:
    """The name of the shop's setting for one tool in one material."""
    return f"speed_{tool}_{material}"


def own_speed(session: Session, material: str, tool: str) -> Decimal | None:
    """The shop's own turning speed of a tool in a material, m/min; none where the table holds."""
    text = shop.settings(session).get(speed_setting(tool, material), "")
    return Decimal(text) if text else None
