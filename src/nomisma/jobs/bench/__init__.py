"""Jobs at a glance: what each waits for and how it stands, kept until something of it is written."""
