"""The shelf of meters: what each is, and how far it can be trusted."""

from collections.abc import Callable, Mapping
from pathlib import Path
from typing import TYPE_CHECKING

from even_beam.answers.kit.joining import joining_done, joining_words
from even_beam.answers.kit.shelf import Found, Part, Record, Thing, ThingPage
from even_beam.answers.sharing.meters import MetersAgree
from even_beam.bench.records import Calibration, Meter, new_id
from even_beam.desk.kit.desk import KitDesk
from even_beam.desk.kit.form_error import FormError
from even_beam.desk.kit.meter_form import MeterForm, form_of, meter_of
from even_beam.desk.kit.meter_line import USUAL, changed, words_of
from even_beam.logbook.store import Logbook
from even_beam.words import notation

if TYPE_CHECKING:
    from even_beam.instruments.bench_file import Reached


class MeterShelf:
    """The meters of a Kit."""

    one = "meter"
    usual = USUAL
    files = ""
    from_files_alone = False
    empty = "No meter yet. A writes one down: its name, and what it promises."

    def __init__(self, kit: KitDesk, wired: "Callable[[], Mapping[str, Reached]]" = dict) -> None:
        self._kit, self._wired = kit, wired

    def _meter(self, key: str | None) -> Meter | None:
        return next((meter for meter in self._kit.meters() if meter.id == key), None)

    def things(self) -> list[Thing]:
        """Every meter."""
        return [Thing(meter.id, meter.nickname, _line(meter)) for meter in self._kit.meters()]

    def page(self, key: str) -> ThingPage | None:
        """What it promises, its calibrations, and what was noted."""
        meter = self._meter(key)
        if meter is None:
            return None
        per_cent = notation.plain(100.0 * meter.level_tolerance, 2), notation.plain(100.0 * meter.ratio_tolerance, 2)
        promises = [
            ("level", f"within {per_cent[0]} % of the truth"),
            ("two readings", f"agree within {per_cent[1]} %"),
            ("reads", f"from {notation.light(meter.floor_lx)} to {notation.light(meter.ceiling_lx)}"),
            ("receptor", f"{meter.receptor}, C {meter.constant:g}"),
        ]
        if meter.is_spectrometer:
            promises.append(("white", f"x and y within {notation.plain(meter.xy_tolerance, 4)}"))
            promises.append(("colour", f"mostly noise below {notation.light(meter.dim_lx)}"))
        if meter.cc_sign != "unknown":
            promises.append(("its CC figure", f"shows the {meter.cc_sign}"))
        beside = [("zeroed on", meter.zeroed_on), ("notes", meter.notes)]
        if meter.simulated:
            beside.append(("simulated", "played by the program: its readings say so"))
        calibrated = [one for one in self._kit.logbook.all(Calibration) if one.meter_id == meter.id]
        rows = [
            (f"{one.at:%-d %b %Y}", ", ".join(part for part in (one.kind, one.note) if part))
            for one in sorted(calibrated, key=lambda one: one.at, reverse=True)
        ]
        return ThingPage(
            meter.nickname,
            _line(meter),
            (
                Part("assumed, for nothing was stated" if meter.is_assumed else "what it promises", tuple(promises)),
                Part("beside", tuple((name, text) for name, text in beside if text)),
                *self._on_a_wire(meter),
                Part("calibrated and zeroed", tuple(rows), "Nothing is written down: Z at the Bench does it."),
            ),
        )

    def _on_a_wire(self, meter: Meter) -> list[Part]:
        """How it is reached, where the bench file that was used last says so."""
        reached = {name.casefold(): one for name, one in self._wired().items()}.get(meter.nickname.casefold())
        if reached is None:
            return []
        rows = [("driver", reached.driver), ("address", reached.address)]
        said = reached.settings.get("identity")
        return [Part("on a wire", (*rows, *([("says of itself", str(said))] if said else [])))]

    def record(self, key: str) -> Record | None:
        """Whether it agrees with others that have read the same lamps."""
        return (lambda path: _beside_others(path, key)) if self._kit.logbook.uses_of_meter(key) else None

    def _form(self, text: str, key: str | None) -> tuple[MeterForm, str]:
        """The form that a line changes, and what of it is a change: a new meter's line begins with its name."""
        meter = self._meter(key)
        if meter is not None:
            return form_of(meter), text
        nickname, _, more = text.partition(";")
        return MeterForm(nickname.strip()), more

    def understood(self, text: str, key: str | None) -> str:
        """What a line would change."""
        form, more = self._form(text, key)
        if key is not None and (words := joining_words(text, form.nickname)):
            return words
        return words_of(more, form) if more.strip() else f"; and more, such as {USUAL}"

    def say(self, text: str, key: str | None) -> tuple[str, str]:
        """Change a meter, or add one; join it with another, or part them."""
        before = self._meter(key)
        if before is not None and (said := joining_done(self._kit, before, text)):
            return before.id, said
        form, more = self._form(text, key)
        after = changed(more, form) if more.strip() else form
        meter = meter_of(after, before or Meter(new_id(), ""))
        self._kit.save_meter(meter, before)
        return (
            meter.id,
            f"{meter.nickname} is in the Kit" if before is None else f"{meter.nickname}: {words_of(more, form)}",
        )

    def remove(self, key: str) -> str:
        """Take a meter out that has read nothing."""
        meter = self._meter(key)
        if meter is None:
            raise FormError("line", "There is no such meter")
        self._kit.remove_meter(meter)
        return f"{meter.nickname} is out of the Kit"

    def take(self, path: Path) -> tuple[str, str]:
        """Refused: meters are not read from files."""
        raise FormError("line", "Meters are not read from files")

    def write(self, path: Path) -> str:
        """Refused: meters go with the sessions that they read."""
        raise FormError("line", "Meters go with the sessions that they read: D in the Report")


def _line(meter: Meter) -> str:
    ratios = "ratios only" if meter.for_ratios_only else f"level ±{notation.plain(100.0 * meter.level_tolerance, 2)} %"
    return f"{meter.kind}, {meter.receptor} · {ratios}"


def _beside_others(path: Path, meter_id: str) -> Found:
    """What it reads more than other meters, a sentence each."""
    book = Logbook.open_to_read(path)
    try:
        lines = list(MetersAgree(book).lines(meter_id))
    finally:
        book.close()
    nothing = "No lamp was read with it and with another meter at the same terms: a round robin tells."
    return Found((Part("beside other meters", tuple(("", line) for line in lines), nothing),))
