"""Lengths along the axis: slips and what is built of them, chains of lengths, stops, grooves, tapers and angles,
centres.

Nothing here knows a job; what a part's features give is handed in as sizes.
"""
