"""The throw of an eccentric: how far its axis lies from the axis of the part; a needle swings by twice as much."""

from nomisma.core.part.kind import FeatureKind
from nomisma.core.part.kinds.eccentric_diameter import OFF_CENTRE

KIND = FeatureKind(
    name="throw",
    title="throw",
    words=("throw",),
    material_side="two_sided",
    measured_with="indicator: half its swing over a whole turn",
    instruments=("length",),
    usual=("indicator",),
    taken_as="difference",
    cut_as="elsewhere",
    made_elsewhere=OFF_CENTRE,
    places=("near end", "far end"),
)
