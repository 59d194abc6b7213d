"""The stand-ins for instruments as a process of their own, as long as the window needs them."""

import subprocess
import sys
import tempfile
import time
from collections.abc import Mapping
from pathlib import Path

from even_beam.instruments.protocols import InstrumentError

READY_WITHIN_S = 20.0


class StandInProcess:
    """Lamps by name with the model that plays each, and a spectrometer by its name; `file` is the bench file that
    reaches them."""

    def __init__(self, lamps: Mapping[str, str], meter: str, distance_m: float) -> None:
        self._plays = (dict(lamps), meter, distance_m)
        self._answered = False
        self._folder = tempfile.TemporaryDirectory(prefix="even-beam-devices-")
        self.file = Path(self._folder.name) / "bench.toml"
        said = [part for name, model in lamps.items() for part in ("--lamp", f"{name}={model}")]
        said += ["--meter", f"spectrometer={meter}"]
        command = [sys.executable, "-m", "even_beam", "devices", "--folder", self._folder.name, *said]
        self._process = subprocess.Popen(
            [*command, "--distance", f"{distance_m:g}"], stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True
        )

    def still_plays(self, lamps: Mapping[str, str], meter: str, distance_m: float) -> bool:
        """Whether it is these that run."""
        return self._process.poll() is None and self._plays == (dict(lamps), meter, distance_m)

    def wait(self) -> Path:
        """Wait until they answer; where they are reached. Raises `InstrumentError`."""
        if self._answered:
            return self.file
        until = time.monotonic() + READY_WITHIN_S
        while time.monotonic() < until:
            if self._process.poll() is not None:
                said = self._process.stdout.read().strip() if self._process.stdout is not None else ""
                raise InstrumentError(f"the stand-ins ended: {said[-300:]}")
            if self._process.stdout is not None and self._process.stdout.readline().startswith("# "):
                self._answered = True
                return self.file
        raise InstrumentError("the stand-ins did not answer")

    def close(self) -> None:
        """End them."""
        self._process.terminate()
        try:
            self._process.wait(5.0)
        except subprocess.TimeoutExpired:
            self._process.kill()
            self._process.wait()
        if self._process.stdout is not None:
            self._process.stdout.close()
        self._folder.cleanup()
