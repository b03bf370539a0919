"""Every row of a job counts its version on, and every row of the shop's own the shop's: what is known holds that long."""

import sqlalchemy as sa
from alembic import op

revision = "0027"
down_revision = "0026"
branch_labels = None
depends_on = None

OF_A_JOB = ("part", "cut", "kept_answer", "suspect_reading", "gauge_reading")
"""Tables with a job_id whose new rows did not count its version on so far."""
OF_THE_SHOP = ("instrument", "machine", "chuck", "instrument_check", "shop_rule", "stock_bar", "gauge_binding")
_HEAD = "LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS"
_COUNT = "UPDATE shop_version SET version = version + 1"
_ON = "AFTER INSERT ON {table} REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION"


def upgrade() -> None:
    op.create_table(
        "shop_version",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("version", sa.BigInteger(), server_default="1", nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_shop_version"),
    )
    op.execute("INSERT INTO shop_version (id) VALUES (1)")
    op.execute(f"CREATE FUNCTION shop_changed() RETURNS trigger {_HEAD} $$ BEGIN {_COUNT}; RETURN NULL; END $$")
    op.execute(
        f"CREATE FUNCTION shop_chose() RETURNS trigger {_HEAD} $$ BEGIN "
        f"{_COUNT} WHERE EXISTS (SELECT FROM added WHERE job_id IS NULL); RETURN NULL; END $$"
    )
    for table in OF_THE_SHOP:
        op.execute(f"CREATE TRIGGER shop_changed {_ON.format(table=table)} shop_changed()")
    op.execute(f"CREATE TRIGGER shop_chose {_ON.format(table='shop_setting')} shop_chose()")
    op.execute(
        "CREATE TRIGGER shop_changed AFTER INSERT OR UPDATE OR DELETE ON account FOR EACH STATEMENT "
        "EXECUTE FUNCTION shop_changed()"
    )
    for table in OF_A_JOB:
        op.execute(f"CREATE TRIGGER job_changed {_ON.format(table=table)} job_changed()")
    op.execute(f"CREATE TRIGGER truing_changed {_ON.format(table='truing_reading')} truing_changed()")


def downgrade() -> None:
    op.execute("DROP TRIGGER truing_changed ON truing_reading")
    for table in OF_A_JOB:
        op.execute(f"DROP TRIGGER job_changed ON {table}")
    for table in (*OF_THE_SHOP, "account"):
        op.execute(f"DROP TRIGGER shop_changed ON {table}")
    op.execute("DROP TRIGGER shop_chose ON shop_setting")
    op.execute("DROP FUNCTION shop_chose()")
    op.execute("DROP FUNCTION shop_changed()")
    op.drop_table("shop_version")
