"""Practice at the lathe, and what a machine's chuck and its slides stand."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

from nomisma.store.migrations.guard import guard

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None


def _common() -> list[sa.Column]:
    return [
        sa.Column("by_id", sa.Uuid(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
    ]


def upgrade() -> None:
    op.add_column("machine", sa.Column("most_rpm", sa.Integer(), nullable=True))
    op.add_column("machine", sa.Column("most_force_n", sa.Numeric(), nullable=True))
    op.create_table(
        "practice_part",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("level", sa.Text(), nullable=False),
        sa.Column("seed", sa.Integer(), nullable=False),
        *_common(),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_practice_part")),
        sa.ForeignKeyConstraint(["by_id"], ["account.id"], name=op.f("fk_practice_part_by_id_account")),
    )
    op.create_table(
        "practice_event",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("sequence", sa.BigInteger(), sa.Identity(always=False), nullable=False),
        sa.Column("part_id", sa.Uuid(), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("detail", JSONB(), nullable=False),
        *_common(),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_practice_event")),
        sa.UniqueConstraint("sequence", name=op.f("uq_practice_event_sequence")),
        sa.ForeignKeyConstraint(
            ["part_id"], ["practice_part.id"], name=op.f("fk_practice_event_part_id_practice_part")
        ),
        sa.ForeignKeyConstraint(["by_id"], ["account.id"], name=op.f("fk_practice_event_by_id_account")),
    )
    op.create_index("ix_practice_event_part_sequence", "practice_event", ["part_id", "sequence"])
    guard("practice_part")
    guard("practice_event")
