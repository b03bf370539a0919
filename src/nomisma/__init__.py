"""Nomisma: a bench companion for the machinist who fits bores, bushings and shafts."""

__version__ = "0.16.0"
