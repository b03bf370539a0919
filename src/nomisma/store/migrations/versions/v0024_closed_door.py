"""A job that is handed over takes nothing more, whoever was on the way; what must see a job as it is holds it for itself."""

from alembic import op

revision = "0024"
down_revision = "0023"
branch_labels = None
depends_on = None

OF_A_JOB = (
    "assembly_plan", "assembly_result", "cut", "disposition", "feature", "joint", "kept_answer", "limits", "partner_statement", "plan_entry",
    "reading", "shop_setting", "suspect_reading", "trial", "truing",
)  # fmt: skip
"""Tables whose rows are written to a job while it is open."""

_HEAD = "LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$"
# The row of the job is held by each insert's foreign key until it commits, so a hand-over waits for it; and an insert that comes
# after a hand-over waits for that one's commit, and then finds it here.
_REFUSE = f"""
CREATE FUNCTION refuse_closed_job() RETURNS trigger {_HEAD}
BEGIN
    IF EXISTS (
        SELECT FROM (SELECT DISTINCT job_id FROM added) AS of
        CROSS JOIN LATERAL (SELECT kind FROM job_event WHERE job_event.job_id = of.job_id ORDER BY at DESC LIMIT 1) AS newest
        WHERE newest.kind = 'handed_over'
    ) THEN
        RAISE EXCEPTION 'the job is handed over' USING ERRCODE = 'NM001';
    END IF;
    RETURN NULL;
END $$
"""
_HOLD = f"""
CREATE FUNCTION hold_job(held uuid) RETURNS void {_HEAD}
BEGIN
    PERFORM FROM job WHERE id = held FOR UPDATE;
END $$
"""


def upgrade() -> None:
    op.execute(_REFUSE)
    op.execute(_HOLD)
    for table in OF_A_JOB:
        op.execute(
            f"CREATE TRIGGER refuse_closed_job AFTER INSERT ON {table} REFERENCING NEW TABLE AS added "
            "FOR EACH STATEMENT EXECUTE FUNCTION refuse_closed_job()"
        )
