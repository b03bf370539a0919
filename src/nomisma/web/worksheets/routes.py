"""The routes of the worksheets, and of the entry line."""

from nomisma.web.worksheets import ask, form_and_fit, pages

ROUTERS = (
    ask.router,
    form_and_fit.router,
    pages.router,
)
