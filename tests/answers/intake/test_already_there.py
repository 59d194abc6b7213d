"""The same file twice, and files that have grown: nothing is doubled, nothing that is new stays out."""

import numpy as np

from even_beam.answers.intake.importing import import_files

HEAD = "session,fixture,meter,time,cct_k,dimmer_pct,distance,quantity,value\n"
ROWS = [
    "Old evening,Yarrow,Hand meter,,3200,100,2 m,illuminance,1600\n",
    "Old evening,Yarrow,Hand meter,,3200,100,2 m,illuminance,1600\n",
    "Old evening,Yarrow,Hand meter,,3200,50,2 m,illuminance,810\n",
    "Other evening,Yarrow,Hand meter,2025-03-01T18:00,3200,100,2 m,illuminance,1600\n",
]


def brought(tmp_path, logbook, clock, text: str):
    path = tmp_path / "old.csv"
    path.write_text(text)
    return import_files([path], logbook, clock)


def kept(logbook) -> int:
    return sum(len(logbook.readings(session.id)) for session in logbook.sessions())


def test_a_table_twice_and_a_table_that_has_grown(tmp_path, logbook, clock):
    first = brought(tmp_path, logbook, clock, HEAD + "".join(ROWS))
    assert (first.readings, first.again, kept(logbook)) == (4, 0, 4), "repeats within one file all come in"
    again = brought(tmp_path, logbook, clock, HEAD + "".join(ROWS))
    assert (again.readings, again.again, again.sessions) == (0, 4, [])
    assert again.words == "4 readings were there already and not taken twice."
    assert kept(logbook) == 4
    grown = brought(tmp_path, logbook, clock, HEAD + "".join([*ROWS, ROWS[0], ROWS[2].replace("810", "805")]))
    assert (grown.readings, grown.again) == (2, 4), "a third repeat and a new figure"
    assert grown.words.startswith("2 readings with 2 figures into “Old evening”. 4 readings were there already")
    moved = brought(tmp_path, logbook, clock, HEAD + ROWS[3].replace("18:00", "19:00"))
    assert moved.readings == 1, "another time is another reading"
    elsewhere = brought(tmp_path, logbook, clock, HEAD + ROWS[0].replace("Old evening", "New evening"))
    assert elsewhere.readings == 1, "another session is another reading"


def test_spectra_and_traces_twice(tmp_path, logbook, clock):
    folder = tmp_path / "spectra"
    folder.mkdir()
    grid = np.arange(380, 781, 5)
    for name, peak in (("Heron 5600 50", 450.0), ("Heron 3200 50", 600.0)):
        values = np.exp(-0.5 * ((grid - peak) / 40.0) ** 2)
        (folder / f"{name}.csv").write_text(
            "nm,value\n" + "".join(f"{w},{v:.6f}\n" for w, v in zip(grid, values, strict=True))
        )
    assert import_files([folder], logbook, clock).readings == 2
    again = import_files([folder], logbook, clock)
    assert (again.readings, again.again, kept(logbook)) == (0, 2, 2)
    (folder / "Heron 5600 50.csv").write_text("nm,value\n" + "".join(f"{w},{1.0 + w / 1e4:.6f}\n" for w in grid))
    changed = import_files([folder], logbook, clock)
    assert (changed.readings, changed.again) == (1, 1), "another light under the same name is another reading"
