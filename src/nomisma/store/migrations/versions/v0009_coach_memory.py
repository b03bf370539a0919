"""Cuts of several passes, cuts by stone or cloth, and the cuts of one machine found by index: the coach remembers it."""

import sqlalchemy as sa
from alembic import op

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("cut", sa.Column("last_pass_mm", sa.Numeric(24, 12), nullable=True))
    op.add_column("cut", sa.Column("means", sa.Text(), server_default="tool", nullable=False))
    op.create_index("ix_cut_machine_sequence", "cut", ["machine_id", "sequence"])
