"""What a job's part lends to the worksheets of lengths."""

from tests.web.conftest import Hand
from tests.web.parts import number_of, start

LINES = "od 30 ±0.1 x 20 ±0.1\nod 20 ±0.1 x 12 ±0.05\ngroove 2 ±0.1 wide to 16 ±0.1 at 23 ±0.1 from the left\nlength 32 ±0.1"


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
