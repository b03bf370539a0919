"""How a job stands: its features, the limits in force, its pieces, what comes next. It only answers; nothing is written
here.
"""
