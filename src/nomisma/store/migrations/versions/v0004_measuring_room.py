"""The measuring room: kinds and checks of instruments, how a reading was taken, pieces, decisions, gauges."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

from nomisma.store.migrations.guard import guard

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None

MM = sa.Numeric(precision=24, scale=12)


def _words(name: str) -> sa.Column:
    return sa.Column(name, sa.Text(), server_default="", nullable=False)


def _text(name: str) -> sa.Column:
    return sa.Column(name, sa.Text(), nullable=False)


def _sequence() -> sa.Column:
    return sa.Column("sequence", sa.BigInteger(), sa.Identity(always=False), nullable=False)


def _to(table: str, column: str, other: str, *, nullable: bool = False) -> tuple[sa.Column, sa.ForeignKeyConstraint]:
    name = op.f(f"fk_{table}_{column}_{other}")
    return sa.Column(column, sa.Uuid(), nullable=nullable), sa.ForeignKeyConstraint(
        [column], [f"{other}.id"], name=name
    )


def _at() -> sa.Column:
    return sa.Column("at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False)


def _table(name: str, *parts: sa.schema.SchemaItem) -> None:
    op.create_table(
        name,
        sa.Column("id", sa.Uuid(), nullable=False),
        *parts,
        *_to(name, "by_id", "account"),
        _at(),
        sa.PrimaryKeyConstraint("id", name=op.f(f"pk_{name}")),
    )
    guard(name)


def _unique(table: str, *columns: str) -> sa.UniqueConstraint:
    return sa.UniqueConstraint(*columns, name=op.f(f"uq_{table}_{'_'.join(columns)}"))


def upgrade() -> None:
    _instruments()
    _readings()
    _table(
        "decision",
        _sequence(),
        *_to("decision", "job_id", "job"),
        _text("kind"),
        _words("piece"),
        _text("state"),
        _text("reason"),
        sa.Column("reading_ids", JSONB(), nullable=False),
        *_to("decision", "limits_id", "limits", nullable=True),
        _unique("decision", "sequence"),
    )
    op.create_index("ix_decision_job_sequence", "decision", ["job_id", "sequence"])
    _gauges()


def _instruments() -> None:
    for name in ("kind", "range_from_text", "range_to_text", "standard"):
        op.add_column("instrument", _words(name))
    for name in ("range_from_mm", "range_to_mm"):
        op.add_column("instrument", sa.Column(name, MM, nullable=True))
    op.add_column("instrument", sa.Column("due_on", sa.Date(), nullable=True))
    op.add_column("instrument", sa.Column("of_id", sa.Uuid(), nullable=True))
    op.create_foreign_key(op.f("fk_instrument_of_id_instrument"), "instrument", "instrument", ["of_id"], ["id"])
    _table(
        "instrument_check",
        *_to("instrument_check", "instrument_id", "instrument"),
        *_to("instrument_check", "of_id", "instrument"),
        sa.Column("standard_mm", MM, nullable=False),
        _text("standard_text"),
        _text("read_text"),
        _text("unit"),
        sa.Column("zero_error_mm", MM, nullable=False),
        sa.Column("permitted_error_mm", MM, nullable=False),
        _words("note"),
    )
    op.create_index("ix_instrument_check_of_at", "instrument_check", ["of_id", "at"])


def _readings() -> None:
    for name in ("piece", "material", "conditions"):
        op.add_column("reading", _words(name))
    for name in ("read_mm", "half_bracket_mm", "uncertainty_mm"):
        op.add_column("reading", sa.Column(name, MM, nullable=True))
    op.add_column("reading", sa.Column("zero_error_mm", MM, server_default="0", nullable=False))
    op.add_column("reading", sa.Column("temperature_c", sa.Numeric(precision=6, scale=2), nullable=True))
    op.add_column("reading", sa.Column("transfer_id", sa.Uuid(), nullable=True))
    op.create_foreign_key(op.f("fk_reading_transfer_id_instrument"), "reading", "instrument", ["transfer_id"], ["id"])
    op.create_index(
        "ix_reading_job_member_piece_cut", "reading", ["job_id", "member", "piece", sa.text("cut_number DESC")]
    )
    op.drop_index("ix_reading_job_member_cut", "reading")
    op.create_index("ix_reading_instrument_at", "reading", ["instrument_id", "at"])


def _gauges() -> None:
    _table(
        "gauge_binding",
        _sequence(),
        _text("gauge"),
        *_to("gauge_binding", "job_id", "job"),
        _unique("gauge_binding", "sequence"),
    )
    op.create_index("ix_gauge_binding_gauge_sequence", "gauge_binding", ["gauge", "sequence"])
    op.create_table(
        "gauge_reading",
        sa.Column("id", sa.Uuid(), nullable=False),
        _sequence(),
        _text("gauge"),
        _text("run"),
        sa.Column("number", sa.BigInteger(), nullable=False),
        *_to("gauge_reading", "job_id", "job"),
        sa.Column("size_mm", MM, nullable=False),
        _text("size_text"),
        _text("size_unit"),
        _at(),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_gauge_reading")),
        _unique("gauge_reading", "sequence"),
        _unique("gauge_reading", "gauge", "run", "number"),
    )
    op.create_index("ix_gauge_reading_job_sequence", "gauge_reading", ["job_id", "sequence"])
    guard("gauge_reading")
