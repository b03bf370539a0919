"""The frame around every page: the application, who visits, what is let in, how an error is shown, what was typed and
kept.

Nothing of the trade is here.
"""
