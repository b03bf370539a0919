"""Gauges that talk: the line protocol, and simulated gauges that speak it.

Imports only core; what receives and keeps their readings is in web and store.
"""
