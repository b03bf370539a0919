"""The workpiece as metal: what there is of it, what a cut takes away, and whether a plan can be run on it."""
