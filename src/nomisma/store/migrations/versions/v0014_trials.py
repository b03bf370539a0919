"""Trials by hand and eye: how a mating part or gauge went, how a finish compared."""

import sqlalchemy as sa
from alembic import op

from nomisma.store.migrations.guard import guard

revision = "0014"
down_revision = "0013"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "trial",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("sequence", sa.BigInteger(), sa.Identity(), nullable=False),
        sa.Column("job_id", sa.Uuid(), nullable=False),
        sa.Column("feature_id", sa.Uuid(), nullable=False),
        sa.Column("limits_id", sa.Uuid(), nullable=True),
        sa.Column("piece", sa.Text(), server_default="", nullable=False),
        sa.Column("place", sa.Text(), nullable=False),
        sa.Column("tried_with", sa.Text(), nullable=False),
        sa.Column("outcome", sa.Text(), nullable=False),
        sa.Column("orientation", sa.Text(), server_default="", nullable=False),
        sa.Column("note", sa.Text(), server_default="", nullable=False),
        sa.Column("by_id", sa.Uuid(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        *(
            sa.ForeignKeyConstraint([f"{name}_id"], [f"{table}.id"], name=f"fk_trial_{name}_id")
            for name, table in (("job", "job"), ("feature", "feature"), ("limits", "limits"), ("by", "account"))
        ),
        sa.PrimaryKeyConstraint("id", name="pk_trial"),
        sa.UniqueConstraint("sequence", name="uq_trial_sequence"),
    )
    op.create_index("ix_trial_feature_sequence", "trial", ["feature_id", "sequence"])
    guard("trial")
    op.execute(
        "CREATE TRIGGER job_changed AFTER INSERT ON trial REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION job_changed()"
    )
