"""A job at a glance: who worked on it last and when, by when it is needed, and how many questions hold it up."""

import sqlalchemy as sa
from alembic import op

revision = "0030"
down_revision = "0029"
branch_labels = None
depends_on = None

TABLE = "job_summary"


def upgrade() -> None:
    op.add_column(TABLE, sa.Column("worked_at", sa.DateTime(timezone=True), nullable=True))
    op.add_column(TABLE, sa.Column("worked_by_id", sa.Uuid(), nullable=True))
    op.add_column(TABLE, sa.Column("due_on", sa.Date(), nullable=True))
    op.add_column(TABLE, sa.Column("questions", sa.Integer(), nullable=False, server_default="0"))
    op.create_foreign_key("fk_job_summary_worked_by_id", TABLE, "account", ["worked_by_id"], ["id"])
    on_a_lathe = sa.text("worked_at IS NOT NULL")
    op.create_index("ix_job_summary_worked_at", TABLE, ["worked_at"], postgresql_where=on_a_lathe)


def downgrade() -> None:
    op.drop_index("ix_job_summary_worked_at", TABLE)
    op.drop_constraint("fk_job_summary_worked_by_id", TABLE)
    for name in ("questions", "due_on", "worked_by_id", "worked_at"):
        op.drop_column(TABLE, name)
