"""Screw threads: as they are written, their limits by ISO 965-1 and ASME B1.1, and their size over wires."""
