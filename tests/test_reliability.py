"""Nothing is lost: the server killed and PostgreSQL crashed under load; benchmarks/reliability.py does it as often as
you like.
"""

from benchmarks.reliability import run


def test_every_acknowledged_reading_is_there_once_in_order_and_none_is_invented() -> None:
    found = run(1)
    assert (found.lost, found.doubled, found.invented, found.out_of_order) == (0, 0, 0, 0)
    assert len(found.client.acknowledged) > 20
    assert len(found.gauge.acknowledged) > 20
    assert len(found.client.sent) - len(found.client.acknowledged) <= 1
    assert found.client.tries > len(found.client.sent)  # it was away, and tried again
