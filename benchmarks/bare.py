"""The yardstick: a FastAPI page that reads one row through the same driver and returns it, and nothing else."""

import os

from fastapi import Depends, FastAPI, Request
from fastapi.responses import HTMLResponse
from sqlalchemy import text
from sqlalchemy.orm import Session

from nomisma.store.database import engine_for, reading_sessions_of, sessions_of
from nomisma.web.frame.visit import database


def application() -> FastAPI:
    """One page, one row."""
    app = FastAPI()
    engine = engine_for(os.environ["DATABASE_URL"])
    app.state.sessions, app.state.reading_sessions = sessions_of(engine), reading_sessions_of(engine)

    @app.get("/")
    def page(request: Request, db: Session = Depends(database)) -> HTMLResponse:  # noqa: B008
        name = db.scalar(text("SELECT name FROM account WHERE sign_in_name = 'orla'"))
        return HTMLResponse(f"<!doctype html><title>{request.url.path}</title><p>{name}</p>")

    return app
