"""A readout that talks: its lines understood or refused, told and not kept, and the simulated one."""

import json
from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st
from sqlalchemy import func, select

from nomisma.core.errors import InputError
from nomisma.demo.shop import GAUGE_TOKEN
from nomisma.devices.protocol import READOUT_PROTOCOL, Axis, ReadoutMessage, read_line
from nomisma.devices.simulated_readout import SimulatedReadout, script_moves
from nomisma.store.database import engine_for, sessions_of
from nomisma.store.models import GaugeReading
from tests.devices.test_gauges import answered, heard


def line(**more: object) -> bytes:
    message = {
        "protocol": READOUT_PROTOCOL,
        "gauge": "g",
        "token": GAUGE_TOKEN,
        "run": "a",
        "number": 1,
        "job": 104,
        "positions": {"x": "25.012 mm", "z": "-3.4 mm"},
    }
    return json.dumps({key: value for key, value in {**message, **more}.items() if value is not None}).encode() + b"\n"


def test_a_line_says_where_the_slides_stand() -> None:
    found = read_line(line())
    assert isinstance(found, ReadoutMessage)
    assert {axis: one.mm for axis, one in found.lengths().items()} == {"x": Decimal("25.012"), "z": Decimal("-3.4")}


@pytest.mark.parametrize(
    "more",
    [{"positions": {}}, {"positions": {"y": "1 mm"}}, {"positions": {"x": "far"}}, {"positions": "25 mm"},
        {"positions": {"x": "1e99 mm"}},
     {"x_reads": "both"}, {"zero_set": "z" * 21}, {"protocol": "nomisma-readout/2"}, {"token": None}, {"number": 0}],
)  # fmt: skip
def test_a_line_that_is_none_is_refused_with_a_sentence(more: dict[str, object]) -> None:
    with pytest.raises(InputError):
        read_line(line(**more))


def test_positions_are_told_and_nothing_is_kept(shop_url: str) -> None:
    engine = engine_for(shop_url)
    with sessions_of(engine)() as session:
        before = session.scalar(select(func.count()).select_from(GaugeReading))
    assert [one.ok for one in answered(shop_url, line(), line(number=2))] == [True, True]
    with sessions_of(engine)() as session:
        assert session.scalar(select(func.count()).select_from(GaugeReading)) == before
    engine.dispose()


@pytest.mark.parametrize(
    ("more", "sentence"),
    [({"job": 999}, "No open job takes"), ({"job": 101}, "No open job takes"), ({"token": "guess"}, "not the token")],
)
def test_no_open_job_and_no_token_are_told(shop_url: str, more: dict[str, object], sentence: str) -> None:
    (found,) = answered(shop_url, line(**more))
    assert not found.ok
    assert sentence in found.error


def test_the_simulated_one_is_heard(shop_url: str) -> None:
    with (
        heard(shop_url) as port,
        SimulatedReadout("rough", Decimal(0), "mm", token=GAUGE_TOKEN, job=104, port=port) as readout,
    ):
        assert readout.tell() == {"x": "0.000 mm", "z": "0.000 mm"}


class Unheard(SimulatedReadout):
    """One that nobody listens to."""

    def _deliver(self, number: int, what: dict[str, object]) -> None:
        pass


def quiet(
    *, a_second: float = 8, scale_error_ppm: Decimal = Decimal(0), noise: Decimal = Decimal(0), seed: int = 0
) -> SimulatedReadout:
    slides: dict[Axis, Decimal] = {"x": Decimal(25), "z": Decimal(0)}
    return Unheard(
        "g",
        Decimal(0),
        "mm",
        slides_mm=slides,
        a_second=a_second,
        scale_error_ppm=scale_error_ppm,
        noise=noise,
        seed=seed,
    )


def test_a_script_moves_the_slides_evenly_and_ends_where_it_says() -> None:
    told = list(quiet(a_second=4).play(script_moves("x 24 mm in 2; wait 1; z -10"), sleep=lambda _: None))
    assert told[0] == {"x": "25.000 mm", "z": "0.000 mm"}
    assert told[4] == {"x": "24.500 mm", "z": "0.000 mm"}
    assert told[-1] == {"x": "24.000 mm", "z": "-10.000 mm"}


def test_a_scale_that_is_out_reads_so_many_millionths_more() -> None:
    assert quiet(scale_error_ppm=Decimal(200)).shown()["x"] == "25.005 mm"


@given(st.integers(0, 2**31))
def test_jitter_is_seldom_more_than_four_of_its_deviations(seed: int) -> None:
    shown = quiet(noise=Decimal("0.002"), seed=seed).shown()["x"]
    assert abs(Decimal(shown.split()[0]) - 25) <= Decimal("0.013")


@pytest.mark.parametrize("script", ["x", "y 3", "x far", "wait long", "x 3 in -1", "x 3 in 9999999"])
def test_a_script_that_is_none_has_its_sentence(script: str) -> None:
    with pytest.raises(InputError):
        script_moves(script)
