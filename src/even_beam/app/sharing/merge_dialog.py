"""What is asked before another logbook is taken in: whether things of one name are one thing."""

from collections.abc import Mapping, Sequence

from PyQt6.QtWidgets import QButtonGroup, QFrame, QRadioButton, QScrollArea, QVBoxLayout, QWidget

from even_beam.answers.sharing.deciding import Answer, Question
from even_beam.app.dialogs import Sheet
from even_beam.app.widgets.text import label
from even_beam.bench.records import Source

_AT_ONCE = 3
"""So many questions are seen without scrolling."""


class MergeDialog(Sheet):
    """Asks each question; what is not said is another thing, which can be joined later in the Kit."""

    def __init__(self, parent: QWidget | None, name: str, questions: Sequence[Question]) -> None:
        super().__init__(parent, f"Take in {name}?", "Take it in", width=620)
        words = f"What {name} has and this logbook has not comes in. {name} is left as it is."
        self.body.addWidget(label(words, "quiet", wrap=True))
        self._questions = questions
        self._groups: list[QButtonGroup] = []
        if not questions:
            return
        column = QVBoxLayout()
        column.setContentsMargins(12, 8, 12, 0)
        column.setSpacing(4)
        for question in questions:
            self._ask(question, name, column)
        asked = QWidget()
        asked.setLayout(column)
        area = QScrollArea()
        area.setFrameShape(QFrame.Shape.NoFrame)
        area.setWidgetResizable(True)
        area.setWidget(asked)
        height = asked.sizeHint().height()
        area.setMinimumHeight(min(height, height * _AT_ONCE // len(questions)) + 8)
        self.body.addWidget(area)

    def _ask(self, question: Question, name: str, column: QVBoxLayout) -> None:
        column.addWidget(label(f"Both have a {question.name}. Is it the same?", wrap=True))
        column.addWidget(label(f"here: {question.of_here}; in {name}: {question.of_there}", "quiet", wrap=True))
        group = QButtonGroup(self)
        for place, answer in enumerate(_answers(question)):
            button = QRadioButton(
                _WORDS[answer].format("lamp" if question.is_of_lamps else "meter", f"{question.name} ({name})")
            )
            button.setAccessibleName(f"{question.name}: {button.text()}")
            button.setChecked(answer is Answer.OTHER)
            group.addButton(button, place)
            column.addWidget(button)
        column.addSpacing(8)
        self._groups.append(group)

    @property
    def answers(self) -> Mapping[str, Answer]:
        """What was said of each thing there, by its identity."""
        return {
            question.there.id: _answers(question)[max(group.checkedId(), 0)]
            for question, group in zip(self._questions, self._groups, strict=True)
        }


_WORDS = {
    Answer.SAME: "It is the same {}",
    Answer.UNIT: "It is another unit of that model",
    Answer.OTHER: "It is another {}, called {} here",
}


def _answers(question: Question) -> list[Answer]:
    """What can be answered: units are of lamps of which the model is known."""
    has_units = isinstance(question.here, Source) and question.here.model_id is not None
    return [Answer.SAME, *([Answer.UNIT] if has_units else []), Answer.OTHER]
