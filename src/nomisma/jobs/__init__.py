"""What a shop does: a job opened, its features added and changed, how it stands and what it needs next.

Commands and questions with types, between the pages and the store. No HTTP, no forms, no pages here.
"""
