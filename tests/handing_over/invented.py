"""Invented logbooks that cross what a report can meet: typed only, colour only, scores, zooms, many lamps, none."""

from datetime import UTC, datetime, timedelta
from pathlib import Path

from even_beam.answers.intake.importing import import_files
from even_beam.logbook.store import Logbook

HEAD = "session,fixture,meter,cct_k,dimmer_pct,distance,zoom,configuration,quantity,value,unit\n"
LONG = "A lamp with a name of sixty characters that nobody would say"
STRANGE = ("$5 =1+1", "<b>x</b> & co", "\u05de\u05e0\u05d5\u05e8\u05d4")


def _levels() -> str:
    lamps = (("Tansy", 1000.0, "bare"), ("Sorrel", 500.0, "softbox"), (LONG, 1005.0, "bare"))
    return "".join(
        f"E,{name},Hand,5600,{level},{metres} m,,{on_it},illuminance,{lux * level / 100 * 4 / metres**2:.1f},lx\n"
        for name, lux, on_it in lamps
        for level in (100, 50)
        for metres in (2, 4)
    )


def _colours() -> str:
    lamps = (("Tansy", 5610, 0.0032), ("Sorrel", 5230, -0.004), ("Rue", 6400, 0.012))
    return "".join(
        f"E,{name},Colour,5600,100,,,,cct,{k},K\nE,{name},Colour,5600,100,,,,duv,{duv},\n" for name, k, duv in lamps
    )


def _scores() -> str:
    lamps = (("Tansy", "96", 82), ("Sorrel", "95+", -12), ("Rue", "88 to 91", 40))
    return "".join(f"E,{name},M,5600,100,,,,ra,{ra},\nE,{name},M,5600,100,,,,r9,{r9},\n" for name, ra, r9 in lamps)


def _many() -> str:
    return "".join(
        f"E,Lamp {i:02},Hand,5600,100,2 m,,,illuminance,{200 + 37 * i},lx\n"
        f"E,Lamp {i:02},Hand,5600,100,2 m,,,cct,{5600 + 20 * (i - 12)},K\n"
        f"E,Lamp {i:02},Hand,5600,100,2 m,,,ra,{80 + i * 0.7:.0f},\n"
        for i in range(25)
    )


def _zooms() -> str:
    lamps = (("Tansy", "flood", 500), ("Tansy", "spot", 4000), ("Sorrel", "flood", 800), ("Sorrel", "spot", 2500))
    return "".join(f"E,{name},Hand,5600,100,3 m,{zoom},,illuminance,{lux},lx\n" for name, zoom, lux in lamps)


ROWS = {
    "empty": "",
    "typed only": _levels(),
    "colour only": _colours(),
    "scores only": _scores(),
    "one reading": "E,Tansy,Hand,5600,100,2 m,,,illuminance,1000,lx\n",
    "zooms": _zooms(),
    "no terms": "E,Sun,Hand,,,,,,illuminance,90000,lx\nE,Window,Hand,,,,,,illuminance,800,lx\n",
    "no light": "E,Tansy,Hand,5600,100,2 m,,,illuminance,0,lx\nE,Sorrel,Hand,5600,100,2 m,,,illuminance,5,lx\n",
    "25 lamps": _many(),
    "strange names": "".join(
        f'E,"{name}",Hand,5600,100,2 m,,,illuminance,{lux},lx\nE,"{name}",Hand,5600,100,2 m,,,cct,{lux + 4000},K\n'
        for name, lux in zip(STRANGE, (1000, 1200, 800), strict=True)
    ),
}


def invented(name: str, folder: Path) -> Logbook:
    """The logbook of a name, open."""
    table = folder / "table.csv"
    table.write_text(HEAD + ROWS[name], encoding="utf-8")
    logbook = Logbook.create(folder / "invented.evenbeam")
    now = datetime(2026, 11, 26, 20, tzinfo=UTC)

    def clock() -> datetime:
        nonlocal now
        now += timedelta(seconds=30)
        return now

    if ROWS[name]:
        import_files([table], logbook, clock)
    return logbook
