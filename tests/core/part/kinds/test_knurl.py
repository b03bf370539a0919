"""A knurl: as a shop says it, on an outside; no size is read of it."""

from tests.core.part.kinds.reading import again, read


def test_its_words_are_kept_as_they_are() -> None:
    (found,) = read("knurl 1.0 x 30° diamond on A")
    assert (found.text, found.lower, found.nominal, found.along) == ("1.0 x 30° diamond", None, None, "on A")
    assert again("knurl 1.0 x 30° diamond on A") == ["knurl 1.0 x 30° diamond on A"]
