"""The kinds of feature of a turned part, a module each: its `KIND` says all there is of it (core/part/kind.py)."""
