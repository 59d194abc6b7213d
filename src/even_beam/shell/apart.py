"""Long work in a process of its own: threads of one interpreter take turns, and a window beside them would stutter."""

import atexit
import multiprocessing
import os
import threading
from collections.abc import Callable
from concurrent.futures import Future, ProcessPoolExecutor, wait
from concurrent.futures.process import BrokenProcessPool
from typing import ParamSpec, TypeVar

from even_beam.shell import memory

P = ParamSpec("P")
T = TypeVar("T")

LOOK_S = 0.05
"""So often it is asked whether the work is done, or to be left."""


class EndedError(Exception):
    """The process was ended before its work was done."""

    def __init__(self) -> None:
        super().__init__(
            "The process that was making it ended before its time. Nothing was written; the logbook is unharmed. Do it"
            " again."
        )


def _begin() -> None:
    """What is set up in the process first: rare looks for what is no longer needed, as in the program itself, and an
    end with the program, which cannot end it once it was killed."""
    memory.look_seldom()
    parent = multiprocessing.parent_process()

    def watch() -> None:
        if parent is not None:
            parent.join()
            os._exit(1)

    threading.Thread(target=watch, daemon=True).start()


class Apart:
    """One process that is begun with the first work and kept; it ends with the program, however that ends."""

    def __init__(self) -> None:
        self._pool: ProcessPoolExecutor | None = None
        self._turn = threading.Lock()
        self._under_way = False

    def run(self, pause: Callable[[], None], work: Callable[P, T], *args: P.args, **kwargs: P.kwargs) -> T:
        """Do work there, after what others asked for, and wait for it; `pause` may raise to leave it, which ends the
        process.

        `work` must be a function of a module, its arguments what can be sent. Raises what it raises, and
        `EndedError` where the process was ended from outside.
        """
        while not self._turn.acquire(timeout=LOOK_S):
            pause()
        try:
            return self._waited_for(self._ready().submit(work, *args, **kwargs), pause)
        except BrokenProcessPool as error:
            self.stop()
            raise EndedError from error
        except BaseException:
            if self._under_way:
                self.stop()
            raise
        finally:
            self._under_way = False
            self._turn.release()

    def _waited_for(self, future: Future[T], pause: Callable[[], None]) -> T:
        self._under_way = True
        while not future.done():
            wait([future], timeout=LOOK_S)
            pause()
        self._under_way = False
        return future.result()

    def _ready(self) -> ProcessPoolExecutor:
        if self._pool is None:
            # a fork would take the window's threads and sockets with it
            self._pool = ProcessPoolExecutor(1, multiprocessing.get_context("spawn"), initializer=_begin)
        return self._pool

    def stop(self) -> None:
        """End the process, whatever it does."""
        pool, self._pool = self._pool, None
        if pool is not None:
            processes = list((pool._processes or {}).values())  # there is no public way to end what still works
            pool.shutdown(wait=False, cancel_futures=True)
            for process in processes:
                process.kill()


APART = Apart()
"""The one of the program."""

atexit.register(APART.stop)
