"""A shop of the version before parts: every row finds its feature, and every verdict is what it was."""

from collections.abc import Iterator
from decimal import Decimal

import pytest
from sqlalchemy import Engine, select, text
from sqlalchemy.orm import undefer

from nomisma.cluster import Cluster
from nomisma.jobs.standing.lookup import state_numbered
from nomisma.jobs.standing.state import JobState
from nomisma.store import readings, shop
from nomisma.store.database import engine_for, migrate, sessions_of
from nomisma.store.models import Limits

TABLES = ("job", "limits", "reading", "reading_doubt", "cut", "decision", "gauge_binding", "gauge_reading",
    "partner_statement",
          "assembly_plan", "assembly_result", "job_event")  # fmt: skip
NOW = {"reading_doubt": "suspect_reading", "decision": "disposition"}
"""What a table is called today."""
FORMER = """
INSERT INTO account (id, sign_in_name, name, role, password_hash)
VALUES (gen_random_uuid(), 'nell', 'Nell Rook', 'lead', 'x');
INSERT INTO instrument (id, name, measures, unit, resolution_mm, resolution_text, permitted_error_mm,
    permitted_error_text,
    repeatability_mm, repeatability_text, by_id)
SELECT gen_random_uuid(), 'Micrometer', 'both', 'mm', 0.001, '0.001', 0.002, '0.002', 0.0005, '0.0005', id FROM account;
INSERT INTO job (id, title, unit, partner_kind, by_id)
SELECT gen_random_uuid(), title, 'mm', partner, account.id
FROM account, (VALUES ('Bore for a shaft', 'shaft'), ('Shaft for a bore', 'bore'), ('Nothing measured',
    'bore')) AS j(title, partner);
INSERT INTO limits (id, job_id, version, school, option_name, lower_mm, upper_mm, aim_mm, inputs, option, by_id)
SELECT gen_random_uuid(), id, v, 'iso', 'H7/g6', 20.000, 20.021, 20.010,
    '{"school": "iso", "function": "turns"}', '{"school": "iso", "name": "H7/g6"}', by_id
FROM job, generate_series(1, 2) v WHERE title <> 'Nothing measured';
INSERT INTO reading_doubt (id, job_id, member, place, size_mm, size_text, size_unit, instrument_id, sentence, by_id)
SELECT gen_random_uuid(), j.id, m, 'middle 0°', 19.5, '19.5', 'mm', i.id, 'asked', j.by_id
FROM job j, instrument i, (VALUES ('partner'), ('made')) AS of(m);
INSERT INTO reading (id, job_id, member, place, size_mm, size_text, size_unit, cut_number, instrument_id,
    limits_id, reason, withdrawn, by_id)
SELECT gen_random_uuid(), j.id, r.member, 'middle 0°', r.size, r.size::text, 'mm', r.cut, i.id, l.id, '', false, j.by_id
FROM job j JOIN limits l ON l.job_id = j.id AND l.version = 2 CROSS JOIN instrument i
CROSS JOIN (VALUES ('partner', 19.988, 0), ('partner', 19.989, 0), ('made', 19.700, 0), ('made', 20.012, 1)) AS
    r(member, size, cut);
INSERT INTO cut (id, job_id, cut_number, set_up, school, dialled_mm, dialled_text, before_mm, by_id)
SELECT gen_random_uuid(), id, 1, 1, 'equal_cuts', 0.3, '0.3', 19.700, by_id FROM job WHERE title <> 'Nothing measured';
INSERT INTO decision (id, job_id, kind, state, reason, reading_ids, by_id)
SELECT gen_random_uuid(), id, 'use_as_is', 'too_close_to_call', 'agreed', '[]', by_id
FROM job WHERE title = 'Shaft for a bore';
INSERT INTO gauge_binding (id, gauge, job_id, by_id) SELECT gen_random_uuid(), 'bench-gauge', id, by_id FROM job;
INSERT INTO gauge_reading (id, gauge, run, number, job_id, size_mm, size_text, size_unit)
SELECT gen_random_uuid(), 'bench-gauge', 'run', number, id, 20.01, '20.01', 'mm' FROM job;
INSERT INTO partner_statement (id, job_id, callout, by_id)
SELECT gen_random_uuid(), id, '20 g6', by_id FROM job WHERE title = 'Bore for a shaft';
INSERT INTO assembly_plan (id, job_id, method, tool, asked, inputs, answer, by_id)
SELECT gen_random_uuid(), id, 'push', '', '{}', '{"method": "push"}', '{}', by_id
FROM job WHERE title = 'Bore for a shaft';
INSERT INTO assembly_result (id, job_id, plan_id, felt, size_unit, by_id)
SELECT gen_random_uuid(), job_id, id, 'slid_on', 'mm', by_id FROM assembly_plan;
INSERT INTO shop_setting (id, name, value, by_id)
SELECT gen_random_uuid(), s.name, s.value, account.id
FROM account, (VALUES ('school', 'inch'), ('cut_school', 'creep'), ('dial_school', 'readout'), ('aim',
    'middle')) AS s(name, value);
INSERT INTO job_event (id, job_id, kind, by_id)
SELECT gen_random_uuid(), id, 'handed_over', by_id FROM job WHERE title = 'Shaft for a bore';
"""


