"""Clients that say nothing, or do not read, hold nothing up."""

import asyncio
import contextlib
import socket
import threading
from http.client import HTTPConnection

import pytest
import uvicorn

from dreieck.cli import connections
from dreieck.cli.connections import BoundedConnection

ASKED = b"GET / HTTP/1.1\r\nHost: x\r\n\r\n"


async def answer(scope, receive, send):
    await send({"type": "http.response.start", "status": 200, "headers": []})
    size = 50_000_000 if scope["path"] == "/long" else 2
    await send({"type": "http.response.body", "body": b"x" * size})
    ended.set()


ended = threading.Event()


@pytest.fixture
def port(monkeypatch):
    monkeypatch.setattr(connections, "MAX_CONNECTIONS", 4)
    monkeypatch.setattr(connections, "HEAD_WAIT", 0.3)
    monkeypatch.setattr(connections, "READ_WAIT", 0.3)
    ended.clear()
    listener = socket.create_server(("127.0.0.1", 0))
    config = uvicorn.Config(
        answer, http=BoundedConnection, ws="none", lifespan="off", log_level="error"
    )
    server = uvicorn.Server(config)
    thread = threading.Thread(target=lambda: asyncio.run(server.serve(sockets=[listener])))
    thread.start()
    yield listener.getsockname()[1]
    server.should_exit = True
    thread.join()


def connected(port):
    return socket.create_connection(("127.0.0.1", port), timeout=20)


def test_who_has_just_come_does_not_give_way_to_others(port):
    before = [connected(port) for _ in range(4)]
    with connected(port) as speaking:
        behind = [connected(port) for _ in range(3)]
        speaking.sendall(ASKED)
        assert speaking.recv(100).startswith(b"HTTP/1.1 200")
    for connection in (*before, *behind):
        connection.close()


def test_who_says_nothing_is_let_go_and_gives_way_before(port):
    silent = [connected(port) for _ in range(4)]
    silent[0].sendall(b"GET / HTTP/1.1\r\nHost: ")
    with connected(port) as speaking:
        speaking.sendall(ASKED)
        assert speaking.recv(100).startswith(b"HTTP/1.1 200")
    for connection in silent:
        with contextlib.suppress(ConnectionResetError):
            assert connection.recv(100) == b""
        connection.close()


def test_who_asks_again_and_again_is_kept(port):
    connection = HTTPConnection("127.0.0.1", port, timeout=20)
    for _ in range(3):
        connection.request("GET", "/")
        held = connection.sock
        assert connection.getresponse().read() == b"xx" and connection.sock is held
    connection.close()


def test_who_does_not_read_is_let_go(port):
    with connected(port) as deaf:
        deaf.sendall(ASKED.replace(b"/ ", b"/long ", 1))
        assert ended.wait(timeout=20)
