"""Answers of worksheets kept with a job."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

from nomisma.store.migrations.guard import guard

revision = "0015"
down_revision = "0014"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "kept_answer",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("sequence", sa.BigInteger(), sa.Identity(), nullable=False),
        sa.Column("job_id", sa.Uuid(), nullable=False),
        sa.Column("feature_id", sa.Uuid(), nullable=False),
        sa.Column("calculation", sa.Text(), nullable=False),
        sa.Column("unit", sa.Text(), nullable=False),
        sa.Column("asked", JSONB(), nullable=False),
        sa.Column("answer", JSONB(), nullable=False),
        sa.Column("note", sa.Text(), server_default="", nullable=False),
        sa.Column("by_id", sa.Uuid(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        *(
            sa.ForeignKeyConstraint([f"{name}_id"], [f"{table}.id"], name=f"fk_kept_answer_{name}_id")
            for name, table in (("job", "job"), ("feature", "feature"), ("by", "account"))
        ),
        sa.PrimaryKeyConstraint("id", name="pk_kept_answer"),
        sa.UniqueConstraint("sequence", name="uq_kept_answer_sequence"),
    )
    op.create_index("ix_kept_answer_job_sequence", "kept_answer", ["job_id", "sequence"])
    guard("kept_answer")
