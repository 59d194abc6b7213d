"""Change notices as plain callbacks."""

from collections.abc import Callable
from typing import Generic, ParamSpec

Arguments = ParamSpec("Arguments")


class Notice(Generic[Arguments]):
    """A list of callbacks, called in the order of their connecting."""

    def __init__(self) -> None:
        self._callbacks: list[Callable[Arguments, None]] = []

    def connect(self, callback: Callable[Arguments, None]) -> None:
        """Call `callback` at every notice from now on."""
        self._callbacks.append(callback)

    def __call__(self, *args: Arguments.args, **kwargs: Arguments.kwargs) -> None:
        """Tell everyone."""
        for callback in list(self._callbacks):
            callback(*args, **kwargs)
