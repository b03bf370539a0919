"""Suspect readings are called what the field calls them."""

from alembic import op

revision = "0017"
down_revision = "0016"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.execute("ALTER TABLE reading_doubt RENAME TO suspect_reading")
    op.execute("ALTER TABLE reading RENAME COLUMN doubt_id TO suspect_id")
    op.execute("ALTER INDEX ix_reading_doubt_job_at RENAME TO ix_suspect_reading_job_at")
    op.execute("ALTER INDEX pk_reading_doubt RENAME TO pk_suspect_reading")
