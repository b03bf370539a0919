"""Intake and planning: what is to be made, read off the lines of a sketch.

Stands on the part, its quantities and its fits; knows no job, no page and no database.
"""
