"""What a class of fits gives the feature that bears it."""

import pytest

from nomisma.core.errors import InputError
from nomisma.core.planning.class_of_fits import class_of_fits


def test_a_class_gives_limits_in_the_unit_of_its_size() -> None:
    """Source: ISO 286-2, H7 from 18 to 30 mm (recalled): 0 and +21 µm; an inch size keeps inches."""
    found = class_of_fits("bore", "25 H7", "mm")
    assert (str(found.lower), str(found.upper), found.limits_from) == ("25 mm", "25.021 mm", "code")
    assert class_of_fits("shaft", "1 in g6", "in").upper.unit == "in"


def test_the_letters_of_the_other_member_are_refused() -> None:
    with pytest.raises(InputError):
        class_of_fits("shaft", "25 H7", "mm")
