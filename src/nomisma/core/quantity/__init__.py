"""Exact lengths and shop writing: what was typed, what it means, and how it is shown.

Lives at the bottom of the core; knows no fits, no instruments, no joints.
"""
