"""The rotating log file."""

import faulthandler
import logging
from logging.handlers import RotatingFileHandler
from pathlib import Path

from even_beam.shell import places

LOG = logging.getLogger("even_beam")


def start_log(path: Path | None = None) -> Path | None:
    """Log to the state directory from now on, crashes of the interpreter included; None when it cannot be written."""
    file = path or places.log_file()
    try:
        file.parent.mkdir(parents=True, exist_ok=True)
        handler = RotatingFileHandler(file, maxBytes=1_000_000, backupCount=3, encoding="utf-8")
    except OSError:
        return None
    handler.setFormatter(logging.Formatter("%(asctime)s %(levelname)s %(name)s %(message)s"))
    for old in list(LOG.handlers):
        LOG.removeHandler(old)
    LOG.addHandler(handler)
    LOG.setLevel(logging.INFO)
    faulthandler.enable(handler.stream)  # type: ignore[arg-type]
    return file
