"""What may be said against a reading."""

from nomisma.core.measuring.conditions import CONDITIONS


def test_each_condition_says_which_way_it_errs_or_what_to_do() -> None:
    for name, words in CONDITIONS.items():
        assert name.isidentifier()
        assert words.endswith(".")
        assert ":" in words
