"""One connection of a browser: bounded before its request is known, so that half-open ones cost nothing for long."""

import asyncio
from typing import cast

from uvicorn.protocols.http.httptools_impl import HttpToolsProtocol

HEAD_SECONDS = 20
"""From the first byte (or from connecting) to the end of a request's headers."""
LARGEST_HEAD = 64 * 1024


class BoundedProtocol(HttpToolsProtocol):
    """uvicorn's protocol, with an end to slow and to endless headers."""

    def connection_made(self, transport: asyncio.BaseTransport) -> None:
        """Begin to wait for the first request."""
        super().connection_made(cast(asyncio.Transport, transport))
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
        super().connection_lost(exc)

    def _no_longer(self) -> None:
        if self._patience is not None:
            self._patience.cancel()
            self._patience = None
