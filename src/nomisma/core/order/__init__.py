"""The order of work: set-ups searched, held, laid on their stock, run and numbered; parts mended, roughed first, made
together.

Stands on operations and the metal; knows no job and no page.
"""
