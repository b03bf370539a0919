"""How a job stands goes by its plan and its set-ups too: what is said of them marks its summary."""

from alembic import op

revision = "0026"
down_revision = "0025"
branch_labels = None
depends_on = None

_ON = "AFTER INSERT ON {table} REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION"
_TRUED = """
CREATE FUNCTION truing_changed() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
    UPDATE job_summary SET version = version + 1
    WHERE job_id IN (SELECT t.job_id FROM added JOIN truing t ON t.id = added.truing_id WHERE t.job_id IS NOT NULL);
    RETURN NULL;
END $$
"""


def upgrade() -> None:
    op.execute(_TRUED)
    for table in ("plan_entry", "truing"):
        op.execute(f"CREATE TRIGGER job_changed {_ON.format(table=table)} job_changed()")
    op.execute(f"CREATE TRIGGER truing_changed {_ON.format(table='truing_event')} truing_changed()")


def downgrade() -> None:
    op.execute("DROP TRIGGER truing_changed ON truing_event")
    for table in ("plan_entry", "truing"):
        op.execute(f"DROP TRIGGER job_changed ON {table}")
    op.execute("DROP FUNCTION truing_changed()")
