"""The routes of practice."""

from nomisma.web.practice import chuck, lathe

ROUTERS = (
    chuck.router,
    lathe.router,
)
