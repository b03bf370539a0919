"""The shelf of slips on its page, and the pile that is built of it."""

from typing import Any

from tests.web.conftest import Hand


def test_a_pile_is_built_of_what_is_on_the_shelf(orla: Hand) -> None:
    orla.send("/shop/slips", unit="mm", set="m47", missing="30", own="", wear="2 2", grade="1")
    try:
        shown = orla.get("/shop/slips").text
        assert "46" in shown
        built = orla.get("/slips?target=34.12&wear_pieces=2&unit=mm").text
        assert "2 + 20 + 9 + 1.12 + 2" in built
    finally:
        orla.send("/shop/slips", unit="mm", set="m88", missing="", own="", wear="", grade="1")


def test_what_is_on_no_shelf_is_refused_and_kept_typed(orla: Hand) -> None:
    refused = orla.send("/shop/slips", unit="in", set="in81", missing="7.77", own="", wear="", grade="1")
    assert refused.status_code == 422
    assert "There is no 7.77 in in the set" in refused.text
    assert 'value="7.77"' in refused.text


def test_an_apprentice_sees_the_shelf_and_enters_none(hands: Any) -> None:
    pim = hands("pim")
    assert "entered by a machinist or the lead" in pim.get("/shop/slips").text
    assert pim.send("/shop/slips", unit="mm", set="m47", grade="1").status_code == 403
