"""What a job's part lends to the worksheets of lengths."""

import pytest

from tests.web.conftest import Hand
from tests.web.parts import number_of, start

LINES = (
    "od 30 ±0.1 x 20 ±0.1\nod 20 ±0.1 x 12 ±0.05\ngroove 2 ±0.1 wide to 16 ±0.1 at 23 ±0.1 from the left\nlength 32"
    " ±0.1"
)


def test_its_lengths_are_lent_to_a_chain(orla: Hand) -> None:
    page = orla.get(f"/chain?job={number_of(start(orla, LINES))}").text
    assert "H 31.900/32.100 mm" in page
    assert "- B 19.900/20.100 mm" in page
    assert "- D 11.950/12.050 mm" in page
    assert "- G" not in page  # where a groove lies is no link of it
    assert "The numbers are an example" not in page
    left = page.split('class="big num"')[1].split("</p>")[0]
    for ends in ("0.25", "0.0098"):  # 31.9 − 20.1 − 12.05 to 32.1 − 19.9 − 11.95, in either unit
        assert left.count(ends) == 2


def test_its_steps_and_grooves_are_lent_to_a_turret_of_stops(orla: Hand) -> None:
    page = orla.get(f"/stops?job={number_of(start(orla, LINES))}").text
    assert "turn A, at 20.000 mm, dial 30.000 mm" in page
    assert "groove E, at 25.000 mm, dial 16.000 mm" in page
    assert 'class="problem"' not in page


def test_its_first_groove_is_lent_to_the_table_of_positions(orla: Hand) -> None:
    number = number_of(start(orla, LINES))
    page = orla.get(f"/groove?job={number}").text
    for value in ("23.000 mm", "2.000 mm", "16.000 mm", "20.000 mm"):
        assert f'value="{value}"' in page
    assert f"/stops?job={number}" in orla.get(f"/jobs/{number}/part").text


def test_a_part_without_lengths_lends_none(orla: Hand) -> None:
    assert "The numbers are an example" not in orla.get(f"/chain?job={number_of(start(orla, '28 ±0.1'))}").text


def test_its_chain_is_drawn_on_its_section(orla: Hand) -> None:
    page = orla.get(f"/chain?job={number_of(start(orla, LINES))}").text
    on_part = page.split('aria-label="On the part"')[1].split("</svg>")[0]
    assert [f">{name}<" in on_part for name in ("H", "B", "D")] == [True] * 3
    assert "left over" not in on_part  # its steps fill it


def test_what_two_steps_leave_of_the_whole_is_shown_where_it_lies(orla: Hand) -> None:
    number = number_of(start(orla, "od 30 ±0.1 x 20 ±0.1\nod 20 ±0.1\noverall 32 ±0.1"))
    assert ">left over<" in orla.get(f"/chain?job={number}").text


@pytest.mark.parametrize(
    ("lines", "links"),
    [
        ("od 30 ±0.1\nlength 32 ±0.1\nbore 10 ±0.1 x 25 ±0.1 deep", ("B 31.900/32.100 mm", "- D 24.900/25.100 mm")),
        ("od 30 ±0.1\nlength 32 ±0.1\ngroove 2 ±0.1 wide to 16 ±0.1 at 23 ±0.1 from the left",
         ("B 31.900/32.100 mm", "- E 22.900/23.100 mm", "- C 1.900/2.100 mm")),
    ],
)  # fmt: skip
def test_a_part_of_one_length_lends_what_ends_within_it(orla: Hand, lines: str, links: tuple[str, ...]) -> None:
    page = orla.get(f"/chain?job={number_of(start(orla, lines))}").text
    assert "\n".join(links) in page


def test_a_chain_between_faces_of_two_datums(orla: Hand) -> None:
    page = orla.get(
        "/chain", params={"links": "A-B 40 ±0.1\nA-C 65 ±0.05\nC-D 14.6 +0/-0.1", "between": "B-D", "unit": "mm"}
    ).text
    assert page.split('class="big num"')[1].split("</p>")[0].count("39.35") == 1
    assert "Not in this chain" not in page
