"""The shop's own rules and settings, the plan of an assembly and what was seen when it was done."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

from nomisma.store.migrations.guard import guard

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None

APPEND_ONLY = ("shop_rule", "shop_setting", "assembly_plan", "assembly_result")


def upgrade() -> None:
    create_tables()
    for table in APPEND_ONLY:
        guard(table)


def _who_and_when() -> list[sa.Column]:
    return [
        sa.Column("by_id", sa.Uuid(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
    ]


def _key(table: str, *columns: str) -> list[sa.ForeignKeyConstraint]:
    return [
        sa.ForeignKeyConstraint([column], [f"{target}.id"], name=op.f(f"fk_{table}_{column}_{target}"))
        for column, target in (pair.split(">") for pair in columns)
    ]


def create_tables() -> None:
    op.create_table(
        "shop_rule",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("sequence", sa.BigInteger(), sa.Identity(always=False), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("rule", postgresql.JSONB(), nullable=False),
        *_who_and_when(),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_shop_rule")),
        sa.UniqueConstraint("sequence", name=op.f("uq_shop_rule_sequence")),
        *_key("shop_rule", "by_id>account"),
    )
    op.create_index("ix_shop_rule_name_sequence", "shop_rule", ["name", "sequence"])
    op.create_table(
        "shop_setting",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("sequence", sa.BigInteger(), sa.Identity(always=False), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("value", sa.Text(), nullable=False),
        sa.Column("job_id", sa.Uuid(), nullable=True),
        *_who_and_when(),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_shop_setting")),
        sa.UniqueConstraint("sequence", name=op.f("uq_shop_setting_sequence")),
        *_key("shop_setting", "by_id>account", "job_id>job"),
    )
    op.create_index("ix_shop_setting_job_name_sequence", "shop_setting", ["job_id", "name", "sequence"])
    op.create_table(
        "assembly_plan",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("sequence", sa.BigInteger(), sa.Identity(always=False), nullable=False),
        sa.Column("job_id", sa.Uuid(), nullable=False),
        sa.Column("method", sa.Text(), nullable=False),
        sa.Column("tool", sa.Text(), nullable=False),
        sa.Column("asked", postgresql.JSONB(), nullable=False),
        sa.Column("inputs", postgresql.JSONB(), nullable=False),
        sa.Column("answer", postgresql.JSONB(), nullable=False),
        *_who_and_when(),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_assembly_plan")),
        sa.UniqueConstraint("sequence", name=op.f("uq_assembly_plan_sequence")),
        *_key("assembly_plan", "by_id>account", "job_id>job"),
    )
    op.create_index("ix_assembly_plan_job_sequence", "assembly_plan", ["job_id", "sequence"])
    op.create_table(
        "assembly_result",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("sequence", sa.BigInteger(), sa.Identity(always=False), nullable=False),
        sa.Column("job_id", sa.Uuid(), nullable=False),
        sa.Column("plan_id", sa.Uuid(), nullable=False),
        sa.Column("felt", sa.Text(), nullable=False),
        sa.Column("force_text", sa.Text(), server_default="", nullable=False),
        sa.Column("size_before_mm", sa.Numeric(precision=24, scale=12), nullable=True),
        sa.Column("size_before_text", sa.Text(), server_default="", nullable=False),
        sa.Column("size_after_mm", sa.Numeric(precision=24, scale=12), nullable=True),
        sa.Column("size_after_text", sa.Text(), server_default="", nullable=False),
        sa.Column("size_unit", sa.Text(), nullable=False),
        sa.Column("instrument_id", sa.Uuid(), nullable=True),
        sa.Column("close_in_factor", sa.Numeric(precision=8, scale=4), nullable=True),
        sa.Column("note", sa.Text(), server_default="", nullable=False),
        *_who_and_when(),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_assembly_result")),
        sa.UniqueConstraint("sequence", name=op.f("uq_assembly_result_sequence")),
        *_key("assembly_result", "by_id>account", "job_id>job", "plan_id>assembly_plan", "instrument_id>instrument"),
    )
    op.create_index("ix_assembly_result_job_sequence", "assembly_result", ["job_id", "sequence"])
