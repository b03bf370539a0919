"""What every request passes: size and pace limits, same-origin check, security headers, a calm answer to failures, one
log line.
"""

import asyncio
import time
from collections.abc import Awaitable, Callable
from uuid import uuid4

import structlog
from starlette.datastructures import Headers, MutableHeaders
from starlette.requests import Request
from starlette.responses import PlainTextResponse, Response
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from nomisma.core.number import is_whole

LARGEST_BODY = 256 * 1024
BODY_SECONDS = 30
"""The longest silence in the middle of a body."""
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
TOO_LARGE = "That is more than any page here sends. Nothing was changed."
TOO_SLOW = "What was sent did not arrive whole. Nothing was changed; send it again."
ELSEWHERE = "This came from another site. Nothing was changed."
OTHER_HOST = "This shop does not go by that address. Ask which one to open."
log = structlog.get_logger("nomisma.request")
Unexpected = Callable[[Request, Exception], Awaitable[Response]]


class _CutOff(Exception):
    """A body that is too large or too slow: the status and the sentence it is answered with."""

    def __init__(self, status: int, sentence: str) -> None:
        super().__init__(sentence)
        self.status = status


class Guard:
    """ASGI middleware: refuses bodies that are too large, posts from other sites and foreign hosts, adds headers,
    answers what nobody else did by `unexpected`, logs the request."""

    def __init__(self, app: ASGIApp, *, secure: bool, hosts: tuple[str, ...] = (), unexpected: Unexpected) -> None:
        self.app, self.hosts, self.unexpected = app, hosts, unexpected
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

        app = self._refusal(scope, Headers(scope=scope)) or self.app
        try:
            await app(scope, _limited(receive), guarded_send)
        except Exception as error:
            if status:  # part of an answer has gone out: all that is left is to break it off
                log.exception("broken off", reference=reference, path=scope["path"])
                raise
            response = await self._in_place_of(scope, error)
            await response(scope, receive, guarded_send)
        finally:
            if not scope["path"].startswith("/static/"):
                log.info(
                    "request",
                    reference=reference,
                    method=scope["method"],
                    path=scope["path"],
                    status=status,
                    milliseconds=round((time.perf_counter() - started) * 1000, 1),
                )

    async def _in_place_of(self, scope: Scope, error: Exception) -> Response:
        """The answer where the application gave none."""
        if isinstance(error, _CutOff):
            return PlainTextResponse(str(error), error.status, headers={"connection": "close"})
        return await self.unexpected(Request(scope), error)

    def _refusal(self, scope: Scope, headers: Headers) -> ASGIApp | None:
        length, host = headers.get("content-length", "0"), headers.get("host", "")
        if self.hosts and _without_port(host) not in self.hosts:
            return PlainTextResponse(OTHER_HOST, 421)
        if not is_whole(length) or int(length) > LARGEST_BODY:
            return PlainTextResponse(TOO_LARGE, 413)
        if scope["method"] in ("GET", "HEAD", "OPTIONS"):
            return None
        if headers.get("sec-fetch-site", "same-origin") not in ("same-origin", "none"):
            return PlainTextResponse(ELSEWHERE, 403)
        origin = headers.get("origin")  # "null" is what sandboxed and local pages say: none of ours
        if origin and origin.split("://", 1)[-1] != host:
            return PlainTextResponse(ELSEWHERE, 403)
        return None


def _without_port(host: str) -> str:
    """A Host header's name or address, in small letters.

    >>> _without_port("Bench.Local:8470"), _without_port("[::1]:8470"), _without_port("bench")
    ('bench.local', '[::1]', 'bench')
    """
    name, colon, port = host.lower().rpartition(":")
    return name if colon and is_whole(port) else host.lower()


def _limited(receive: Receive) -> Receive:
    """Count a body, whatever length it says, and cut it off where it is too large or stands still."""
    seen, whole = 0, False

    async def counted() -> Message:
        nonlocal seen, whole
        if whole:
            return await receive()
        try:
            message = await asyncio.wait_for(receive(), BODY_SECONDS)
        except TimeoutError:
            raise _CutOff(408, TOO_SLOW) from None
        seen += len(message.get("body", b""))
        if seen > LARGEST_BODY:
            raise _CutOff(413, TOO_LARGE)
        whole = message["type"] != "http.request" or not message.get("more_body", False)
        return message

    return counted
