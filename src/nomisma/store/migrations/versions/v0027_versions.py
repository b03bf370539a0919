"""Every row of a job counts its version on, what is said of it that as well, and every row of the shop's own the shop's:
what was read holds that long.
"""

import sqlalchemy as sa
from alembic import op

revision = "0027"
down_revision = "0026"
branch_labels = None
depends_on = None

SAID = ("part", "kept_answer")
"""Tables with a job_id, of what is said of a job, whose new rows did not count its version on so far."""
MEASURED = ("cut", "suspect_reading", "gauge_reading")
"""The same of what is cut and read of it."""
COUNTED_AS_SAID = ("reading",)
"""What is read of a job, which counts its version on already; from now on only that."""
OF_THE_SHOP = ("instrument", "machine", "chuck", "instrument_check", "shop_rule", "stock_bar", "gauge_binding")
_HEAD = "LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS"
_COUNT = "UPDATE shop_version SET version = version + 1"
_JOB = "UPDATE job_summary SET version = version + 1{more} WHERE job_id IN (SELECT {of})"
_BY_FEATURE = "feature.job_id FROM added JOIN feature ON feature.id = added.feature_id"
_SAID_TOO = ", said = said + 1"
_ON = "AFTER INSERT ON {table} REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION"


def _counting(name: str, statement: str) -> None:
    op.execute(f"CREATE OR REPLACE FUNCTION {name}() RETURNS trigger {_HEAD} $$ BEGIN {statement}; RETURN NULL; END $$")


def upgrade() -> None:
    op.add_column("job_summary", sa.Column("said", sa.BigInteger(), server_default="1", nullable=False))
    _counting("job_changed", _JOB.format(more=_SAID_TOO, of="job_id FROM added"))
    _counting("job_changed_by_feature", _JOB.format(more=_SAID_TOO, of=_BY_FEATURE))
    _counting("job_measured", _JOB.format(more="", of="job_id FROM added"))
    for table in COUNTED_AS_SAID:
        op.execute(f"DROP TRIGGER job_changed ON {table}")
    for table in (*COUNTED_AS_SAID, *MEASURED):
        op.execute(f"CREATE TRIGGER job_measured {_ON.format(table=table)} job_measured()")
    op.create_table(
        "shop_version",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("version", sa.BigInteger(), server_default="1", nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_shop_version"),
    )
    op.execute("INSERT INTO shop_version (id) VALUES (1)")
    _counting("shop_changed", _COUNT)
    _counting("shop_chose", f"{_COUNT} WHERE EXISTS (SELECT FROM added WHERE job_id IS NULL)")
    for table in OF_THE_SHOP:
        op.execute(f"CREATE TRIGGER shop_changed {_ON.format(table=table)} shop_changed()")
    op.execute(f"CREATE TRIGGER shop_chose {_ON.format(table='shop_setting')} shop_chose()")
    op.execute(
        "CREATE TRIGGER shop_changed AFTER INSERT OR UPDATE OR DELETE ON account FOR EACH STATEMENT "
        "EXECUTE FUNCTION shop_changed()"
    )
    for table in SAID:
        op.execute(f"CREATE TRIGGER job_changed {_ON.format(table=table)} job_changed()")
    op.execute(f"CREATE TRIGGER truing_changed {_ON.format(table='truing_reading')} truing_changed()")


def downgrade() -> None:
    op.execute("DROP TRIGGER truing_changed ON truing_reading")
    for table in (*COUNTED_AS_SAID, *MEASURED):
        op.execute(f"DROP TRIGGER job_measured ON {table}")
    op.execute("DROP FUNCTION job_measured()")
    for table in SAID:
        op.execute(f"DROP TRIGGER job_changed ON {table}")
    for table in COUNTED_AS_SAID:
        op.execute(f"CREATE TRIGGER job_changed {_ON.format(table=table)} job_changed()")
    _counting("job_changed", _JOB.format(more="", of="job_id FROM added"))
    _counting("job_changed_by_feature", _JOB.format(more="", of=_BY_FEATURE))
    op.drop_column("job_summary", "said")
    for table in (*OF_THE_SHOP, "account"):
        op.execute(f"DROP TRIGGER shop_changed ON {table}")
    op.execute("DROP TRIGGER shop_chose ON shop_setting")
    op.execute("DROP FUNCTION shop_chose()")
    op.execute("DROP FUNCTION shop_changed()")
    op.drop_table("shop_version")
