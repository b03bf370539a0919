"""A job gets parts, features and joints: what hung on its shaft or its bore hangs on a feature, row by row as it was."""

import sqlalchemy as sa
from alembic import op

from nomisma.store.migrations.guard import guard

revision = "0011"
down_revision = "0010"
branch_labels = None
depends_on = None

OF_MADE = ("limits", "cut", "decision", "gauge_binding", "gauge_reading")
OF_PARTNER = ("partner_statement",)
OF_EITHER = ("reading", "reading_doubt")
OF_JOINT = ("assembly_plan", "assembly_result")
MM = sa.Numeric(precision=24, scale=12)
INDEXES = (  # table, former, new, columns behind the feature or the joint
    ("reading", "ix_reading_job_member_sequence", "ix_reading_feature_sequence", ["sequence"]),
    ("cut", "ix_cut_job_sequence", "ix_cut_feature_sequence", ["sequence"]),
    ("decision", "ix_decision_job_sequence", "ix_decision_feature_sequence", ["sequence"]),
    ("gauge_reading", "ix_gauge_reading_job_sequence", "ix_gauge_reading_feature_sequence", ["sequence"]),
    ("partner_statement", "ix_partner_statement_job_at", "ix_partner_statement_feature_at", ["at"]),
    ("assembly_plan", "ix_assembly_plan_job_sequence", "ix_assembly_plan_joint_sequence", ["sequence"]),
    ("assembly_result", "ix_assembly_result_job_sequence", "ix_assembly_result_joint_sequence", ["sequence"]),
)


def upgrade() -> None:
    _tables()
    _parts_of_every_job()
    for table in (*OF_MADE, *OF_PARTNER, *OF_EITHER):
        op.add_column(table, sa.Column("feature_id", sa.Uuid(), nullable=True))
    for table in OF_JOINT:
        op.add_column(table, sa.Column("joint_id", sa.Uuid(), nullable=True))
    _limits_of_any_feature()
    _carry_over()
    _indexes()
    for table in ("part", "feature", "feature_event", "joint"):
        guard(table)


