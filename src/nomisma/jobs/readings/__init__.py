"""Readings and trials: which instrument, whether one is to be believed, writing it, bringing many in."""
