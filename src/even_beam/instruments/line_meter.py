"""A meter that speaks on its own, or when its button is pressed: a line on a serial port, or on a socket."""

import re
from collections.abc import Mapping
from pathlib import Path
from typing import Any

from even_beam.instruments.answered import factor_of, figure_of
from even_beam.instruments.protocols import BrokenOffError, InstrumentError, MeterReading, Settings

BAUD = 9600
TIMEOUT_S = 5.0
MOST_LINES = 50
"""So many lines that do not match are passed over before it is said."""


class LineMeter:
    """`address` (a serial port, or socket://HOST:PORT), `baud`, a `pattern` with named groups that are quantities,
    `units`, `asks` (what makes it speak, where something does), `streams` where its display goes on by itself."""

    has_spectrum = False

    def __init__(self, name: str, address: str, settings: Settings, folder: Path) -> None:
        self.name, self._address, self._settings = name, address, settings
        if not address:
            raise InstrumentError(f"{name}: it needs an address such as /dev/ttyUSB0 or socket://192.168.1.40:4001")
        try:
            self._pattern = re.compile(str(settings.get("pattern", "")))
        except re.error as error:
            raise InstrumentError(f"{name}: its pattern cannot be read: {error}") from error
        self.quantities: tuple[str, ...] = tuple(self._pattern.groupindex)
        if not self.quantities:
            raise InstrumentError(f"{name}: its pattern needs named groups, such as (?P<illuminance>[0-9.]+)")
        units = settings.get("units", {})
        self._units: Mapping[str, str] = units if isinstance(units, Mapping) else {}
        for quantity in self.quantities:
            factor_of(quantity, str(self._units.get(quantity, "")), name)
        self.reads_at_once = bool(settings.get("streams") or settings.get("asks"))
        self._port: Any = None

    def connect(self) -> str:
        """Open the port."""
        if self._port is None:
            try:
                import serial
            except ImportError as error:
                raise InstrumentError(f"{self.name}: to listen to it the package pyserial is needed") from error
            try:
                self._port = serial.serial_for_url(
                    self._address, baudrate=int(self._settings.get("baud", BAUD)), timeout=self._timeout
                )
            except (serial.SerialException, OSError, ValueError) as error:
                reason = f"cannot be reached at {self._address}: {error}"
                raise BrokenOffError(f"{self.name} {reason}. Is the cable in, and may you use the port?") from error
        return f"lines on {self._address}"

    @property
    def _timeout(self) -> float:
        return float(self._settings.get("timeout_s", TIMEOUT_S))

    def zero(self) -> None:
        """Nobody can tell it to."""

    def read(self) -> MeterReading:
        """The next line: of a display that streams one that begins now, of a button the next that is pressed."""
        import serial

        self.connect()
        try:
            if self._settings.get("streams"):
                self._port.reset_input_buffer()
                self._port.readline()  # its first line may be half of one
            if asks := str(self._settings.get("asks", "")):
                self._port.write(asks.encode())
            return self._next()
        except (serial.SerialException, OSError) as error:
            self.close()
            raise BrokenOffError(f"{self.name} went away: {error}") from error

    def _next(self) -> MeterReading:
        for _ in range(MOST_LINES):
            line = self._port.readline()
            if not line.endswith(b"\n"):
                heard = f"only “{line.decode(errors='replace').strip()}”" if line else "nothing"
                raise BrokenOffError(f"{self.name} said {heard} within {self._timeout:g} s.")
            said = self._pattern.search(line.decode(errors="replace").strip())
            if said is not None:
                return MeterReading(self._figures(said))
        raise InstrumentError(f"{self.name}: none of {MOST_LINES} lines is of its pattern. Is it of this meter?")

    def _figures(self, said: re.Match[str]) -> dict[str, float]:
        found = {}
        for quantity, text in said.groupdict().items():
            if text is not None:
                figure = figure_of(text, quantity, str(self._units.get(quantity, "")), "its line")
                if figure is not None:
                    found[quantity] = figure
        if not found:
            raise BrokenOffError(f"{self.name} spoke, and gave no figure.")
        return found

    def close(self) -> None:
        """Close the port."""
        port, self._port = self._port, None
        if port is not None:
            port.close()
