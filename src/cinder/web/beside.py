"""Several processes that serve one port, each at a door of its own.

With one door for all whoever is idle takes every line, and a page keeps its line for long: most would end up in one process.
Here the kernel shares lines out evenly by where they come from, and an engineer's edits stay where the chain of the job is kept.
"""

from __future__ import annotations

import socket

from uvicorn import Config
from uvicorn.supervisors import Multiprocess


class SideBySide(Multiprocess):
    """uvicorn's processes, each with a socket of its own on the same address."""

    def __init__(self, config: Config) -> None:
        config.bind_socket().close()  # says so and ends where somebody else serves there
        self._handed: list[socket.socket] = []
        super().__init__(config, [])

    @property
    def sockets(self) -> list[socket.socket]:
        """A new door; read once for every process that is started."""
        door = socket.socket(socket.AF_INET, socket.SOCK_STREAM)
        door.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        door.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEPORT, 1)
        door.bind((self.config.host, self.config.port))
        self._handed.append(door)
        return [door]

    @sockets.setter
    def sockets(self, value: list[socket.socket]) -> None:
        """There is none for all."""

    def keep_subprocess_alive(self) -> None:
        while self._handed:  # the process has it: a door left open here would take lines nobody answers
            self._handed.pop().close()
        super().keep_subprocess_alive()
