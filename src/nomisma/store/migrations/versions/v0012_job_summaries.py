"""How each job stands, worked out once and kept beside the log until something of the job changes."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0012"
down_revision = "0011"
branch_labels = None
depends_on = None

SAYS_SOMETHING_OF_A_JOB = (
    "feature", "joint", "partner_statement", "limits", "reading", "decision", "job_event", "shop_setting", "assembly_plan", "assembly_result",
)  # fmt: skip
"""Tables with a job_id whose new rows may change how that job stands."""

_FUNCTION = """
CREATE FUNCTION {name}() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
    {body};
    RETURN NULL;
END $$
"""
_CHANGED = "UPDATE job_summary SET version = version + 1 WHERE job_id IN ({jobs})"
_IN_DOUBT = """
    SELECT r.job_id FROM added JOIN instrument i ON coalesce(i.of_id, i.id) = added.of_id JOIN reading r ON r.instrument_id = i.id
    WHERE abs(added.zero_error_mm) > added.permitted_error_mm AND r.at > coalesce((
        SELECT max(good.at) FROM instrument_check good
        WHERE good.of_id = added.of_id AND good.at < added.at AND abs(good.zero_error_mm) <= good.permitted_error_mm), '-infinity')
"""


def upgrade() -> None:
    op.create_table(
        "job_summary",
        sa.Column("job_id", sa.Uuid(), nullable=False),
        sa.Column("version", sa.BigInteger(), server_default="1", nullable=False),
        sa.Column("computed", sa.BigInteger(), server_default="0", nullable=False),
        sa.Column("computed_by", sa.Text(), server_default="", nullable=False),
        sa.Column("begun", sa.Boolean(), server_default="false", nullable=False),
        sa.Column("needs_decision", sa.Boolean(), server_default="false", nullable=False),
        sa.Column("shown", JSONB(), server_default="{}", nullable=False),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"], name="fk_job_summary_job_id"),
        sa.PrimaryKeyConstraint("job_id", name="pk_job_summary"),
    )
    op.execute("CREATE INDEX ix_job_summary_to_compute ON job_summary (job_id) WHERE computed <> version")
    op.execute("INSERT INTO job_summary (job_id) SELECT id FROM job")
    _on_insert("job", "job_opened", "INSERT INTO job_summary (job_id) SELECT id FROM added")
    _function("job_changed", _CHANGED.format(jobs="SELECT job_id FROM added"))
    for table in SAYS_SOMETHING_OF_A_JOB:
        _trigger(table, "job_changed")
    of_feature = "SELECT feature.job_id FROM added JOIN feature ON feature.id = added.feature_id"
    _on_insert("feature_event", "job_changed_by_feature", _CHANGED.format(jobs=of_feature))
    _on_insert("instrument_check", "jobs_put_in_doubt", _CHANGED.format(jobs=_IN_DOUBT))


def _on_insert(table: str, name: str, body: str) -> None:
    _function(name, body)
    _trigger(table, name)


def _function(name: str, body: str) -> None:
    op.execute(_FUNCTION.format(name=name, body=body))


def _trigger(table: str, function: str) -> None:
    op.execute(
        f"CREATE TRIGGER {function} AFTER INSERT ON {table} REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION {function}()"
    )
