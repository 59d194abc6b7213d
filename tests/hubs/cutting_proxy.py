"""A proxy before a server that cuts the connection after so many bytes."""

import socket
import threading
from pathlib import Path


class CuttingProxy:
    """Listens on a port of this machine and passes on to a socket in the file system; `cut_after` bytes in either
    direction the connection is gone."""

    def __init__(self, target: Path) -> None:
        self._target = target
        self.cut_after: int | None = None
        self._listener = socket.create_server(("127.0.0.1", 0))
        self._ends: list[socket.socket] = []
        self._passing: list[threading.Thread] = []
        self.port = self._listener.getsockname()[1]
        threading.Thread(target=self._accept, daemon=True).start()

    def _accept(self) -> None:
        while True:
            try:
                client, _ = self._listener.accept()
            except OSError:
                return
            server = socket.socket(socket.AF_UNIX)
            server.connect(str(self._target))
            self._ends += [client, server]
            left = [self.cut_after]
            for one, other in ((client, server), (server, client)):
                passing = threading.Thread(target=self._pass_on, args=(one, other, left), daemon=True)
                passing.start()
                self._passing.append(passing)

    @staticmethod
    def _pass_on(one: socket.socket, other: socket.socket, left: list[int | None]) -> None:
        try:
            while data := one.recv(512):
                if left[0] is not None:
                    left[0] -= len(data)
                    if left[0] < 0:
                        break
                other.sendall(data)
        except OSError:
            pass
        for end in (one, other):
            try:
                end.shutdown(socket.SHUT_RDWR)
            except OSError:
                continue

    def close(self) -> None:
        """Listen no more."""
        self._listener.shutdown(socket.SHUT_RDWR)
        self._listener.close()
        for passing in self._passing:
            passing.join(5.0)
        for end in self._ends:
            end.close()
