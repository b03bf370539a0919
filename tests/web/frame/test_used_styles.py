"""Pages get what they use of Bootstrap, and all of that."""

import re

import pytest

from nomisma.web.frame.used_styles import USED, WHOLE, main, used_styles, words_of_pages


def test_what_is_shipped_is_what_pages_use(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["check"]) == 0, capsys.readouterr().err
    assert len(USED.read_text()) < len(WHOLE.read_text()) / 5


def test_every_class_that_bootstrap_knows_and_a_page_names_is_there() -> None:
    def classes(css: str) -> set[str]:
        return set(re.findall(r"\.([a-z][a-z0-9-]*)", css))

    assert classes(WHOLE.read_text()) & words_of_pages() == classes(USED.read_text()) & words_of_pages()


def test_a_rule_goes_where_one_of_its_classes_is_never_said() -> None:
    css = ".btn:not(.none,.never):hover{a:b}.btn.never{a:b}p,.never p{a:b}@media (x){.never{a:b}}@font-face{a:b}"
    assert used_styles(css, ["btn", "none"]) == "p{a:b}@font-face{a:b}"
    assert used_styles(css, ["btn", "none", "never"]) == css


def test_a_variable_stays_as_long_as_somebody_asks() -> None:
    css = ":root{--one:1;--two:var(--one);--three:var(--two)}.a{width:var(--three);--four:4}"
    assert used_styles(css, ["a"]) == ":root{--one:1;--two:var(--one);--three:var(--two)}.a{width:var(--three);}"
    assert used_styles(css, []) == ""
