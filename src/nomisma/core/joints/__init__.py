"""Joints that hold: press and shrink by Lamé, the bush that closes in, the bond, and what temperature does to them.

Physics in plain floats: millimetres, megapascals, newtons, degrees Celsius. Built on core.fits and core.materials;
knows no cutting.
"""
