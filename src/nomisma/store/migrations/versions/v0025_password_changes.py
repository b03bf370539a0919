"""When and from where a password was last set, and whether somebody else set it."""

import sqlalchemy as sa
from alembic import op

revision = "0025"
down_revision = "0024"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("account", sa.Column("password_set_at", sa.DateTime(timezone=True)))
    op.add_column("account", sa.Column("password_set_from", sa.Text(), nullable=False, server_default=""))
    op.add_column("account", sa.Column("password_is_given", sa.Boolean(), nullable=False, server_default=sa.false()))


def downgrade() -> None:
    for name in ("password_set_at", "password_set_from", "password_is_given"):
        op.drop_column("account", name)
