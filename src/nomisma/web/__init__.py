"""The pages and the JSON API: one module a stage of the spine; templates/ and static/ mirror it.

A route reads the request, calls core and store, builds a view and renders it. Nothing imports web.
"""
