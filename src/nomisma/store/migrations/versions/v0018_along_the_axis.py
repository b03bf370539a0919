"""Where a feature lies along the axis, said with its limits."""

import sqlalchemy as sa
from alembic import op

revision = "0018"
down_revision = "0017"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("limits", sa.Column("along", sa.Text(), server_default="", nullable=False))
