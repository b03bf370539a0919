"""How the jaws hold the work of a truing: round it, or from inside."""

import sqlalchemy as sa
from alembic import op

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None


def upgrade() -> None:
    # Every set-up so far was advised as gripped from outside.
    op.add_column("truing", sa.Column("grip", sa.Text(), server_default="outside", nullable=False))
