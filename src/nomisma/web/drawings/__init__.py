"""SVG figures, drawn from the same core results as the text beside them, each with a text alternative.

No colours here: classes, and the theme colours them in light and dark.
"""
