"""Lines of one kind as they are read, for the tests of kinds."""

from nomisma.core.errors import InputError
from nomisma.core.part.said_lines import said_lines
from nomisma.core.planning.feature_lines import FeatureLinesInput, FeatureRead, feature_lines
from tests.core.part.test_said_lines import as_said


def read(line: str, unit: str = "mm") -> list[FeatureRead]:
    """The features of a line, behind a diameter A. Raises InputError where it is not understood."""
    found = feature_lines(FeatureLinesInput.model_validate({"text": f"od 40 x 30\n{line}", "unit": unit}))
    if found.not_understood:
        raise InputError(found.not_understood[0].sentence, "")
    return found.features[2:]


def again(line: str) -> list[str]:
    """The lines that say the same again."""
    return said_lines([as_said(one) for one in read(line)])
