"""The documents stay true: every calculation, command, setting, state and picture is in them, and nothing
that is gone.
"""

import ast
import re
from pathlib import Path

import pytest

from nomisma.core.fits.functions import functions
from nomisma.core.part.feature import State
from nomisma.core.registry import calculations

ROOT = Path(__file__).parent.parent
SOURCES = [*sorted((ROOT / "src").rglob("*.py")), ROOT / "nomisma"]


def text_of(name: str) -> str:
    return (ROOT / name).read_text(encoding="utf-8")


def test_the_calculations_page_lists_exactly_the_registry_with_its_fields() -> None:
    rows = dict(re.findall(r"^\| `(\w+)` \| ([^|]+) \|", text_of("docs/CALCULATIONS.md"), flags=re.MULTILINE))
    assert set(rows) == set(calculations())
    for name, asks in rows.items():
        assert all(field in asks for field in calculations()[name].input_model.model_fields), name


def test_every_setting_the_code_reads_is_in_the_settings_page() -> None:
    read = {
        word
        for path in SOURCES
        for word in re.findall(
            r"\b(?:NOMISMA_[A-Z_]+|DATABASE_URL|PGCONNECT_TIMEOUT)\b", path.read_text(encoding="utf-8")
        )
    }
    listed = set(re.findall(r"^\| `([A-Z_]+)`", text_of("docs/SETTINGS.md"), flags=re.MULTILINE))
    assert listed == read


def test_the_readme_names_commands_that_exist() -> None:
    known = set(re.findall(r"^    ([a-z |]+)\)$", text_of("nomisma"), flags=re.MULTILINE))
    commands = {word for line in known for word in line.replace("|", " ").split()} | {
        "calc",
        "test",
        "check",
        "benchmark",
    }
    assert set(re.findall(r"\./nomisma ([a-z]+)", text_of("README.md"))) <= commands


def test_every_state_and_function_is_in_the_glossary() -> None:
    glossary = text_of("docs/GLOSSARY.md")
    for state in State:
        assert f"| {state.words} |" in glossary
    for name in functions():
        assert name.replace("_", " ").split(" and ")[0] in glossary


def test_every_picture_is_shown_in_the_readme_and_every_one_shown_is_there() -> None:
    there = {path.name for path in (ROOT / "docs/screenshots").glob("*.png")}
    assert set(re.findall(r"docs/screenshots/([\w-]+\.png)", text_of("README.md"))) == there
    assert 0 < len(there) < 20


@pytest.mark.parametrize("name", ["README.md", "CONTRIBUTING.md", "docs/ARCHITECTURE.md"])
def test_links_between_documents_lead_somewhere(name: str) -> None:
    for target in re.findall(r"\]\(([^)#]+)\)", text_of(name)):
        assert ((ROOT / name).parent / target).exists(), target


def public_names() -> list[tuple[str, str, str]]:
    return [
        (path.stem, node.name, ast.get_docstring(node) or "")
        for path in sorted((ROOT / "src/nomisma/core").rglob("*.py"))
        for node in ast.parse(path.read_text(encoding="utf-8")).body
        if isinstance(node, ast.FunctionDef | ast.ClassDef) and not node.name.startswith("_")
    ]


@pytest.mark.parametrize(("module", "name", "docstring"), public_names(), ids=lambda value: str(value)[:30])
def test_everything_public_in_core_says_what_it_is(module: str, name: str, docstring: str) -> None:
    assert len(docstring) > 15, f"{module}.{name}"


def test_every_module_says_what_it_is_for() -> None:
    silent = [
        path
        for path in SOURCES[:-1]
        if "versions" not in path.parts and not ast.get_docstring(ast.parse(path.read_text()))
    ]
    assert silent == []


def test_every_data_table_names_its_source() -> None:
    for path in (ROOT / "src/nomisma/core").rglob("*.csv"):
        head = "".join(
            line for line in path.read_text(encoding="utf-8").splitlines(keepends=True) if line.startswith("#")
        )
        assert "Source:" in head, path.name
        assert re.search(r"µm|inch|\bmm\b", head), path.name


def _tables(tree: ast.Module) -> set[int]:
    """The last lines of what is a table: a module's constants, and what decorates a test."""
    constants = {one.end_lineno for one in tree.body if isinstance(one, ast.Assign | ast.AnnAssign)}
    return constants | {one.end_lineno for node in ast.walk(tree) for one in getattr(node, "decorator_list", [])}


def test_only_tables_of_data_are_laid_out_by_hand() -> None:
    by_hand = []
    for path in [one for room in ("src", "tests", "benchmarks") for one in (ROOT / room).rglob("*.py")]:
        text = path.read_text(encoding="utf-8")
        marked = {number for number, line in enumerate(text.splitlines(), 1) if line.endswith("# fmt: skip")}
        by_hand += [f"{path.name}:{number}" for number in marked - _tables(ast.parse(text))]
    assert by_hand == []
