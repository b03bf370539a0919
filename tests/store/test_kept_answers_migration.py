"""Answers kept before fit systems and methods had their names are shown as they were."""

from sqlalchemy import text

from nomisma.cluster import Cluster
from nomisma.store.database import engine_for, migrate

KEPT = """
INSERT INTO account (id, sign_in_name, name, role, password_hash)
VALUES (gen_random_uuid(), 'nell', 'Nell Rook', 'lead', 'x');
INSERT INTO job (id, title, unit, by_id) SELECT gen_random_uuid(), 'Arbor', 'mm', id FROM account;
INSERT INTO part (id, job_id, title, made_here, by_id) SELECT gen_random_uuid(), id, '', true, by_id FROM job;
INSERT INTO feature (id, job_id, part_id, letter, kind, by_id) SELECT gen_random_uuid(), job_id, id, 'A',
    'outside_diameter', by_id FROM part;
INSERT INTO kept_answer (id, job_id, feature_id, calculation, unit, asked, answer, by_id)
SELECT gen_random_uuid(), f.job_id, f.id, k.calculation, 'mm', k.asked::jsonb, k.answer::jsonb, f.by_id
FROM feature f, (VALUES
    ('find_fit', '{"nominal": "25 mm", "school": "iso"}',
        '{"fits": [{"name": "H7/g6", "school": "iso"}], "working": [{"school": "x"}]}'),
    ('find_fit', '{"nominal": "26 mm"}', '{"fits": []}'),
    ('aim', '{"limits": "25 g6"}', '{"aims": [{"school": "middle", "aim": "1"}, {"school": "costed", "aim": "2"}]}'),
    ('speeds', '{"diameter": "25"}', '{"speed": 3}')) AS k(calculation, asked, answer)
"""


def test_kept_answers_find_their_keys_under_the_new_names(cluster: Cluster) -> None:
    cluster.create_database("before_names")
    engine = engine_for(cluster.url("before_names"))
    migrate(engine, "0018")
    with engine.begin() as connection:
        connection.exec_driver_sql(KEPT)
    migrate(engine)
    with engine.connect() as connection:
        rows = connection.execute(text("SELECT calculation, asked, answer FROM kept_answer ORDER BY sequence")).all()
    engine.dispose()
    assert [(row.calculation, row.asked, row.answer) for row in rows] == [
        (
            "find_fit",
            {"nominal": "25 mm", "fit_system": "iso"},
            {"fits": [{"name": "H7/g6", "fit_system": "iso"}], "working": [{"school": "x"}]},
        ),
        ("find_fit", {"nominal": "26 mm"}, {"fits": []}),
        ("aim", {"limits": "25 g6"}, {"aims": [{"method": "middle", "aim": "1"}, {"method": "costed", "aim": "2"}]}),
        ("speeds", {"diameter": "25"}, {"speed": 3}),
    ]
