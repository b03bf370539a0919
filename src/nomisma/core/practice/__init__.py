"""Simulated work to train on and to test the advice with: a chuck with work in it and an indicator on it.

Pure: all chance comes from the seed it is given; what was done to it is played again from the start.
"""
