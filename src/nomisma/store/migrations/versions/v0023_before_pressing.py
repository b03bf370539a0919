"""A bush's bore as it is before the bush is pressed in is a feature of its own."""

import sqlalchemy as sa
from alembic import op

revision = "0023"
down_revision = "0022"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("feature", sa.Column("before_pressing", sa.Boolean(), nullable=False, server_default="false"))
