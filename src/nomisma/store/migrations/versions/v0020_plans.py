"""What was decided of a job before metal is cut, a row a saying."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

from nomisma.store.migrations.guard import guard

revision = "0020"
down_revision = "0019"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "plan_entry",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("sequence", sa.BigInteger(), sa.Identity(), nullable=False),
        sa.Column("job_id", sa.Uuid(), nullable=False),
        sa.Column("topic", sa.Text(), nullable=False),
        sa.Column("said", JSONB(), nullable=False),
        sa.Column("by_id", sa.Uuid(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"], name="fk_plan_entry_job_id"),
        sa.ForeignKeyConstraint(["by_id"], ["account.id"], name="fk_plan_entry_by_id"),
        sa.PrimaryKeyConstraint("id", name="pk_plan_entry"),
        sa.UniqueConstraint("sequence", name="uq_plan_entry_sequence"),
    )
    op.create_index("ix_plan_entry_job_sequence", "plan_entry", ["job_id", "sequence"])
    guard("plan_entry")
