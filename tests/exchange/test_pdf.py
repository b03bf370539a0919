"""A page as PDF: the paper, the application's own files and no others."""

import builtins
from pathlib import Path
from typing import Any

import pytest

from nomisma.exchange.pdf import NoPaper, pdf_of


def made(html: str, root: Path) -> bytes:
    return pdf_of(html, paper="a4", styles=(), root=root)


def test_it_is_a_pdf(tmp_path: Path) -> None:
    assert made("<p>Set-up 1</p>", tmp_path).startswith(b"%PDF-")


def test_no_file_but_the_applications_own_is_read(tmp_path: Path) -> None:
    own, other = tmp_path / "own", tmp_path / "other"
    for folder in (own, other):
        folder.mkdir()
        (folder / "mark.svg").write_text(
            '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><rect width="9" height="9"/></svg>'
        )
    with_own = made('<img src="mark.svg" alt="">', own)
    with_other = made(f'<img src="{other / "mark.svg"}" alt="">', own)
    assert with_own != with_other
    assert len(with_other) < len(with_own)


def test_without_the_systems_library_it_says_what_to_do(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    known = builtins.__import__

    def without(name: str, *args: Any, **kwargs: Any) -> Any:
        if name == "weasyprint":
            raise OSError("cannot load library libpango")
        return known(name, *args, **kwargs)

    monkeypatch.setattr(builtins, "__import__", without)
    with pytest.raises(NoPaper, match="Print the page from the browser"):
        made("<p>Set-up 1</p>", tmp_path)
