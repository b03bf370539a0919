"""A job closed: what is decided about its pieces, the first off, handing over, its record."""
