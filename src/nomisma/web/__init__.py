"""The pages and the JSON API. `app` puts them together; templates/ and static/ mirror the folders.

frame/ is around every page, job/ has the stages of the spine, shop/ the shop itself, practice/ the simulated chuck and
lathe, worksheets/ what is answered without a job, drawings/ the figures, `api` the calculations over HTTP. A route
parses what was sent, calls core or a command of jobs/, builds a view and renders it. Nothing imports web.
"""
