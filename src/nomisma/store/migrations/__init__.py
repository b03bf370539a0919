"""Alembic migrations, oldest first in versions/."""
