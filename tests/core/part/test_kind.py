"""A kind of feature: what it says of other kinds names such that there are."""

from dataclasses import replace

import pytest

from nomisma.core.errors import UnreadableLength
from nomisma.core.part.feature_kinds import feature_kind, feature_kinds
from nomisma.core.part.kind import names_known
from nomisma.core.part.written import WrittenLine


def test_kinds_that_name_no_kind_or_share_a_word_stop_the_start() -> None:
    every = list(feature_kinds().values())
    bore = feature_kind("bore")
    others = [kind for kind in every if kind.name != "bore"]
    names_known(every)
    for wrong, said in (
        (replace(bore, long_by=("dept",)), "kind bore, long_by: no kind is a “dept”"),
        (replace(bore, second={"bore": "deepness"}), "kind bore, second: no kind is a “deepness”"),
        (replace(bore, words=("bore", "taper")), "“taper” begins a"),
    ):
        with pytest.raises(ValueError, match=said):
            names_known([*others, wrong])


def test_a_kind_without_a_second_size_refuses_one() -> None:
    assert [
        one.kind for one in feature_kind("bore").read(WrittenLine("bore 12 H7 x 20 deep", "bore", "12 H7 x 20 deep"))
    ] == [
        "bore",
        "depth",
    ]
    with pytest.raises(UnreadableLength, match="says more sizes than one length has"):
        feature_kind("length").read(WrittenLine("length 40 x 20", "length", "40 x 20"))
