"""Cuts, and what of a machine the coach at the dial needs to know."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

from nomisma.store.migrations.guard import guard

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None

MM = sa.Numeric(precision=24, scale=12)


def _to(column: str, other: str, *, nullable: bool = False) -> tuple[sa.Column, sa.ForeignKeyConstraint]:
    return sa.Column(column, sa.Uuid(), nullable=nullable), sa.ForeignKeyConstraint(
        [column], [f"{other}.id"], name=op.f(f"fk_cut_{column}_{other}")
    )


def upgrade() -> None:
    for name in ("dial_turn", "backlash", "most_cut"):
        op.add_column("machine", sa.Column(f"{name}_mm", MM, nullable=True))
        op.add_column("machine", sa.Column(f"{name}_text", sa.Text(), server_default="", nullable=False))
    op.add_column("machine", sa.Column("readout", sa.Boolean(), server_default="false", nullable=False))
    op.add_column("machine", sa.Column("speeds", sa.Text(), server_default="", nullable=False))
    op.add_column("machine", sa.Column("room", JSONB(), server_default="{}", nullable=False))
    op.create_table(
        "cut",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("sequence", sa.BigInteger(), sa.Identity(always=False), nullable=False),
        *_to("job_id", "job"),
        sa.Column("piece", sa.Text(), server_default="", nullable=False),
        sa.Column("cut_number", sa.Integer(), nullable=False),
        sa.Column("set_up", sa.Integer(), nullable=False),
        *_to("machine_id", "machine", nullable=True),
        sa.Column("school", sa.Text(), nullable=False),
        sa.Column("dialled_mm", MM, nullable=False),
        sa.Column("dialled_text", sa.Text(), nullable=False),
        sa.Column("before_mm", MM, nullable=False),
        *[sa.Column(name, MM, nullable=True) for name in ("expected_mm", "expected_low_mm", "expected_high_mm")],
        *_to("by_id", "account"),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_cut")),
        sa.UniqueConstraint("sequence", name=op.f("uq_cut_sequence")),
    )
    op.create_index("ix_cut_job_sequence", "cut", ["job_id", "sequence"])
    guard("cut")
