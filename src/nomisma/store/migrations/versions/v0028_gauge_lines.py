"""Tokens are the shop's: what was read of them holds as long as nothing of the shop was written. A gauge's reading of a
job that is handed over is refused where it is written, as everything of a closed job is.
"""

from alembic import op

revision = "0028"
down_revision = "0027"
branch_labels = None
depends_on = None

_ON = "AFTER INSERT ON {table} REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION"


def upgrade() -> None:
    op.execute(f"CREATE TRIGGER shop_changed {_ON.format(table='access_token')} shop_changed()")
    op.execute(f"CREATE TRIGGER refuse_closed_job {_ON.format(table='gauge_reading')} refuse_closed_job()")


def downgrade() -> None:
    op.execute("DROP TRIGGER refuse_closed_job ON gauge_reading")
    op.execute("DROP TRIGGER shop_changed ON access_token")
