"""The size over two pins or balls in opposite teeth of a gear: it gets smaller as the teeth are cut deeper."""

from nomisma.core.part.kind import FeatureKind

KIND = FeatureKind(
    name="over_pins",
    title="size over pins",
    words=("over-pins",),
    material_side="external",
    measured_with="micrometer over two pins in opposite teeth",
    instruments=("shaft", "both"),
    usual=("micrometer",),
    cut_as="elsewhere",
    made_elsewhere="its teeth are cut on a gear cutter",
    example="2.19 ±0.01",
    places=("0°", "90°"),
)
