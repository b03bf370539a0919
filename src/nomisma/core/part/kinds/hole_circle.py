"""The circle that holes off the axis lie on, by its diameter; over two opposite holes it is the size over them less one
hole.
"""

from nomisma.core.part.kind import FeatureKind

KIND = FeatureKind(
    name="hole_circle",
    title="hole circle",
    words=("hole-circle", "pcd", "bolt-circle"),
    material_side="two_sided",
    measured_with="caliper over two opposite holes, less a hole",
    instruments=("shaft", "bore", "both", "length"),
    usual=("caliper",),
    ways=("less",),
    cut_as="elsewhere",
    places=("hole 1 to its opposite", "hole 2 to its opposite"),
)
