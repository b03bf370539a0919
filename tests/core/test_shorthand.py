"""One way of writing on the entry line."""

from nomisma.core.shorthand import written


def test_a_shorthand_is_understood_in_any_case_and_only_whole() -> None:
    found = written(
        "wall 3", r"wall\s+(?P<size>.+)", lambda parts, unit: ("wall", {"size": parts["size"], "unit": unit}, "")
    )
    assert found.pattern.fullmatch("Wall 3")
    assert found.pattern.fullmatch("a wall 3") is None
    assert found.read({"size": "3"}, "mm") == ("wall", {"size": "3", "unit": "mm"}, "")
