"""A groove in a face: both walls and the depth, from the face it is in; where no wall is left it is told."""

from decimal import Decimal

import pytest

from nomisma.core.errors import InputError
from nomisma.core.order.order import order_of_work
from nomisma.core.part.section import section_of
from nomisma.core.planning.feature_lines import FeatureLinesInput, FeatureLinesResult, feature_lines, lettered
from tests.core.part.kinds.reading import again, read


def part(text: str) -> FeatureLinesResult:
    return feature_lines(FeatureLinesInput(text=text, unit="mm"))


@pytest.mark.parametrize(
    "line",
    [
        "face groove 40 to 50 x 3 deep",
        "face recess 50 x 40 x 3 deep",
        "face-groove 50 ±0.3 to 40 ±0.3 x 3 ±0.1 deep",
    ],
)
def test_its_walls_are_read_in_either_order(line: str) -> None:
    outer, inner, depth = read(line)
    assert (outer.kind, inner.kind, depth.kind) == ("face_groove", "face_groove_inside", "depth")
    assert [str(one.upper) for one in (outer, inner, depth)] == ["50.3 mm", "40.3 mm", "3.1 mm"]
    assert [one.material_side for one in (outer, inner, depth)] == ["internal", "external", "internal"]


def test_one_with_a_single_diameter_is_a_counterbore() -> None:
    assert [one.kind for one in read("face recess 50 x 3 deep")] == ["bore", "depth"]


@pytest.mark.parametrize("line", ["face-groove 50", "face-groove 50 x 3 deep", "face-groove wide to 40 x 3 deep"])
def test_what_is_no_ring_is_refused(line: str) -> None:
    with pytest.raises(InputError):
        read(line)


def test_it_is_said_again_on_one_line() -> None:
    assert again("face groove 40 to 50 x 3 deep from the right") == ["face-groove 50 to 40 x 3 deep from the right"]


@pytest.mark.parametrize(("where", "begins", "worked"), [("", 0, "left"), (" from the right", 17, "right")])
def test_it_lies_in_its_face_and_is_cut_from_there(where: str, begins: int, worked: str) -> None:
    found = [lettered(one) for one in part(f"od 60 x 20\nbore 30 thru\nface groove 40 to 50 x 3 deep{where}").features]
    section = section_of(found)
    assert section is not None
    (ring,) = section.face_grooves
    assert (ring.from_mm, ring.to_mm, ring.inner_mm, ring.outer_mm) == (begins, begins + 3, 40, Decimal(50))
    order = order_of_work(found, stock="bar")
    (at,) = [one.set_up for one in order.set_ups for each in one.operations if each.operation.kind == "face_groove"]
    assert at.worked == worked
    assert not order.left_out
    assert {one.set_up.held_on for one in order.set_ups} <= {"", "A", "C"}  # never on the ring


@pytest.mark.parametrize(
    ("lines", "sentence"),
    [
        ("od 50 x 20\nface groove 40 to 50 x 3 deep", "no wall is left outside"),
        ("od 60 x 20\nbore 42 thru\nface groove 40 to 50 x 3 deep", "takes the inner wall"),
        ("od 60 x 20\nface groove 40 to 40 x 3 deep", "no width"),
    ],
)
def test_where_a_wall_is_not_there_it_is_told(lines: str, sentence: str) -> None:
    assert sentence in " ".join(one.sentence for one in part(lines).contradictions)
