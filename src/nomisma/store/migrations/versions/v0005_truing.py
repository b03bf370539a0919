"""Truing in a four-jaw: chucks, set-ups, rounds of readings, and what was done between them."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

from nomisma.store.migrations.guard import guard

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None

MM = sa.Numeric(precision=24, scale=12)


def _text(*names: str) -> list[sa.Column]:
    return [sa.Column(name, sa.Text(), nullable=False) for name in names]


def _words(*names: str) -> list[sa.Column]:
    return [sa.Column(name, sa.Text(), server_default="", nullable=False) for name in names]


def _mm(*names: str, nullable: bool = False) -> list[sa.Column]:
    return [sa.Column(name, MM, nullable=nullable) for name in names]


def _to(table: str, column: str, other: str, *, nullable: bool = False) -> tuple[sa.Column, sa.ForeignKeyConstraint]:
    name = op.f(f"fk_{table}_{column}_{other}")
    return sa.Column(column, sa.Uuid(), nullable=nullable), sa.ForeignKeyConstraint(
        [column], [f"{other}.id"], name=name
    )


def _table(name: str, *parts: sa.schema.SchemaItem, sequence: bool = True) -> None:
    numbered = (
        sa.Column("sequence", sa.BigInteger(), sa.Identity(always=False), nullable=False),
        sa.UniqueConstraint("sequence", name=op.f(f"uq_{name}_sequence")),
    )
    op.create_table(
        name,
        sa.Column("id", sa.Uuid(), nullable=False),
        *(numbered if sequence else ()),
        *parts,
        *_to(name, "by_id", "account"),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f(f"pk_{name}")),
    )
    guard(name)


def upgrade() -> None:
    _table(
        "chuck",
        *_text("name", "unit"),
        *_mm("screw_lead_mm"),
        *_text("screw_lead_text"),
        sa.Column("most_rpm", sa.Integer()),
        *_to("chuck", "of_id", "chuck", nullable=True),
        *_to("chuck", "supersedes_id", "chuck", nullable=True),
        sa.UniqueConstraint("supersedes_id", name=op.f("uq_chuck_supersedes_id")),
        sequence=False,
    )
    _table(
        "truing",
        *_to("truing", "job_id", "job", nullable=True),
        *_to("truing", "chuck_id", "chuck", nullable=True),
        *_words("level"),
        sa.Column("seed", sa.BigInteger()),
        *_text("surface"),
        sa.Column("places", sa.Integer(), nullable=False),
        sa.Column("teeth", sa.Integer()),
        *_text("keys"),
        *_words("use"),
        *_text("unit"),
        *_to("truing", "instrument_id", "instrument", nullable=True),
        *_mm("target_mm"),
        *_text("target_text"),
        *_mm("screw_lead_mm"),
        *_text("screw_lead_text"),
        *_mm("graduation_mm"),
        *_text("graduation_text"),
        *_mm("range_mm", "needle_turn_mm", "far_mm", "length_mm", nullable=True),
        *_words("range_text", "needle_turn_text", "far_text", "length_text"),
    )
    op.create_index("ix_truing_job_sequence", "truing", ["job_id", "sequence"])
    op.create_index("ix_truing_chuck_sequence", "truing", ["chuck_id", "sequence"])
    _table(
        "truing_reading",
        *_to("truing_reading", "truing_id", "truing"),
        sa.Column("round", sa.Integer(), nullable=False),
        *_text("circle", "kind"),
        sa.Column("place", sa.Integer(), nullable=False),
        sa.Column("at_deg", sa.Numeric(precision=9, scale=5), nullable=False),
        *_mm("read_mm"),
        *_text("read_text", "read_unit"),
        sa.Column("tightened", sa.Boolean(), nullable=False),
    )
    op.create_index("ix_truing_reading_truing_sequence", "truing_reading", ["truing_id", "sequence"])
    _table(
        "truing_event",
        *_to("truing_event", "truing_id", "truing"),
        *_text("kind"),
        sa.Column("detail", JSONB(), nullable=False),
    )
    op.create_index("ix_truing_event_truing_sequence", "truing_event", ["truing_id", "sequence"])