@pytest.fixture(scope="module")
def counted(cluster: Cluster) -> Iterator[tuple[Engine, dict[str, int]]]:
    """A filled shop of the former version brought up to date, and how many rows each of its tables had."""
    cluster.create_database("before_parts")
    engine = engine_for(cluster.url("before_parts"))
    migrate(engine, "0010")
    with engine.begin() as connection:
        for statement in FORMER.split(";\n"):
            if statement.strip():
                connection.execute(text(statement))
        before = {name: connection.scalar(text(f"SELECT count(*) FROM {name}")) for name in TABLES}
    migrate(engine)
    yield engine, before
    engine.dispose()


def state(engine: Engine, title: str) -> JobState:
    with sessions_of(engine)() as session:
        number = session.scalar(text("SELECT number FROM job WHERE title = :title"), {"title": title})
        return state_numbered(session, number)


def test_no_row_is_lost_and_none_is_added(counted: tuple[Engine, dict[str, int]]) -> None:
    engine, before = counted
    assert all(before.values())
    with engine.connect() as connection:
        assert {
            name: connection.scalar(text(f"SELECT count(*) FROM {NOW.get(name, name)}")) for name in TABLES
        } == before


def test_each_job_is_a_made_part_and_a_part_at_hand_with_their_joint(counted: tuple[Engine, dict[str, int]]) -> None:
    found = state(counted[0], "Bore for a shaft")
    assert [(one.letter, one.in_hand.row.kind, one.in_hand.made_here) for one in found.features] == [
        ("A", "bore", True),
        ("B", "outside_diameter", False),
    ]
    assert (found.kind, found.partner_kind, found.letter) == ("bore", "shaft", "A")
    assert found.joint
    assert (found.joint.planned, found.joint.assembled) == (True, True)


@pytest.mark.parametrize(
    ("title", "verdict"),
    [("Bore for a shaft", "in limits"), ("Shaft for a bore", "in limits"), ("Nothing measured", "")],
)
def test_every_verdict_is_what_it_was(counted: tuple[Engine, dict[str, int]], title: str, verdict: str) -> None:
    found = state(counted[0], title)
    assert (found.verdict.state.words if found.verdict else "") == verdict


def test_readings_go_to_the_side_they_were_taken_of(counted: tuple[Engine, dict[str, int]]) -> None:
    found = state(counted[0], "Shaft for a bore")
    assert (found.own_readings.smallest_mm, found.partner_readings.smallest_mm) == (
        Decimal("20.012"),
        Decimal("19.9885"),
    )
    with sessions_of(counted[0])() as session:
        assert [len(readings.log(session, one.feature_id)) for one in found.features] == [2, 2]


def test_what_else_was_recorded_hangs_on_the_made_feature(counted: tuple[Engine, dict[str, int]]) -> None:
    bore, shaft = state(counted[0], "Bore for a shaft"), state(counted[0], "Shaft for a bore")
    assert (bore.partner_callout, shaft.partner_callout) == ("20 g6", "")
    assert bore.limits
    assert bore.limits.version == 2
    assert shaft.handed_over
    assert shaft.in_hand.disposition
    assert shaft.in_hand.disposition.kind == "use_as_is"
    with counted[0].connect() as connection:
        strays = "SELECT count(*) FROM {0} t JOIN feature f ON f.id = t.feature_id WHERE f.letter <> 'A'"
        for table in ("limits", "cut", "disposition", "gauge_binding", "gauge_reading"):
            assert connection.scalar(text(strays.format(table))) == 0


def test_what_the_shop_chose_and_what_limits_were_asked_by_keep_their_value_under_the_new_name(
    counted: tuple[Engine, dict[str, int]],
) -> None:
    with sessions_of(counted[0])() as session:
        assert shop.settings(session) == {
            "fit_system": "inch",
            "approach": "creep",
            "dialling_method": "readout",
            "aim": "middle",
        }
        found = session.scalars(select(Limits).options(undefer(Limits.inputs), undefer(Limits.option))).first()
    assert found
    assert (found.limits_from, found.inputs) == ("iso", {"function": "turns", "fit_system": "iso"})
    assert found.option == {"name": "H7/g6", "fit_system": "iso"}


def test_the_log_is_guarded_again_afterwards(counted: tuple[Engine, dict[str, int]]) -> None:
    with counted[0].connect() as connection:
        guarded = connection.scalars(
            text("SELECT tgrelid::regclass::text FROM pg_trigger WHERE tgname = 'append_only' AND tgenabled = 'O'")
        )
        assert {NOW.get(name, name) for name in TABLES} - {"job_event"} <= set(guarded)
