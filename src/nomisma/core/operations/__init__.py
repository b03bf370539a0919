"""From the surfaces of a part to the cuts of a set-up: operations, what holes are made with, what is left and taken.

Stands on the part and the metal; knows no set-up's place in a plan.
"""
