"""Work held and trued: chuckings of a plan, rounds of an indicator."""
