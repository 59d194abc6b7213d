"""Meters that answer: text on TCP, lines on a pseudo-terminal, files in a folder."""

import os
import pty
import socketserver
import threading
import time
import tty
from collections.abc import Callable
from pathlib import Path

import numpy as np

from even_beam.formats import NamedSpectrum, write_spectra
from even_beam.instruments.protocols import MeterReading
from even_beam.instruments.stand_ins.faults import Fault

Read = Callable[[], MeterReading]

IDENTITY = "POTTING SHED,PHOTO 1,0001,1.0"
LUX_PER_FC = 10.763910416709722
"""A footcandle is a lumen a square foot (the international foot of 0.3048 m)."""
HANGS_S = 30.0


class ScpiServer:
    """A spectrometer and power meter that answers questions on TCP; `commands` are what it knows."""

    def __init__(
        self, read: Read, watts: Callable[[], float], faults: dict[str, Fault], host: str, port: int = 0
    ) -> None:
        self._read, self._watts, self._faults = read, watts, faults
        self._answers, self._errors = 0, [""]
        self._last: MeterReading | None = None
        self._lock = threading.Lock()
        outer = self

        class Handler(socketserver.StreamRequestHandler):
            def handle(self) -> None:
                for line in self.rfile:
                    if not outer.answer(line.decode("ascii", "replace").strip(), self.wfile.write):
                        return

        class Server(socketserver.ThreadingTCPServer):
            allow_reuse_address = True
            daemon_threads = True

        self._server = Server((host, port), Handler)
        self.port: int = self._server.server_address[1]
        self._thread = threading.Thread(target=self._server.serve_forever, args=(0.05,), name="scpi", daemon=True)

    def start(self) -> None:
        """Begin to answer."""
        self._thread.start()

    def close(self) -> None:
        """End."""
        self._server.shutdown()
        self._server.server_close()

    def answer(self, command: str, write: Callable[[bytes], object]) -> bool:
        """Answer one line; False ends the connection."""
        with self._lock:
            said = self._said(command)
        if said is None:
            return True
        match said:
            case "hang":
                time.sleep(HANGS_S)
                return False
            case "drop":
                return False
            case "half":
                write(b"4")
                time.sleep(HANGS_S)
                return False
        try:
            write(said.encode("ascii") + b"\r\n")
        except OSError:
            return False
        return True

    def _said(self, command: str) -> str | None:
        """The answer, the name of a fault that is none, or nothing to a command."""
        match command.upper():
            case "*IDN?":
                return IDENTITY
            case "*CLS" | "CAL:ZERO":
                return None
            case "SYST:ERR?":
                said, self._errors = self._errors[0] or '0,"No error"', [""]
                return said
            case "MEAS:ILL?":
                return self._illuminance()
            case "MEAS:CCT?":
                figure = self._latest().figures.get("cct")
                return "9.91E+37" if figure is None else f"{figure:.1f}"
            case "MEAS:SPEC?":
                spectrum = self._latest().spectrum
                assert spectrum is not None
                grid = np.arange(380.0, 781.0, 5.0)
                return ",".join(f"{v:.6e}" for v in np.interp(grid, spectrum.wavelength_nm, spectrum.values))
            case "MEAS:POW?":
                return f"{self._watts():.2f}"
            case "MEAS:NUMB?":
                return str(self._answers)
        self._errors = ['-113,"Undefined header"']
        return None

    def _latest(self) -> MeterReading:
        if self._last is None:
            self._last = self._read()
        return self._last

    def _illuminance(self) -> str:
        self._answers += 1
        now = [name for name, fault in self._faults.items() if self._answers == fault.at]
        since = [name for name, fault in self._faults.items() if self._answers >= fault.at]
        if "stale" not in since or self._last is None:
            self._last = self._read()
        if "error" in now:
            self._errors = ['-230,"Data corrupt or stale"']
        if fault := next((name for name in ("hang", "drop", "half") if name in now), ""):
            return fault
        if "garbage" in now:
            return "\x7f@!?"
        lux = self._last.figures.get("illuminance", 0.0)
        if "unit" in since:
            return f"{lux:.4g} lx"
        return f"{lux / LUX_PER_FC:.5g}"


class LineServer:
    """A light meter whose display streams lines on a pseudo-terminal."""

    def __init__(self, read: Read, every_s: float = 0.1) -> None:
        self._read, self._every_s = read, every_s
        self._ours, self._theirs = pty.openpty()
        tty.setraw(self._theirs)
        os.set_blocking(self._ours, False)
        self.address = os.ttyname(self._theirs)
        self._closed = threading.Event()
        self._thread = threading.Thread(target=self._speak, name="lines", daemon=True)

    def start(self) -> None:
        """Begin to speak."""
        self._thread.start()

    def close(self) -> None:
        """End."""
        self._closed.set()
        self._thread.join(2.0)
        for end in (self._ours, self._theirs):
            os.close(end)

    def _speak(self) -> None:
        while not self._closed.wait(self._every_s):
            lux = self._read().figures.get("illuminance", 0.0)
            try:
                os.write(self._ours, f"E= {lux:.4g} lx\r\n".encode("ascii"))
            except BlockingIOError:  # nobody listens, and the line is full
                continue
            except OSError:
                return


class FolderServer:
    """A meter's program that writes a file for every reading of its button, here every so often."""

    def __init__(self, read: Read, folder: Path, every_s: float = 0.5) -> None:
        self._read, self._folder, self._every_s = read, folder, every_s
        self._closed = threading.Event()
        self._thread = threading.Thread(target=self._write, name="files", daemon=True)

    def start(self) -> None:
        """Begin to write."""
        self._thread.start()

    def close(self) -> None:
        """End."""
        self._closed.set()
        self._thread.join(2.0)

    def _write(self) -> None:
        number = 0
        while not self._closed.wait(self._every_s):
            number += 1
            spectrum = self._read().spectrum
            if spectrum is None:
                continue
            named = NamedSpectrum(f"reading {number}", spectrum.wavelength_nm, spectrum.values, spectrum.absolute)
            write_spectra(self._folder / f"reading-{number:04d}.json", [named])
