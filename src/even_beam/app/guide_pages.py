"""The pages of the user guide with their pictures: views as they were taken, charts drawn when they are wanted."""

from functools import partial
from importlib.resources import files
from pathlib import Path

from PyQt6.QtCore import Qt, QUrl
from PyQt6.QtGui import QImage, QTextDocument
from PyQt6.QtWidgets import QTextBrowser

import even_beam
from even_beam.app import theme
from even_beam.app.job_runner import JobRunner
from even_beam.shell.job import Job
from even_beam.words.quantities import QUANTITIES

WIDTH, CHART_HEIGHT = 660, 340
_IMAGE = QTextDocument.ResourceType.ImageResource


def page(name: str) -> str:
    """The text of a page. Raises `FileNotFoundError` for one that there is not."""
    text = files("even_beam.guide").joinpath(name).read_text(encoding="utf-8")
    return text.replace("{figures}", ", ".join(one.label for one in QUANTITIES.values()))


def view_file(name: str) -> Path:
    """The picture of a view: beside the pages where the program is installed, in the documentation of its sources
    else."""
    installed = Path(str(files("even_beam.guide") / "views" / name))
    return installed if installed.exists() else Path(even_beam.__file__).parents[2] / "docs" / "screenshots" / name


def _drawn(job: Job, name: str, ratio: float, ground: str) -> bytes:
    from even_beam.demo.guide_charts import CHARTS  # what draws for paper is loaded when somebody reads the guide
    from even_beam.figures.picture_renderer import picture

    width, height = round(WIDTH * ratio), round(CHART_HEIGHT * ratio)
    return picture(CHARTS[name](), "a simulated lamp", width, height, ground=ground)


class GuidePages(QTextBrowser):
    """Shows Markdown; `view.png` is a view of the window, `chart:name` a chart of `demo.guide_charts`."""

    def __init__(self) -> None:
        super().__init__()
        self._jobs = JobRunner(self)
        self._charts: dict[str, QImage] = {}
        self.setOpenLinks(False)
        self.setFont(theme.font("body"))

    def show_page(self, name: str) -> None:
        """Go to a page."""
        self.setMarkdown(page(name))

    def loadResource(self, kind: int, name: QUrl) -> object:
        """A picture; a chart that is being drawn leaves its room free. Nothing is fetched from anywhere."""
        if kind != _IMAGE.value:
            return None
        return self._chart(name.path()) if name.scheme() == "chart" else self._view(name.fileName())

    def _view(self, name: str) -> QImage:
        ratio = self.devicePixelRatioF()
        image = QImage(str(view_file(name)))
        image = image.scaledToWidth(round(WIDTH * ratio), Qt.TransformationMode.SmoothTransformation)
        image.setDevicePixelRatio(ratio)
        return image

    def _chart(self, name: str) -> QImage:
        ratio = self.devicePixelRatioF()
        if name not in self._charts:
            free = QImage(round(WIDTH * ratio), round(CHART_HEIGHT * ratio), QImage.Format.Format_ARGB32)
            free.fill(Qt.GlobalColor.transparent)
            free.setDevicePixelRatio(ratio)
            self._charts[name] = free
            ground = "dark" if theme.tokens() is theme.STUDIO else "light"
            work = partial(_drawn, name=name, ratio=ratio, ground=ground)
            self._jobs.run("draw a chart of the guide", work, partial(self._put, name), lambda _: None)
        return self._charts[name]

    def _put(self, name: str, drawn: bytes) -> None:
        image = QImage.fromData(drawn)
        image.setDevicePixelRatio(self.devicePixelRatioF())
        self._charts[name] = image
        document = self.document()
        if document is not None:
            document.addResource(_IMAGE.value, QUrl(f"chart:{name}"), image)
            document.markContentsDirty(0, document.characterCount())

    @property
    def busy(self) -> bool:
        """Whether a chart is being drawn."""
        return self._jobs.busy

    def let_go(self) -> None:
        """Draw nothing any more: the guide is closed."""
        self._jobs.shut()
