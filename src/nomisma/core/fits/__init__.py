"""Choosing a fit: ISO 286 codes, shop rules, make to suit, and all of them side by side.

Built on core.quantity and core.measuring; knows no joints, no cutting.
"""
