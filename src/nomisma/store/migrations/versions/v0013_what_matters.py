"""What a feature is there for, said with its limits."""

import sqlalchemy as sa
from alembic import op

revision = "0013"
down_revision = "0012"
branch_labels = None
depends_on = None


def upgrade() -> None:
    for name in ("duty", "true_to"):
        op.add_column("limits", sa.Column(name, sa.Text(), server_default="", nullable=False))
