"""A truing is of a piece: the next of a batch is trued, and looked at before its first start, anew."""

import sqlalchemy as sa
from alembic import op

revision = "0029"
down_revision = "0028"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("truing", sa.Column("piece", sa.Text(), nullable=False, server_default=""))


def downgrade() -> None:
    op.drop_column("truing", "piece")
