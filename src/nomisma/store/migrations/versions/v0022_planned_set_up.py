"""Which set-up of the plan a truing is for."""

import sqlalchemy as sa
from alembic import op

revision = "0022"
down_revision = "0021"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("truing", sa.Column("planned_set_up", sa.Text(), nullable=False, server_default=""))
