"""Readings that were asked about before they were believed: what was typed first is kept."""

import sqlalchemy as sa
from alembic import op

from nomisma.store.migrations.guard import guard

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "reading_doubt",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("job_id", sa.Uuid(), nullable=False),
        sa.Column("member", sa.Text(), nullable=False),
        sa.Column("place", sa.Text(), nullable=False),
        sa.Column("size_mm", sa.Numeric(precision=24, scale=12), nullable=False),
        sa.Column("size_text", sa.Text(), nullable=False),
        sa.Column("size_unit", sa.Text(), nullable=False),
        sa.Column("instrument_id", sa.Uuid(), nullable=False),
        sa.Column("sentence", sa.Text(), nullable=False),
        sa.Column("by_id", sa.Uuid(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_reading_doubt")),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"], name=op.f("fk_reading_doubt_job_id_job")),
        sa.ForeignKeyConstraint(
            ["instrument_id"], ["instrument.id"], name=op.f("fk_reading_doubt_instrument_id_instrument")
        ),
        sa.ForeignKeyConstraint(["by_id"], ["account.id"], name=op.f("fk_reading_doubt_by_id_account")),
    )
    op.create_index("ix_reading_doubt_job_at", "reading_doubt", ["job_id", "at"])
    guard("reading_doubt")
    op.add_column("reading", sa.Column("doubt_id", sa.Uuid(), nullable=True))
    op.create_foreign_key(op.f("fk_reading_doubt_id_reading_doubt"), "reading", "reading_doubt", ["doubt_id"], ["id"])
