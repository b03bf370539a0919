"""The order of work as numbers for the lathe, kept as a hand put it, with what that breaks."""

from nomisma.core.order.order import OrderOfWork, order_of_work
from tests.core.planning.sketched import FLANGED, features


def planned(lines: str, kept: tuple[str, ...] = ()) -> OrderOfWork:
    found = order_of_work(features(lines), stock="bar", kept=kept)
    assert found is not None
    return found


def test_operations_are_numbered_through_all_set_ups() -> None:
    found = planned(FLANGED)
    assert [one.number for one in found.operations] == list(range(1, len(found.operations) + 1))
    assert [one.title for one in found.set_ups] == [
        "Set-up 1, from the left end",
        "Set-up 2, from the right end, held on A",
    ]
    assert found.breaks == ()


def test_a_kept_order_stands_and_what_it_breaks_is_named_where_it_is() -> None:
    first = planned(FLANGED).set_ups[0].operations
    keys = [one.key for one in first]
    face = keys.index("1/face:")
    swapped = (*keys[face + 1 : face + 2], "1/face:", *keys[face + 2 :])
    found = planned(FLANGED, swapped)
    assert [one.key for one in found.set_ups[0].operations] == list(swapped)
    assert found.by_hand is True
    assert found.breaks == ("Face stands after it. The face first: it is the zero of all lengths.",)
    assert found.operations[0].breaks == found.breaks


def test_what_a_kept_order_does_not_name_stands_where_the_plan_has_it() -> None:
    keys = tuple(one.key for one in planned(FLANGED).operations)
    grown = planned(FLANGED + "\ncham 0.5 x 45", keys)
    assert [one.key for one in grown.operations if one.operation.kind != "chamfer"] == list(keys)
    assert grown.breaks == ()


def test_keys_of_operations_that_are_gone_are_left_aside() -> None:
    assert planned("od 24 x 30", ("9/none:", "1/face:")).breaks == ()


def test_a_part_without_an_outside_has_no_plan() -> None:
    assert order_of_work(features("bore 12 H7 thru"), stock="bar") is None


def test_an_outside_between_larger_ones_is_cut_as_a_groove() -> None:
    found = planned("od 40 x 10\nod 30 x 20\nod 40 x 10")
    (neck,) = [one for one in found.operations if "C" in one.operation.letters]
    assert (neck.operation.kind, neck.operation.diameter_mm) == ("groove", 30)
    assert found.left_out == ()


def test_what_the_metal_does_not_allow_is_named_where_it_breaks() -> None:
    """A hand puts parting before the bore: after it nothing is there to be bored."""
    first = planned(FLANGED).set_ups[0].operations
    keys = [one.key for one in first]
    parting = next(key for key in keys if "part_off" in key)
    early = (keys[0], parting, *(key for key in keys[1:] if key != parting))
    found = planned(FLANGED, early)
    broken = [one.operation.kind for one in found.operations if one.breaks]
    assert broken
    assert any("stands out" in words or "gone" in words or "Part off" in words for words in found.breaks)


def test_a_taper_comes_after_the_diameter_it_lies_in() -> None:
    keys = [one.operation.key for one in planned("taper 1:20 over 30 from 25\nlength 30").operations]
    assert keys.index("turn:B") < keys.index("taper:A")


def test_a_taper_of_no_known_place_is_said_to_be_left_out() -> None:
    (left,) = planned("od 40 x 10\ntaper 1:20 over 8").left_out
    assert (left.letter, left.why[:23]) == ("C", "where it lies is not kn")


def test_what_no_lathe_cuts_is_not_missed() -> None:
    assert planned("od 40 x 10\nrunout 0.02\nwall 4 ±0.1").left_out == ()


def test_a_thread_between_larger_diameters_is_left_out_for_that_reason() -> None:
    found = planned("od 18 h6 x 12\nM16x1.5 6g x 20\nod 30 x 8")
    (left,) = found.left_out
    assert left.why.startswith("C lies between larger diameters")
