"""Tokens for gauges and programs, accounts that can be closed, reasons for what judges a piece, sign-in attempts that are pruned."""

import sqlalchemy as sa
from alembic import op

from nomisma.store.migrations.guard import guard

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "access_token",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("sequence", sa.BigInteger(), sa.Identity(), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("token_sha256", sa.Text(), nullable=True),
        sa.Column("by_id", sa.Uuid(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.ForeignKeyConstraint(["by_id"], ["account.id"], name="fk_access_token_by_id"),
        sa.PrimaryKeyConstraint("id", name="pk_access_token"),
        sa.UniqueConstraint("sequence", name="uq_access_token_sequence"),
    )
    op.create_index("ix_access_token_kind_name_sequence", "access_token", ["kind", "name", "sequence"])
    guard("access_token")
    op.add_column("account", sa.Column("disabled_at", sa.DateTime(timezone=True), nullable=True))
    op.add_column("limits", sa.Column("reason", sa.Text(), server_default="", nullable=False))
    op.add_column("shop_setting", sa.Column("reason", sa.Text(), server_default="", nullable=False))
    _attempts_that_pass()


def _attempts_that_pass() -> None:
    """Tries to sign in are no record of the work: they are kept for some weeks, and say no name."""
    op.execute("DROP TRIGGER append_only ON sign_in_attempt")
    op.execute("DROP TRIGGER append_only_truncate ON sign_in_attempt")
    op.execute("DELETE FROM sign_in_attempt")
    op.drop_index("ix_sign_in_attempt_name_at", table_name="sign_in_attempt")
    op.alter_column("sign_in_attempt", "sign_in_name", new_column_name="name_sha256")
    op.create_index("ix_sign_in_attempt_name_sha256_at", "sign_in_attempt", ["name_sha256", "at"])
    op.create_index("ix_sign_in_attempt_address_at", "sign_in_attempt", ["address", "at"])
