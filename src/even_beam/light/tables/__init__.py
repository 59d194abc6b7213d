"""Published tables, one CSV file each (sources in README.md beside them), and their one loader."""

from functools import cache
from importlib.resources import files

import numpy as np
from numpy.typing import NDArray


@cache
def table(name: str) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Wavelengths in nm, shape (n,), and columns, shape (n, k), of the table `name` (file name without `.csv`)."""
    with files(__name__).joinpath(f"{name}.csv").open(encoding="utf-8") as file:
        rows = np.loadtxt(file, delimiter=",", skiprows=1)
    return np.ascontiguousarray(rows[:, 0]), np.ascontiguousarray(rows[:, 1:])


@cache
def column_names(name: str) -> tuple[str, ...]:
    """The column names of the table `name`, without the wavelength."""
    with files(__name__).joinpath(f"{name}.csv").open(encoding="utf-8") as file:
        return tuple(file.readline().strip().split(",")[1:])
