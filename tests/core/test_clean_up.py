"""Whether stock cleans up, and how deep the first cut goes."""

from typing import Any

from nomisma.core.registry import calculation_named


def clean_up(**given: str) -> Any:
    return calculation_named("clean_up").run({"wanted": "1.375 in", **given})


def test_stock_that_runs_out_too_far_does_not_clean_up_and_what_gives_is_said() -> None:
    found = clean_up(stock="1.388 in", runout="0.010 in", scale="0.003 in")
    assert not found.cleans_up
    assert "0.0030 in short all round" in found.sentence
    assert "True it within 0.0070 in" in found.gives[0]


def test_stock_with_enough_says_how_deep_the_first_cut_goes() -> None:
    found = clean_up(stock="1.388 in", runout="0.004 in", scale="0.002 in", ovality="0.001 in")
    assert found.cleans_up
    assert (
        "Get under the skin in one cut: 0.0130 in on diameter or more, counted from where the tool touches"
        in found.sentence
    )


def test_the_first_cut_is_said_from_the_touch_and_from_the_size() -> None:
    """1.388, runout 0.006, scale 0.003: from the high side 2·0.006 + 2·0.003, from the size 0.006 + 2·0.003."""
    found = clean_up(stock="1.388 in", runout="0.006 in", scale="0.003 in")
    assert (str(found.first_cut_from_touch), str(found.first_cut_from_size)) == ("0.018 in", "0.012 in")


def test_a_bore_cleans_up_outwards() -> None:
    assert clean_up(kind="bore", stock="1.360 in", runout="0.005 in").cleans_up
    assert not clean_up(kind="bore", stock="1.374 in", runout="0.005 in").cleans_up
