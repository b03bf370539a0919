"""The routes of the worksheets, and of the entry line."""

from nomisma.web.worksheets import ask, form_and_fit, keep, pages

ROUTERS = (
    ask.router,
    form_and_fit.router,
    keep.router,
    pages.router,
)
