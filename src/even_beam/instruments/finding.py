"""What this machine's wires have at their other ends, as far as they say so."""

import warnings
from collections.abc import Iterator

ANSWERS_WITHIN_S = 1.0


def serial_ports() -> Iterator[str]:
    """The serial ports, each with what the system knows of it."""
    from serial.tools.list_ports import comports

    for port in sorted(comports(), key=lambda one: str(one.device)):
        known = "" if port.description in {None, "n/a"} else f": {port.description}"
        yield f"{port.device}{known}"


def visa_resources() -> Iterator[str]:
    """The resources that VISA finds by itself, each with what it says it is; those on a network it cannot find."""
    import pyvisa

    manager = pyvisa.ResourceManager("@py")
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")  # of packages that would look further, which nobody here needs
        names = manager.list_resources()
    for name in names:
        if name.startswith("ASRL"):
            continue  # the serial ports, which are listed as such, and which a question might set off
        yield f"{name}: {_who(manager, name)}"


def _who(manager: object, name: str) -> str:
    import pyvisa

    try:
        resource = manager.open_resource(name)  # type: ignore[attr-defined]
        try:
            resource.timeout = 1000.0 * ANSWERS_WITHIN_S
            return str(resource.query("*IDN?")).strip()
        finally:
            resource.close()
    except (pyvisa.Error, OSError, ValueError) as error:
        return f"does not answer ({error})"
