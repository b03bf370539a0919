"""What was a school or a decision is called what the field calls it: fit system, approach, method, disposition."""

from alembic import op

revision = "0019"
down_revision = "0018"
branch_labels = None
depends_on = None

_CHOICES = (("school", "fit_system"), ("cut_school", "approach"), ("dial_school", "dialling_method"))
_KEPT = (("aim", "aims", "method"), ("find_fit", "fits", "fit_system"))
"""Calculations whose kept answers name it: the list in the answer, and what it is called there now."""


def upgrade() -> None:
    op.execute("ALTER TABLE limits RENAME COLUMN school TO limits_from")
    op.execute("ALTER TABLE cut RENAME COLUMN school TO approach")
    op.execute("ALTER TABLE decision RENAME TO disposition")
    op.execute("ALTER INDEX ix_decision_feature_sequence RENAME TO ix_disposition_feature_sequence")
    op.execute("ALTER INDEX pk_decision RENAME TO pk_disposition")
    op.execute("ALTER INDEX uq_decision_sequence RENAME TO uq_disposition_sequence")
    for table in ("shop_setting", "limits", "kept_answer"):
        op.execute(f"ALTER TABLE {table} DISABLE TRIGGER append_only")
    for former, name in _CHOICES:
        op.execute(f"UPDATE shop_setting SET name = '{name}' WHERE name = '{former}'")
    op.execute(f"UPDATE limits SET option = {_renamed('option', 'fit_system')} WHERE option ? 'school'")
    op.execute(f"UPDATE limits SET inputs = {_renamed('inputs', 'fit_system')} WHERE inputs ? 'school'")
    for calculation, listed, name in _KEPT:
        of_list = f"SELECT jsonb_agg({_renamed('one', name)}) FROM jsonb_array_elements(answer->'{listed}') AS one"
        op.execute(
            f"UPDATE kept_answer SET answer = jsonb_set(answer, '{{{listed}}}', ({of_list})) "
            f"WHERE calculation = '{calculation}' AND jsonb_array_length(answer->'{listed}') > 0"
        )
    op.execute(f"UPDATE kept_answer SET asked = {_renamed('asked', 'fit_system')} WHERE asked ? 'school'")
    for table in ("shop_setting", "limits", "kept_answer"):
        op.execute(f"ALTER TABLE {table} ENABLE TRIGGER append_only")


def _renamed(column: str, name: str) -> str:
    """A JSON object with its key school under another name."""
    return f"({column} - 'school' || CASE WHEN {column} ? 'school' THEN jsonb_build_object('{name}', {column}->'school') ELSE '{{}}' END)"