def _table(name: str, *columns: sa.schema.SchemaItem) -> None:
    op.create_table(
        name,
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("sequence", sa.BigInteger(), sa.Identity(), nullable=False),
        *columns,
        sa.Column("by_id", sa.Uuid(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.ForeignKeyConstraint(["by_id"], ["account.id"], name=f"fk_{name}_by_id"),
        sa.PrimaryKeyConstraint("id", name=f"pk_{name}"),
        sa.UniqueConstraint("sequence", name=f"uq_{name}_sequence"),
    )


def _to(table: str, column: str, of: str) -> sa.ForeignKeyConstraint:
    return sa.ForeignKeyConstraint([column], [f"{of}.id"], name=f"fk_{table}_{column}")


def _text(name: str, *, default: str | None = None) -> sa.Column[str]:
    return sa.Column(name, sa.Text(), server_default=default, nullable=False)


def _id(name: str) -> sa.Column[object]:
    return sa.Column(name, sa.Uuid(), nullable=False)


def _tables() -> None:
    _table(
        "part",
        _id("job_id"),
        _text("title", default=""),
        sa.Column("made_here", sa.Boolean(), nullable=False),
        _to("part", "job_id", "job"),
    )
    _table(
        "feature",
        _id("job_id"),
        _id("part_id"),
        _text("letter"),
        _text("kind"),
        _text("title", default=""),
        _text("line_text", default=""),
        sa.Column("through", sa.Boolean(), server_default="false", nullable=False),
        _text("position_from", default=""),
        _to("feature", "job_id", "job"),
        _to("feature", "part_id", "part"),
        sa.UniqueConstraint("job_id", "letter", name="uq_feature_job_id_letter"),
    )
    _table(
        "feature_event",
        _id("feature_id"),
        _text("kind"),
        _text("reason"),
        _to("feature_event", "feature_id", "feature"),
    )
    _table(
        "joint",
        _id("job_id"),
        _id("internal_id"),
        _id("external_id"),
        _to("joint", "job_id", "job"),
        _to("joint", "internal_id", "feature"),
        _to("joint", "external_id", "feature"),
    )
    op.create_index("ix_part_job_sequence", "part", ["job_id", "sequence"])
    op.create_index("ix_feature_job_sequence", "feature", ["job_id", "sequence"])
    op.create_index("ix_feature_event_feature_sequence", "feature_event", ["feature_id", "sequence"])
    op.create_index("ix_joint_job_sequence", "joint", ["job_id", "sequence"])


def _parts_of_every_job() -> None:
    """A part made here with feature A, a part at hand with feature B, and the joint of the two."""
    for made, letter, kind in (
        (True, "A", "CASE j.partner_kind WHEN 'shaft' THEN 'bore' ELSE 'outside_diameter' END"),
        (False, "B", "CASE j.partner_kind WHEN 'shaft' THEN 'outside_diameter' ELSE 'bore' END"),
    ):
        op.execute(
            "INSERT INTO part (id, job_id, title, made_here, by_id, at) "
            f"SELECT gen_random_uuid(), j.id, '', {made}, j.by_id, j.at FROM job j ORDER BY j.number"
        )
        op.execute(
            "INSERT INTO feature (id, job_id, part_id, letter, kind, by_id, at) "
            f"SELECT gen_random_uuid(), j.id, p.id, '{letter}', {kind}, j.by_id, j.at "
            f"FROM job j JOIN part p ON p.job_id = j.id AND p.made_here = {made} ORDER BY j.number"
        )
    op.execute(
        "INSERT INTO joint (id, job_id, internal_id, external_id, by_id, at) "
        "SELECT gen_random_uuid(), j.id, inside.id, outside.id, j.by_id, j.at FROM job j "
        "JOIN feature inside ON inside.job_id = j.id AND inside.kind = 'bore' "
        "JOIN feature outside ON outside.job_id = j.id AND outside.kind = 'outside_diameter' ORDER BY j.number"
    )


def _limits_of_any_feature() -> None:
    op.add_column("limits", _text("text", default=""))
    op.add_column("limits", sa.Column("nominal_mm", MM, nullable=True))
    for column in ("lower_mm", "upper_mm", "aim_mm"):
        op.alter_column("limits", column, nullable=True)


def _carry_over() -> None:
    """Every row finds its feature or joint; the guards rest while it is written, inside this one transaction."""
    for table in (*OF_MADE, *OF_PARTNER, *OF_EITHER, *OF_JOINT):
        op.execute(f"ALTER TABLE {table} DISABLE TRIGGER append_only")
    for table in OF_MADE:
        op.execute(
            f"UPDATE {table} t SET feature_id = f.id FROM feature f WHERE f.job_id = t.job_id AND f.letter = 'A'"
        )
    for table in OF_PARTNER:
        op.execute(
            f"UPDATE {table} t SET feature_id = f.id FROM feature f WHERE f.job_id = t.job_id AND f.letter = 'B'"
        )
    for table in OF_EITHER:
        op.execute(
            f"UPDATE {table} t SET feature_id = f.id FROM feature f "
            "WHERE f.job_id = t.job_id AND f.letter = CASE t.member WHEN 'partner' THEN 'B' ELSE 'A' END"
        )
    for table in OF_JOINT:
        op.execute(f"UPDATE {table} t SET joint_id = j.id FROM joint j WHERE j.job_id = t.job_id")
    for table in (*OF_MADE, *OF_PARTNER, *OF_EITHER, *OF_JOINT):
        op.execute(f"ALTER TABLE {table} ENABLE TRIGGER append_only")


def _indexes() -> None:
    for table in (*OF_MADE, *OF_PARTNER, *OF_EITHER):
        op.alter_column(table, "feature_id", nullable=False)
        op.create_foreign_key(f"fk_{table}_feature_id", table, "feature", ["feature_id"], ["id"])
    for table in OF_JOINT:
        op.alter_column(table, "joint_id", nullable=False)
        op.create_foreign_key(f"fk_{table}_joint_id", table, "joint", ["joint_id"], ["id"])
    for table, former, new, columns in INDEXES:
        op.drop_index(former, table_name=table)
        op.create_index(new, table, ["joint_id" if table in OF_JOINT else "feature_id", *columns])
    op.drop_index("ix_reading_job_member_piece_cut", table_name="reading")
    op.create_index("ix_reading_feature_piece_cut", "reading", ["feature_id", "piece", sa.text("cut_number DESC")])
    op.drop_constraint("uq_limits_job_id_version", "limits", type_="unique")
    op.create_unique_constraint("uq_limits_feature_id_version", "limits", ["feature_id", "version"])
    for table in OF_EITHER:
        op.drop_column(table, "member")
    op.drop_column("job", "partner_kind")
