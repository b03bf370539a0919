"""How far a thread may run out: turns that are not full, between the last full one and the shoulder."""

from nomisma.core.part.kind import FeatureKind

KIND = FeatureKind(
    name="thread_runout",
    title="thread runout",
    words=("thread-runout",),
    material_side="upper_only",
    measured_with="caliper, from the last full turn",
    instruments=("shaft", "both", "length"),
    usual=("caliper",),
    cut_as="with_another",
    example="3 max",
    places=("last full turn",),
)
