"""The first tables: accounts and sessions, instruments and machines, jobs with limits and readings."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

from nomisma.store.migrations.guard import create_guard, guard

revision = "0001"
down_revision = None
branch_labels = None
depends_on = None

APPEND_ONLY = (
    "sign_in_attempt", "instrument", "machine", "job", "partner_statement", "limits", "reading", "job_event",
)  # fmt: skip


def upgrade() -> None:
    create_guard()
    create_tables()
    for table in APPEND_ONLY:
        guard(table)


def create_tables() -> None:
    op.create_table(
        "account",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("sign_in_name", sa.Text(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("role", sa.Text(), nullable=False),
        sa.Column("password_hash", sa.Text(), nullable=False),
        sa.Column("unit", sa.Text(), server_default="in", nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_account")),
        sa.UniqueConstraint("sign_in_name", name=op.f("uq_account_sign_in_name")),
    )
    op.create_table(
        "sign_in_attempt",
        sa.Column("id", sa.BigInteger(), sa.Identity(always=False), nullable=False),
        sa.Column("sign_in_name", sa.Text(), nullable=False),
        sa.Column("address", sa.Text(), nullable=False),
        sa.Column("succeeded", sa.Boolean(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_sign_in_attempt")),
    )
    op.create_index("ix_sign_in_attempt_name_at", "sign_in_attempt", ["sign_in_name", "at"], unique=False)
    op.create_table(
        "instrument",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("measures", sa.Text(), nullable=False),
        sa.Column("unit", sa.Text(), nullable=False),
        sa.Column("resolution_mm", sa.Numeric(precision=24, scale=12), nullable=False),
        sa.Column("resolution_text", sa.Text(), nullable=False),
        sa.Column("permitted_error_mm", sa.Numeric(precision=24, scale=12), nullable=False),
        sa.Column("permitted_error_text", sa.Text(), nullable=False),
        sa.Column("repeatability_mm", sa.Numeric(precision=24, scale=12), nullable=False),
        sa.Column("repeatability_text", sa.Text(), nullable=False),
        sa.Column("supersedes_id", sa.Uuid(), nullable=True),
        sa.Column("by_id", sa.Uuid(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.ForeignKeyConstraint(["by_id"], ["account.id"], name=op.f("fk_instrument_by_id")),
        sa.ForeignKeyConstraint(["supersedes_id"], ["instrument.id"], name=op.f("fk_instrument_supersedes_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_instrument")),
        sa.UniqueConstraint("supersedes_id", name=op.f("uq_instrument_supersedes_id")),
    )
    op.create_table(
        "machine",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("unit", sa.Text(), nullable=False),
        sa.Column("dial_line_mm", sa.Numeric(precision=24, scale=12), nullable=False),
        sa.Column("dial_line_text", sa.Text(), nullable=False),
        sa.Column("dial_reads", sa.Text(), nullable=False),
        sa.Column("supersedes_id", sa.Uuid(), nullable=True),
        sa.Column("by_id", sa.Uuid(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.ForeignKeyConstraint(["by_id"], ["account.id"], name=op.f("fk_machine_by_id")),
        sa.ForeignKeyConstraint(["supersedes_id"], ["machine.id"], name=op.f("fk_machine_supersedes_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_machine")),
        sa.UniqueConstraint("supersedes_id", name=op.f("uq_machine_supersedes_id")),
    )
    op.create_table(
        "session",
        sa.Column("token_sha256", sa.Text(), nullable=False),
        sa.Column("account_id", sa.Uuid(), nullable=False),
        sa.Column("csrf_token", sa.Text(), nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.Column("expires_at", sa.DateTime(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(["account_id"], ["account.id"], name=op.f("fk_session_account_id")),
        sa.PrimaryKeyConstraint("token_sha256", name=op.f("pk_session")),
    )
    op.create_table(
        "job",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("number", sa.Integer(), sa.Identity(always=False, start=101), nullable=False),
        sa.Column("title", sa.Text(), nullable=False),
        sa.Column("asked", sa.Text(), server_default="", nullable=False),
        sa.Column("unit", sa.Text(), nullable=False),
        sa.Column("partner_kind", sa.Text(), nullable=False),
        sa.Column("machine_id", sa.Uuid(), nullable=True),
        sa.Column("by_id", sa.Uuid(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.ForeignKeyConstraint(["by_id"], ["account.id"], name=op.f("fk_job_by_id")),
        sa.ForeignKeyConstraint(["machine_id"], ["machine.id"], name=op.f("fk_job_machine_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_job")),
        sa.UniqueConstraint("number", name=op.f("uq_job_number")),
    )
    op.create_table(
        "job_event",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("job_id", sa.Uuid(), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("note", sa.Text(), server_default="", nullable=False),
        sa.Column("by_id", sa.Uuid(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.ForeignKeyConstraint(["by_id"], ["account.id"], name=op.f("fk_job_event_by_id")),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"], name=op.f("fk_job_event_job_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_job_event")),
    )
    op.create_index("ix_job_event_job_at", "job_event", ["job_id", "at"], unique=False)
    op.create_table(
        "limits",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("job_id", sa.Uuid(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("school", sa.Text(), nullable=False),
        sa.Column("option_name", sa.Text(), nullable=False),
        sa.Column("lower_mm", sa.Numeric(precision=24, scale=12), nullable=False),
        sa.Column("upper_mm", sa.Numeric(precision=24, scale=12), nullable=False),
        sa.Column("aim_mm", sa.Numeric(precision=24, scale=12), nullable=False),
        sa.Column("inputs", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("option", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("by_id", sa.Uuid(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.ForeignKeyConstraint(["by_id"], ["account.id"], name=op.f("fk_limits_by_id")),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"], name=op.f("fk_limits_job_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_limits")),
        sa.UniqueConstraint("job_id", "version", name=op.f("uq_limits_job_id_version")),
    )
    op.create_table(
        "partner_statement",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("job_id", sa.Uuid(), nullable=False),
        sa.Column("callout", sa.Text(), nullable=False),
        sa.Column("by_id", sa.Uuid(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.ForeignKeyConstraint(["by_id"], ["account.id"], name=op.f("fk_partner_statement_by_id")),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"], name=op.f("fk_partner_statement_job_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_partner_statement")),
    )
    op.create_index("ix_partner_statement_job_at", "partner_statement", ["job_id", "at"], unique=False)
    op.create_table(
        "reading",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("sequence", sa.BigInteger(), sa.Identity(always=False), nullable=False),
        sa.Column("job_id", sa.Uuid(), nullable=False),
        sa.Column("member", sa.Text(), nullable=False),
        sa.Column("place", sa.Text(), nullable=False),
        sa.Column("size_mm", sa.Numeric(precision=24, scale=12), nullable=False),
        sa.Column("size_text", sa.Text(), nullable=False),
        sa.Column("size_unit", sa.Text(), nullable=False),
        sa.Column("cut_number", sa.Integer(), server_default="0", nullable=False),
        sa.Column("instrument_id", sa.Uuid(), nullable=False),
        sa.Column("limits_id", sa.Uuid(), nullable=True),
        sa.Column("supersedes_id", sa.Uuid(), nullable=True),
        sa.Column("reason", sa.Text(), server_default="", nullable=False),
        sa.Column("withdrawn", sa.Boolean(), server_default="false", nullable=False),
        sa.Column("by_id", sa.Uuid(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.ForeignKeyConstraint(["by_id"], ["account.id"], name=op.f("fk_reading_by_id")),
        sa.ForeignKeyConstraint(["instrument_id"], ["instrument.id"], name=op.f("fk_reading_instrument_id")),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"], name=op.f("fk_reading_job_id")),
        sa.ForeignKeyConstraint(["limits_id"], ["limits.id"], name=op.f("fk_reading_limits_id")),
        sa.ForeignKeyConstraint(["supersedes_id"], ["reading.id"], name=op.f("fk_reading_supersedes_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_reading")),
        sa.UniqueConstraint("sequence", name=op.f("uq_reading_sequence")),
        sa.UniqueConstraint("supersedes_id", name=op.f("uq_reading_supersedes_id")),
    )
    op.create_index("ix_reading_job_member_sequence", "reading", ["job_id", "member", "sequence"], unique=False)
    op.create_index("ix_reading_job_member_cut", "reading", ["job_id", "member", "cut_number"], unique=False)
