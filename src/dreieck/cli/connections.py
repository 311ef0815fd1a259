"""Connections of clients: bounded in number, and given up where the other side does nothing."""

from __future__ import annotations

import asyncio

from uvicorn.protocols.http.h11_impl import H11Protocol

MAX_CONNECTIONS = 400
"""How many connections are held at once; a new one takes the place of one without a request."""
HEAD_WAIT = 15.0
"""So many seconds a request may take to tell what it wants."""
READ_WAIT = 30.0
"""So many seconds a client may leave an answer unread."""


class BoundedConnection(H11Protocol):
    """One connection; it is closed when the client lets it wait for too long."""

    _waits_for_head: asyncio.TimerHandle | None = None
    _waits_for_reader: asyncio.TimerHandle | None = None
    _waits_since = 0.0

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        """A client is there."""
        if len(self.connections) >= MAX_CONNECTIONS and not self._one_gave_way():
            transport.abort()
            return
        super().connection_made(transport)
        self._expect_head()

    def data_received(self, data: bytes) -> None:
        """The client says something."""
        super().data_received(data)
        if self._is_busy:
            self._stop(self._waits_for_head)

    def on_response_complete(self) -> None:
        """An answer was sent; another request may follow."""
        super().on_response_complete()
        self._expect_head()

    def pause_writing(self) -> None:
        """The client does not read as fast as it is answered."""
        super().pause_writing()
        self._waits_for_reader = self.loop.call_later(READ_WAIT, self.transport.abort)

    def resume_writing(self) -> None:
        """The client has read on."""
        super().resume_writing()
        self._stop(self._waits_for_reader)

    def connection_lost(self, exc: Exception | None) -> None:
        """The client is gone."""
        self._stop(self._waits_for_head)
        self._stop(self._waits_for_reader)
        if self.transport is not None:
            super().connection_lost(exc)

    @property
    def _is_busy(self) -> bool:
        """Whether a request is being answered."""
        return self.cycle is not None and not self.cycle.response_complete

    def _expect_head(self) -> None:
        self._stop(self._waits_for_head)
        self._waits_since = self.loop.time()
        self._waits_for_head = self.loop.call_later(HEAD_WAIT, self._give_up_head)

    def _give_up_head(self) -> None:
        if not self._is_busy:
            self.transport.abort()

    def _one_gave_way(self) -> bool:
        """Close the connection that has been without a request for longest, if there is one.

        Those that have just come may be about to say what they want.
        """
        known = (each for each in self.connections if isinstance(each, BoundedConnection))
        idle = min(
            (each for each in known if not each._is_busy),
            key=lambda each: each._waits_since,
            default=None,
        )
        if idle is None:
            return False
        idle.transport.abort()
        self.connections.discard(idle)
        return True

    @staticmethod
    def _stop(timer: asyncio.TimerHandle | None) -> None:
        if timer is not None:
            timer.cancel()
