"""Triggers that refuse UPDATE, DELETE and TRUNCATE on the log."""

from alembic import op

_FUNCTION = """
CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'the log is append-only: % on % is refused; write a row that supersedes', TG_OP, TG_TABLE_NAME
        USING ERRCODE = 'restrict_violation';
END $$
"""


def create_guard() -> None:
    """The trigger function, once."""
    op.execute(_FUNCTION)


def guard(table: str) -> None:
    """Refuse changes to a table's rows."""
    op.execute(
        f"CREATE TRIGGER append_only BEFORE UPDATE OR DELETE ON {table} FOR EACH ROW EXECUTE FUNCTION refuse_change()"
    )
    op.execute(
        f"CREATE TRIGGER append_only_truncate BEFORE TRUNCATE ON {table} FOR EACH STATEMENT EXECUTE FUNCTION"
        " refuse_change()"
    )
