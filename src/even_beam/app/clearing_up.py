"""What is no longer needed is looked for in the thread of the window alone.

The interpreter looks wherever it happens to run: a worker that found a window closed long ago would destroy its widgets
in the wrong thread, and the toolkit with them.
"""

import gc

from PyQt6.QtCore import QObject, QTimer

EVERY_MS = 500


class ClearingUp(QObject):
    """Looks at the interpreter's own thresholds, from here on by the clock of the window."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        gc.disable()
        self._clock = QTimer(self)
        self._clock.timeout.connect(self.look)
        self._clock.start(EVERY_MS)

    def look(self) -> None:
        """Collect the oldest generation whose count is due."""
        counts = enumerate(zip(gc.get_count(), gc.get_threshold(), strict=True))
        due = [generation for generation, (count, most) in counts if count > most]
        if due:
            gc.collect(due[-1])
