"""Which feature of the part a truing indicates."""

import sqlalchemy as sa
from alembic import op

revision = "0016"
down_revision = "0015"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("truing", sa.Column("feature_id", sa.Uuid(), nullable=True))
    op.create_foreign_key("fk_truing_feature_id", "truing", "feature", ["feature_id"], ["id"])
