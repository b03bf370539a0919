"""The shop itself: who may do what, what it chose, what stands on its shelves. Nothing of a job lives here."""
