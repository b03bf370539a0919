"""What is kept: SQLAlchemy models, queries and migrations on PostgreSQL; the log is append-only, held by triggers.

Imports only core. Lengths are numeric in mm plus the text as entered; time is UTC.
"""
