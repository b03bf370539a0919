"""A job's plan: what was said of it, the order of work as it stands, what it comes to at the lathe."""
