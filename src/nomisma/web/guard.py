"""What every request passes: size limit, same-origin check, security headers, and one log line."""

import time
from uuid import uuid4

import structlog
from starlette.datastructures import Headers, MutableHeaders
from starlette.responses import PlainTextResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from nomisma.core.number import is_whole

LARGEST_BODY = 256 * 1024
CONTENT_POLICY = (
    "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; font-src 'self'; "
    "connect-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'"
)
SECURITY_HEADERS = {
    "content-security-policy": CONTENT_POLICY,
    "x-content-type-options": "nosniff",
    "referrer-policy": "same-origin",
    "cross-origin-opener-policy": "same-origin",
    "permissions-policy": "camera=(), microphone=(), geolocation=()",
}
log = structlog.get_logger("nomisma.request")


class Guard:
    """ASGI middleware: refuses bodies that are too large and posts from other sites, adds headers, logs the request."""

    def __init__(self, app: ASGIApp, *, secure: bool) -> None:
        self.app = app
        self.headers = dict(SECURITY_HEADERS)
        if secure:
            self.headers["strict-transport-security"] = "max-age=31536000"

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass a request on, or refuse it."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        started, reference, status = time.perf_counter(), uuid4().hex[:8], 0
        scope.setdefault("state", {})["reference"] = reference

        async def guarded_send(message: Message) -> None:
            nonlocal status
            if message["type"] == "http.response.start":
                status = message["status"]
                headers = MutableHeaders(scope=message)
                for name, value in self.headers.items():
                    headers.setdefault(name, value)
                if "cache-control" not in headers:
                    headers["cache-control"] = "no-store"
            await send(message)

        headers = Headers(scope=scope)
        app = _refusal(scope, headers) or self.app
        await app(scope, _limited(receive), guarded_send)
        if not scope["path"].startswith("/static/"):
            log.info(
                "request", reference=reference, method=scope["method"], path=scope["path"], status=status,
                milliseconds=round((time.perf_counter() - started) * 1000, 1),
            )  # fmt: skip


def _refusal(scope: Scope, headers: Headers) -> ASGIApp | None:
    length = headers.get("content-length", "0")
    if not is_whole(length) or int(length) > LARGEST_BODY:
        return PlainTextResponse("That is more than any page here sends. Nothing was changed.", 413)
    if scope["method"] in ("GET", "HEAD", "OPTIONS"):
        return None
    if headers.get("sec-fetch-site", "same-origin") not in ("same-origin", "none"):
        return PlainTextResponse("This came from another site. Nothing was changed.", 403)
    origin = headers.get("origin")
    if origin and origin != "null" and origin.split("://", 1)[-1] != headers.get("host"):
        return PlainTextResponse("This came from another site. Nothing was changed.", 403)
    return None


def _limited(receive: Receive) -> Receive:
    """Count a body that does not say its length, and cut it off."""
    seen = 0

    async def counted() -> Message:
        nonlocal seen
        message = await receive()
        seen += len(message.get("body", b""))
        if seen > LARGEST_BODY:
            return {"type": "http.disconnect"}
        return message

    return counted
