"""Cuts at a feature: the run so far, what the coach says of the next, the stop it runs against."""
