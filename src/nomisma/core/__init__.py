"""The trade, computed: pure functions on exact lengths, each with its working and its source.

Nothing here knows of the web, a database, a clock or a file that is not its own data table.
"""
