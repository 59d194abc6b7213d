"""Where the program keeps its own files (XDG base directories)."""

from pathlib import Path

import platformdirs

_NAME = "even-beam"


def config_file() -> Path:
    """The user's settings."""
    return Path(platformdirs.user_config_dir(_NAME)) / "settings.toml"


def data_folder() -> Path:
    """Where the default logbook lives."""
    return Path(platformdirs.user_data_dir(_NAME))


def cache_folder() -> Path:
    """Where the demo is built."""
    return Path(platformdirs.user_cache_dir(_NAME))


def log_file() -> Path:
    """The rotating log."""
    return Path(platformdirs.user_state_dir(_NAME)) / "even-beam.log"


def recent_file() -> Path:
    """The list of logbooks opened lately, and the window's geometry."""
    return Path(platformdirs.user_state_dir(_NAME)) / "recent.json"
