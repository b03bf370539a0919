"""Cutting to size: what is to come off, and how far that is on the dial.

Built on core.quantity; knows no fits and no storage.
"""
