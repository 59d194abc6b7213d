"""Any meter that answers text (SCPI-1999, IEEE 488.2), described and not programmed."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np

from even_beam.instruments.answered import factor_of, figure_of, spectrum_of
from even_beam.instruments.protocols import BrokenOffError, InstrumentError, MeterReading, Settings

SPECTRUM = "spectrum"
BLOCKS = {"float32": "f", "float64": "d"}
TIMEOUT_S = 5.0
READ_TWICE = 2
"""A question that broke off is asked once more, over a new connection."""


@dataclass(frozen=True, slots=True)
class _Asked:
    """What is asked for a quantity and how it answers."""

    ask: str
    unit: str = ""
    first_nm: float | None = None
    step_nm: float | None = None
    wavelengths: str = ""
    block: str = ""
    big_endian: bool = False


class ScpiMeter:
    """`address` (a VISA resource name), `write_termination`, `read_termination`, `timeout_s`, what its `identity` must
    contain, `begins`, `zero`, `errors`, `number` (what it counts its readings by), and `reads`: for each quantity what
    to `ask` and in which `unit`."""

    reads_at_once = True

    def __init__(self, name: str, address: str, settings: Settings, folder: Path) -> None:
        self.name, self._address, self._settings = name, address, settings
        if not address:
            raise InstrumentError(f"{name}: it needs an address such as TCPIP::192.168.1.40::5025::SOCKET")
        reads = settings.get("reads", {})
        if not isinstance(reads, Mapping) or not reads:
            raise InstrumentError(f'{name}: it needs [meter."{name}".reads], which says what to ask for each quantity')
        self._asked = {quantity: _asked(name, quantity, said) for quantity, said in reads.items()}
        for quantity, asked in self._asked.items():
            if quantity != SPECTRUM:
                factor_of(quantity, asked.unit, name)
        self.quantities: tuple[str, ...] = tuple(quantity for quantity in self._asked if quantity != SPECTRUM)
        self.has_spectrum = SPECTRUM in self._asked
        self._resource: Any = None
        self._who = ""

    # --- the wire

    def connect(self) -> str:
        """Reach it and ask who it is."""
        if self._resource is None:
            self._resource = self._opened()
            try:
                self._who = self._said("*IDN?")
                wanted = str(self._settings.get("identity", ""))
                if wanted.casefold() not in self._who.casefold():
                    raise InstrumentError(
                        f"{self.name}: “{self._who}” answers there, not “{wanted}”. Check the address."
                    )
                for command in self._settings.get("begins", ()):
                    self._told(str(command))
            except InstrumentError:
                self.close()
                raise
        return self._who

    def _opened(self) -> Any:
        try:
            import pyvisa
        except ImportError as error:
            raise InstrumentError(
                f"{self.name}: to speak to it the packages pyvisa and pyvisa-py are needed"
            ) from error
        try:
            resource: Any = pyvisa.ResourceManager("@py").open_resource(self._address)
        except (pyvisa.Error, OSError, ValueError) as error:
            reason = f"cannot be reached at {self._address}: {error}"
            raise BrokenOffError(f"{self.name} {reason}. Is it on, and the cable in?") from error
        resource.timeout = 1000.0 * float(self._settings.get("timeout_s", TIMEOUT_S))
        resource.write_termination = str(self._settings.get("write_termination", "\n"))
        resource.read_termination = str(self._settings.get("read_termination", "\n"))
        if "baud" in self._settings:
            resource.baud_rate = int(self._settings["baud"])
        return resource

    def close(self) -> None:
        """Let go of it."""
        resource, self._resource = self._resource, None
        if resource is not None:
            try:
                resource.close()
            except Exception:  # what does not answer may fail to be closed as well
                return

    def _on_the_wire(self, act: Callable[[], Any], words: str) -> Any:
        import pyvisa

        try:
            return act()
        except (pyvisa.Error, OSError) as error:
            self.close()  # half an answer may still be on its way: the next question begins anew
            seconds = float(self._settings.get("timeout_s", TIMEOUT_S))
            raise BrokenOffError(
                f"{self.name} did not answer {words} within {seconds:g} s. Is it on, and the cable in?"
            ) from error
        except (UnicodeDecodeError, ValueError) as error:
            self.close()
            raise BrokenOffError(f"{self.name} answered {words} with what is no text.") from error

    def _told(self, command: str) -> None:
        self._on_the_wire(lambda: self._resource.write(command), command)

    def _said(self, question: str) -> str:
        return str(self._on_the_wire(lambda: self._resource.query(question), question)).strip()

    # --- what it does

    def zero(self) -> None:
        """As its description says; nothing where that says nothing."""
        if command := str(self._settings.get("zero", "")):
            self._again(lambda: self._told(command))
            self._complain()

    def read(self) -> MeterReading:
        """Ask for every quantity; a question that breaks off is asked once more."""
        return self._again(self._read)

    def _again(self, act: Callable[[], Any]) -> Any:
        for left in reversed(range(READ_TWICE)):
            try:
                self.connect()
                return act()
            except BrokenOffError:
                if not left:
                    raise
        raise AssertionError

    def _read(self) -> MeterReading:
        figures: dict[str, float] = {}
        spectrum = None
        for quantity, asked in self._asked.items():
            if quantity == SPECTRUM:
                spectrum = spectrum_of(*self._spectrum(asked), asked.unit or "relative", self.name)
                continue
            figure = figure_of(self._said(asked.ask), quantity, asked.unit, asked.ask)
            if figure is not None:
                figures[quantity] = figure
        number = self._said(str(self._settings["number"])) if "number" in self._settings else ""
        self._complain()
        if not figures and spectrum is None:
            raise InstrumentError(f"{self.name} has no figure to give: is there light, and is it ready?")
        return MeterReading(figures, spectrum, number=number)

    def _spectrum(self, asked: _Asked) -> tuple[np.ndarray, np.ndarray]:
        values = self._numbers(asked.ask, asked)
        if asked.wavelengths:
            return values, self._numbers(asked.wavelengths, asked)
        first, step = asked.first_nm or 0.0, asked.step_nm or 0.0
        return values, first + step * np.arange(values.size)

    def _numbers(self, question: str, asked: _Asked) -> np.ndarray:
        if asked.block:

            def act() -> Any:
                return self._resource.query_binary_values(
                    question, datatype=BLOCKS[asked.block], is_big_endian=asked.big_endian, container=np.array
                )

            return np.asarray(self._on_the_wire(act, question), dtype=float)
        text = self._said(question)
        try:
            return np.array([float(part) for part in text.split(",")])
        except ValueError as error:
            raise BrokenOffError(f"{self.name} answered {question} with what is no list of numbers.") from error

    def _complain(self) -> None:
        """Its own complaint, where its description says how it is asked for one."""
        if question := str(self._settings.get("errors", "")):
            said = self._said(question)
            if said and said.lstrip("+").partition(",")[0].strip() not in {"0", ""}:
                raise BrokenOffError(f"{self.name} says: {said}.")


def _asked(name: str, quantity: str, said: object) -> _Asked:
    if isinstance(said, str):
        said = {"ask": said}
    if not isinstance(said, Mapping) or not said.get("ask"):
        raise InstrumentError(f"{name}: of {quantity} it must be said what to ask")
    known = {"ask", "unit", "first_nm", "step_nm", "wavelengths", "block", "big_endian"}
    if strangers := set(said) - known:
        raise InstrumentError(f"{name}: of {quantity} unknown: {', '.join(sorted(strangers))}")
    asked = _Asked(**said)
    if asked.block and asked.block not in BLOCKS:
        raise InstrumentError(f"{name}: a block is of {' or '.join(BLOCKS)}, not “{asked.block}”")
    if quantity == SPECTRUM and not asked.wavelengths and not (asked.first_nm and asked.step_nm):
        raise InstrumentError(f"{name}: a spectrum needs first_nm and step_nm, or a question for its wavelengths")
    return asked
