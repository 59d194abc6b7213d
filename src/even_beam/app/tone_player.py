"""Plays the three tones, where the machine has sound; where it has not, it says so once and stays silent."""

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QUrl

from even_beam.answers.bench.tone_samples import Tone, wav_of
from even_beam.files.writing import write
from even_beam.shell import places

NO_SOUND = "There is no sound here: tones need the system library libpulse0. Everything else works."


class Tones:
    """Three sounds, loaded when the first is played."""

    def __init__(self, say: Callable[[str], None]) -> None:
        self._say = say
        self._silent = False
        self._sounds: dict[Tone, object] = {}

    def play(self, verdict: Tone) -> None:
        """Play a tone."""
        if self._silent:
            return
        try:
            from PyQt6.QtMultimedia import QSoundEffect  # only when somebody wants tones
        except ImportError:
            self._silent = True
            self._say(NO_SOUND)
            return
        if verdict not in self._sounds:
            sound = QSoundEffect()
            sound.setSource(QUrl.fromLocalFile(str(_file_of(verdict))))
            self._sounds[verdict] = sound
        self._sounds[verdict].play()  # type: ignore[attr-defined]


def _file_of(verdict: Tone) -> Path:
    path = places.cache_folder() / f"tone-{verdict.name.lower()}.wav"
    if not path.exists():
        path.parent.mkdir(parents=True, exist_ok=True)
        write(path, wav_of(verdict))
    return path
