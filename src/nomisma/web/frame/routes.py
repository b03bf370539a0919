"""The routes of the frame: signing in, and what comes while a page is open."""

from nomisma.web.frame import live, sign_in

ROUTERS = (
    sign_in.router,
    live.router,
)
