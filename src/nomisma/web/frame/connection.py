"""One connection of a browser: bounded before its request is known, so that half-open ones cost nothing for long."""

import asyncio
from collections import Counter
from typing import ClassVar, cast

from starlette.types import Receive, Scope, Send
from uvicorn.protocols.http import httptools_impl
from uvicorn.protocols.http.httptools_impl import HttpToolsProtocol

from nomisma.web.frame.guard import SECURITY_HEADERS

HEAD_SECONDS = 20
"""From the first byte (or from connecting) to the end of a request's headers."""
LARGEST_HEAD = 64 * 1024


MOST_OF_ONE_ADDRESS = 150
"""Connections of one address to one process: a shop's tablets behind one router share it; loopback and a proxy are no
address of anybody's.
"""
_CROWDED = b"Too many connections at once. Wait a moment, then try again."


async def crowded(_scope: Scope, _receive: Receive, send: Send) -> None:
    """The answer where there is no room for more, with the headers that every answer has."""
    headers = {
        **SECURITY_HEADERS,
        "content-type": "text/plain; charset=utf-8",
        "connection": "close",
        "retry-after": "5",
    }
    sent = [(name.encode(), value.encode()) for name, value in headers.items()]
    await send({"type": "http.response.start", "status": 503, "headers": sent})
    await send({"type": "http.response.body", "body": _CROWDED})


setattr(httptools_impl, "service_unavailable", crowded)  # noqa: B010  # uvicorn's own has none of the headers


class BoundedProtocol(HttpToolsProtocol):
    """uvicorn's protocol, with an end to slow and to endless headers, and a share of the connections for each
    address.
    """

    _of_address: ClassVar[Counter[str]] = Counter()
    _peer = ""

    def connection_made(self, transport: asyncio.BaseTransport) -> None:
        """Begin to wait for the first request."""
        super().connection_made(cast(asyncio.Transport, transport))
        peer = (transport.get_extra_info("peername") or ("",))[0]
        if peer and not peer.startswith("127.") and peer != "::1" and not self.config.proxy_headers:
            self._peer = peer
            self._of_address[peer] += 1
            if self._of_address[peer] > MOST_OF_ONE_ADDRESS:
                transport.close()
        self._head_bytes = 0
        self._patience: asyncio.TimerHandle | None = self.loop.call_later(HEAD_SECONDS, transport.close)

    def data_received(self, data: bytes) -> None:
        """Take what came; hang up where headers do not end."""
        super().data_received(data)
        if self._patience is not None:
            self._head_bytes += len(data)
            if self._head_bytes > LARGEST_HEAD:
                self.transport.close()

    def on_message_begin(self) -> None:
        """A request begins."""
        super().on_message_begin()
        if self._patience is None:
            self._head_bytes = 0
            self._patience = self.loop.call_later(HEAD_SECONDS, self.transport.close)

    def on_headers_complete(self) -> None:
        """Its headers are here."""
        self._no_longer()
        super().on_headers_complete()

    def connection_lost(self, exc: Exception | None) -> None:
        """The browser is gone."""
        self._no_longer()
        if self._peer:
            self._of_address[self._peer] -= 1
            if self._of_address[self._peer] <= 0:
                del self._of_address[self._peer]
        super().connection_lost(exc)

    def _no_longer(self) -> None:
        if self._patience is not None:
            self._patience.cancel()
            self._patience = None
