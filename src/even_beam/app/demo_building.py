"""The demo being built while the window waits for it, and says how far it is."""

from collections.abc import Callable
from pathlib import Path

from even_beam.app.job_runner import JobRunner
from even_beam.app.widgets.under_way import UnderWay
from even_beam.demo.making import make_apart
from even_beam.demo.place import DemoPlace
from even_beam.shell.job import Job

_ASIDE = "It takes about half a minute, once. Esc leaves it, and opens your own logbook."


class DemoBuilding:
    """One building of the demo: `page` shows it, then `built` gets its file, or `left` why there is none; empty where
    somebody did not want to wait."""

    def __init__(
        self, place: DemoPlace, jobs: JobRunner, built: Callable[[Path], None], left: Callable[[str], None]
    ) -> None:
        self.page = UnderWay("The demo is being built", _ASIDE)
        self.page.show_progress(0.0, "Lamps, meters and gels of a garden's film unit ...")

        def work(job: Job) -> Path:
            return place.build(lambda path: make_apart(path, job.stop_if_cancelled, job.progress))

        job = jobs.run(
            "build the demo",
            work,
            built,
            lambda error: left(str(error)),
            lambda share, words: self.page.show_progress(share, f"Playing {words} ..."),
        )
        self.page.left.connect(job.cancel)
        self.page.left.connect(lambda: left(""))
