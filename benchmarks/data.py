"""Shops of a given size: the demo shop, then jobs and readings in bulk, 500 readings a job."""

from sqlalchemy import Engine, text

from nomisma.cluster import Cluster
from nomisma.demo import shop
from nomisma.store.database import engine_for, migrate

READINGS_A_JOB = 500

_JOBS = """
INSERT INTO job (id, title, asked, unit, by_id, at)
SELECT gen_random_uuid(), 'Bulk job ' || n, '', 'in', (SELECT id FROM account WHERE sign_in_name = 'orla'),
       now() - n * interval '1 minute'
FROM generate_series(1, :jobs) n
"""

_NEW = "j.title LIKE 'Bulk%' AND NOT EXISTS (SELECT FROM part WHERE job_id = j.id)"
_PARTS = f"""
INSERT INTO part (id, job_id, title, made_here, by_id, at)
SELECT gen_random_uuid(), j.id, '', made, j.by_id, j.at FROM job j CROSS JOIN (VALUES (true), (false)) AS
    m(made) WHERE {_NEW}
"""

_FEATURES = """
INSERT INTO feature (id, job_id, part_id, letter, kind, by_id, at)
SELECT gen_random_uuid(), p.job_id, p.id, l.letter, l.kind, p.by_id, p.at
FROM part p JOIN job j ON j.id = p.job_id
CROSS JOIN LATERAL (
    SELECT 'A' AS letter, 'bore' AS kind WHERE p.made_here
    UNION ALL SELECT 'B', 'outside_diameter' WHERE NOT p.made_here
    UNION ALL SELECT chr(66 + n), CASE n % 3 WHEN 0 THEN 'outside_diameter' WHEN 1 THEN 'length' ELSE 'depth' END
    FROM generate_series(1, 24) n WHERE p.made_here AND :features > 2 AND 66 + n <= 90
) AS l
WHERE j.title LIKE 'Bulk%' AND NOT EXISTS (SELECT FROM feature WHERE job_id = j.id)
"""

_JOINTS = """
INSERT INTO joint (id, job_id, internal_id, external_id, by_id, at)
SELECT gen_random_uuid(), j.id, a.id, b.id, j.by_id, j.at
FROM job j JOIN feature a ON a.job_id = j.id AND a.letter = 'A' JOIN feature b ON b.job_id = j.id AND b.letter = 'B'
WHERE j.title LIKE 'Bulk%' AND NOT EXISTS (SELECT FROM joint WHERE job_id = j.id)
"""

_LIMITS = """
INSERT INTO limits (id, job_id, feature_id, version, limits_from, option_name, lower_mm, upper_mm, aim_mm,
    inputs, option, by_id, at)
SELECT gen_random_uuid(), j.id, f.id, 1, l.limits_from, l.option_name, l.lower_mm, l.upper_mm, l.aim_mm,
    l.inputs, l.option, j.by_id, j.at
FROM job j JOIN feature f ON f.job_id = j.id AND f.letter <> 'B'
CROSS JOIN (SELECT l.* FROM limits l JOIN job d ON d.id = l.job_id WHERE d.title LIKE 'Dome%' ORDER BY
    l.version LIMIT 1) l
WHERE j.title LIKE 'Bulk%' AND NOT EXISTS (SELECT FROM limits WHERE job_id = j.id)
"""

_READINGS = """
INSERT INTO reading (id, job_id, feature_id, place, size_mm, size_text, size_unit, cut_number, instrument_id,
    limits_id, by_id, at)
SELECT gen_random_uuid(), j.id, CASE WHEN n <= 4 THEN b.id ELSE a.id END,
       CASE WHEN n <= 4 THEN 'near end 0°' ELSE 'mouth 0°' END,
       CASE WHEN n <= 4 THEN 22.2047 ELSE 22.25 - n * 0.00001 END, '.8742', 'in', CASE WHEN n <= 4 THEN 0 ELSE
           n / 4 END,
       (SELECT id FROM instrument WHERE name LIKE CASE WHEN n <= 4 THEN '0–1 in%' ELSE 'Bore gauge%' END),
       CASE WHEN n <= 4 THEN NULL ELSE l.id END, j.by_id, j.at
FROM job j JOIN feature a ON a.job_id = j.id AND a.letter = 'A' JOIN feature b ON b.job_id = j.id AND b.letter = 'B'
JOIN limits l ON l.feature_id = a.id CROSS JOIN generate_series(1, :readings) n
WHERE j.title LIKE 'Bulk%' AND NOT EXISTS (SELECT FROM reading WHERE job_id = j.id)
"""


def fill(cluster: Cluster, name: str, readings: int, *, short_jobs: int = 0, features: int = 2) -> str:
    """A database with about so many readings; its address."""
    cluster.create_database(name)
    url = cluster.url(name)
    engine = engine_for(url)
    migrate(engine)
    shop.load(url)
    _written(engine, jobs=readings // READINGS_A_JOB, each=READINGS_A_JOB, features=features)
    # A full bench in the small shop too, so that both pages show as much.
    _written(engine, jobs=short_jobs, each=6, features=features)
    with engine.connect().execution_options(isolation_level="AUTOCOMMIT") as connection:
        connection.execute(text("VACUUM ANALYZE"))
    engine.dispose()
    return url


def _written(engine: Engine, *, jobs: int, each: int, features: int) -> None:
    """So many jobs with so many readings each, each step after PostgreSQL knows how much the ones before wrote."""
    steps = (_JOBS, _PARTS, _FEATURES, _JOINTS, _LIMITS, _READINGS)
    given = {"jobs": jobs, "features": features, "readings": each}
    for statement in steps if jobs else ():
        with engine.begin() as connection:
            asked = {name: value for name, value in given.items() if f":{name}" in statement}
            connection.execute(text(statement), asked)
            connection.execute(text("ANALYZE"))
