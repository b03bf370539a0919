"""Pages that calculate share slots, as programs do: who waits too long is told, and keeps what was typed."""

from starlette.testclient import TestClient

from nomisma.web.app import application
from nomisma.web.frame.slots import AT_ONCE
from tests.conftest import settings_for
from tests.web.conftest import Hand

ASKED = "/speeds?diameter=28+mm&material=mild_steel&tool=carbide"


def test_a_worksheet_that_finds_no_slot_says_so_and_keeps_what_was_typed(shop_url: str) -> None:
    app = application(settings_for(shop_url, calculation_seconds=0.01))
    with TestClient(app, base_url="http://bench.test") as client:
        orla = Hand(client).sign_in()
        assert "busy with other sums" not in orla.get(ASKED).text
        slots = [app.state.slots.slot(1) for _ in range(AT_ONCE)]
        for one in slots:
            one.__enter__()
        busy = orla.get(ASKED)
        assert busy.status_code < 500
        assert "busy with other sums" in busy.text
        assert 'value="28 mm"' in busy.text
        for one in slots:
            one.__exit__(None, None, None)
        assert "busy with other sums" not in orla.get(ASKED).text
