"""The part itself: its edges and corners, and how they meet a partner's.

Geometry and judgement of one part, above quantities and below fits, joints and cutting. No cutting data and no fits
here.
"""
