"""Open formats in and out: a job's record as JSON and CSV.

Imports only core; takes plain records, knows no database and no web.
"""
