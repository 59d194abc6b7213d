"""The driver that the documentation shows does what a driver must."""

import re
import socketserver
import threading
from pathlib import Path

from even_beam.instruments.trying import try_meter

DOCS = Path(__file__).parents[2] / "docs" / "drivers.md"


class Bell(socketserver.StreamRequestHandler):
    def handle(self):
        for line in self.rfile:
            self.wfile.write(b"123.4\n" if line == b"read\n" else b"ok\n")


def test_the_driver_of_the_docs_is_whole(tmp_path):
    (code,) = re.findall(r"```python\n(.*?)```", DOCS.read_text(), re.DOTALL)
    assert len(code.splitlines()) < 70
    found: dict[str, type] = {}
    exec(compile(code, "drivers.md", "exec"), found)
    server = socketserver.ThreadingTCPServer(("127.0.0.1", 0), Bell)
    server.daemon_threads = True
    threading.Thread(target=server.serve_forever, args=(0.02,), daemon=True).start()
    driver = found["BellMeter"]("Bell", f"127.0.0.1:{server.server_address[1]}", {}, tmp_path)
    assert any("illuminance 123.4" in line for line in list(try_meter(driver)))
    server.shutdown()
    server.server_close()
