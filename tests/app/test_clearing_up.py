"""What is no longer needed goes in the thread of the window, never in a worker."""

import gc
import threading
import weakref

from even_beam.app.clearing_up import ClearingUp


class Round:
    """Two that hold each other: only a look for what is no longer needed frees them."""

    def __init__(self) -> None:
        self.other = self
        self.freed_by = threading.get_ident()


def test_a_worker_frees_nothing_and_the_window_does(qapp, qtbot):
    freed_in: list[int] = []

    def work() -> None:
        for _ in range(100_000):
            one = Round()
            weakref.finalize(one, lambda: freed_in.append(threading.get_ident()))
            del one

    clearing_up = ClearingUp(qapp)
    assert not gc.isenabled()
    worker = threading.Thread(target=work)
    worker.start()
    worker.join()
    qtbot.waitUntil(lambda: bool(freed_in), timeout=5_000)
    assert set(freed_in) == {threading.get_ident()}
    clearing_up.deleteLater()
