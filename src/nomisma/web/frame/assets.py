"""The shipped styles, scripts and fonts, under an address that changes when any of them does."""

import hashlib
from functools import cache
from pathlib import Path

from starlette.responses import Response
from starlette.staticfiles import StaticFiles
from starlette.types import Scope

FOLDER = Path(__file__).parent.parent / "static"


@cache
def fingerprint() -> str:
    """Twelve hex digits over every shipped file."""
    digest = hashlib.sha256()
    for path in sorted(FOLDER.rglob("*")):
        if path.is_file():
            digest.update(path.relative_to(FOLDER).as_posix().encode())
            digest.update(path.read_bytes())
    return digest.hexdigest()[:12]


class Assets(StaticFiles):
    """Serves FINGERPRINT/path; what carries the fingerprint never changes, so browsers keep it."""

    async def get_response(self, path: str, scope: Scope) -> Response:
        """A shipped file; an old fingerprint still finds the file, but is not kept."""
        first, _, rest = path.partition("/")
        response = await super().get_response(rest, scope)
        response.headers["cache-control"] = (
            "public, max-age=31536000, immutable" if first == fingerprint() else "no-cache"
        )
        return response


def assets() -> Assets:
    """The application mounted at /static."""
    return Assets(directory=FOLDER)


def asset_url(path: str) -> str:
    """The address of a shipped file."""
    return f"/static/{fingerprint()}/{path}"
