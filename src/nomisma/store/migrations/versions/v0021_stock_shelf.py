"""The shelf of stock: bars and what is left of them."""

import sqlalchemy as sa
from alembic import op

from nomisma.store.migrations.guard import guard

revision = "0021"
down_revision = "0020"
branch_labels = None
depends_on = None
MM = sa.Numeric(24, 12)


def upgrade() -> None:
    op.create_table(
        "stock_bar",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("sequence", sa.BigInteger(), sa.Identity(), nullable=False),
        sa.Column("words", sa.Text(), server_default="", nullable=False),
        *(sa.Column(name, sa.Text(), nullable=False) for name in ("material", "shape", "surface", "unit")),
        sa.Column("across_mm", MM, nullable=False),
        sa.Column("across_text", sa.Text(), nullable=False),
        sa.Column("bore_mm", MM, nullable=True),
        sa.Column("bore_text", sa.Text(), server_default="", nullable=False),
        sa.Column("length_mm", MM, nullable=False),
        sa.Column("length_text", sa.Text(), nullable=False),
        sa.Column("job_id", sa.Uuid(), nullable=True),
        sa.Column("of_id", sa.Uuid(), nullable=True),
        sa.Column("supersedes_id", sa.Uuid(), nullable=True),
        sa.Column("by_id", sa.Uuid(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        *(
            sa.ForeignKeyConstraint([f"{name}_id"], [f"{table}.id"], name=f"fk_stock_bar_{name}_id")
            for name, table in (("job", "job"), ("of", "stock_bar"), ("supersedes", "stock_bar"), ("by", "account"))
        ),
        sa.PrimaryKeyConstraint("id", name="pk_stock_bar"),
        sa.UniqueConstraint("sequence", name="uq_stock_bar_sequence"),
        sa.UniqueConstraint("supersedes_id", name="uq_stock_bar_supersedes_id"),
    )
    guard("stock_bar")
