"""What is done at the lathe, one step after the other: each set-up held, each operation, each size found.

Whatever door it is done through, a step is closed here. How a step is held, cut and read is in the rooms below.
"""
