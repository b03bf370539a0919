"""Tokens are the shop's: what was read of them holds as long as nothing of the shop was written. A gauge's reading of a
job that is handed over is refused where it is written, as everything of a closed job is. What is measured of several jobs
in one statement counts them on in their order, so that two servers never wait for each other.
"""

from alembic import op

revision = "0028"
down_revision = "0027"
branch_labels = None
depends_on = None

_ON = "AFTER INSERT ON {table} REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION"

_HEAD = "LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS"
_IN_ORDER = "PERFORM FROM job_summary WHERE job_id IN (SELECT job_id FROM added) ORDER BY job_id FOR UPDATE; "
_COUNT = "UPDATE job_summary SET version = version + 1 WHERE job_id IN (SELECT job_id FROM added); "


def _measured(does: str) -> None:
    op.execute(f"CREATE OR REPLACE FUNCTION job_measured() RETURNS trigger {_HEAD} $$ BEGIN {does}RETURN NULL; END $$")


def upgrade() -> None:
    # Only after the foreign keys hold the jobs themselves: a hand-over takes both in that order too.
    _measured(_IN_ORDER + _COUNT)
    op.execute(f"CREATE TRIGGER shop_changed {_ON.format(table='access_token')} shop_changed()")
    op.execute(f"CREATE TRIGGER refuse_closed_job {_ON.format(table='gauge_reading')} refuse_closed_job()")


def downgrade() -> None:
    _measured(_COUNT)
    op.execute("DROP TRIGGER refuse_closed_job ON gauge_reading")
    op.execute("DROP TRIGGER shop_changed ON access_token")
