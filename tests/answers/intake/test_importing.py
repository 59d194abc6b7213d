import pytest

from even_beam.answers.intake.importing import import_files, import_table
from even_beam.answers.intake.mappings import known_columns, remember_columns
from even_beam.answers.intake.preview import preview_of
from even_beam.bench.records import Meter, Source
from even_beam.bench.traces import settled_after_s
from even_beam.collection.collection import Collection, session_state
from even_beam.files.errors import OutputError
from even_beam.formats import FormatError, columns, readings_table
from even_beam.formats.kinds import kind_of
from even_beam.handing_over.table import table_rows, write_table

WALK = """session,fixture,mode,cct_k,tint,dimmer_pct,configuration,distance,position,quantity,value,unit,meter,time,note
Walk,Yarrow,fixed,,,100,bare,25 ft,centre,illuminance,300,lx,Old meter,2024-05-01T20:00,
Walk,Yarrow,fixed,,,100,bare,20 ft,centre,illuminance,450,lx,Old meter,2024-05-01T20:02,
Walk,Yarrow,fixed,,,100,bare,20 ft,centre,illuminance,452,lx,Old meter,2024-05-01T20:02,second click
Walk,Yarrow,fixed,,,100,bare,10 ft,centre,illuminance,160,fc,Old meter,2024-05-01T20:05,
Walk,Yarrow,fixed,,,100,bare,10 ft,centre,cct,3190,K,Old meter,2024-05-01T20:05,
Walk,Yarrow,fixed,,,100,bare,10 ft,centre,ra,99+,,Old meter,2024-05-01T20:05,
Other,Sorrel,CCT,5600,,50,softbox + full CTO,"equal, not measured",20,f_stop,16.8,,Old meter,,
"""


def test_a_spreadsheet_of_old_tests_becomes_sessions(logbook, clock, tmp_path):
    path = tmp_path / "old.csv"
    path.write_text(WALK, encoding="utf-8")
    report = import_table(path, logbook, clock)
    assert (report.readings, report.figures, report.refused) == (5, 7, [])
    walk, other = logbook.sessions() if logbook.sessions()[0].name == "Walk" else logbook.sessions()[::-1]
    _, readings = session_state(logbook, walk.id)
    assert [round(m.terms.distance_m / 0.3048) for m in readings] == [25, 20, 20, 10]
    last = readings[-1]
    assert last.value("illuminance") == pytest.approx(1722.2, abs=0.1)
    assert last.figure("illuminance").text == "160 fc"
    assert last.figure("ra").low == 99.0
    assert last.value("ra") is None
    _, (one,) = session_state(logbook, other.id)
    assert one.terms.placement == "equal"
    assert one.terms.configuration == ("softbox", "full CTO")
    assert one.terms.angle_deg == 20.0
    assert one.value("f_stop") == pytest.approx(21.1, abs=0.05)
    assert {s.nickname for s in logbook.all(Source)} == {"Yarrow", "Sorrel"}
    assert [m.nickname for m in logbook.all(Meter)] == ["Old meter"]


def test_rows_that_cannot_be_understood_are_named_and_the_rest_comes_in(logbook, clock, tmp_path):
    path = tmp_path / "old.csv"
    bad = [
        "Walk,Yarrow,fixed,,,100,bare,5 ft,centre,illuminance,55oo,lx,Old meter,,",
        "Walk,Yarrow,fixed,,,100,bare,-5 ft,centre,illuminance,5500,lx,Old meter,,",
        "Walk,Yarrow,fixed,,,100,bare,5 ft,centre,brightness,5500,lx,Old meter,,",
        "Walk,Yarrow,fixed,,,100,bare,5 ft,centre,illuminance,1.600,lx,Old meter,,",
        "Walk,Yarrow,fixed,,,100,bare,5 ft,centre,illuminance,3200,K,Old meter,,",
        "Walk,Yarrow,fixed,,,100,bare,5 ft,centre,illuminance,nan,lx,Old meter,,",
        "Walk,Yarrow,fixed,,,100,bare,5 ft,centre,illuminance,5500,lx,Old meter,yesterday,",
    ]
    path.write_text(WALK.replace("16.8", "16") + "\n".join(bad) + "\n", encoding="utf-8")  # 16.8 tells the sign
    report = import_table(path, logbook, clock)
    assert report.readings == 5
    assert len(report.refused) == len(bad)
    assert report.refused[0].startswith("line 9:")


@pytest.mark.parametrize(("decimal", "thousands"), [(".", ","), (",", ".")])
def test_a_table_tells_its_own_decimal_sign(logbook, clock, tmp_path, decimal, thousands):
    """7.599 lx in a table that has 95.6 elsewhere is seven and a half lux, and 1,600 sixteen hundred; and the other way
    round."""
    rows = [
        "fixture;cct_k;dimmer_pct;distance;quantity;value;unit",
        "Finch;5600;100;2.500 m;illuminance;1,600;lx",
        "Finch;5600;100;2.500 m;duv;-0.003;",
        "Finch;5600;100;2.500 m;ra;95.6;",
        "Finch;5600;0.5;2.500 m;illuminance;7.599;lx",
    ]
    path = tmp_path / "old.csv"
    path.write_text("\n".join(rows).translate(str.maketrans(".,", decimal + thousands)), encoding="utf-8")
    report = import_table(path, logbook, clock)
    assert report.refused == []
    _, (full, low) = session_state(logbook, logbook.sessions()[0].id)
    assert (full.value("illuminance"), full.value("duv"), full.value("ra")) == (1600.0, -0.003, 95.6)
    assert low.value("illuminance") == pytest.approx(7.599)
    assert full.terms.distance_m == low.terms.distance_m == 2.5
    assert low.figure("illuminance").text == f"7{decimal}599 lx"  # kept as it was typed


def test_a_number_of_a_spreadsheet_is_the_number_it_is(logbook, clock, tmp_path):
    from openpyxl import Workbook

    book = Workbook()
    for row in (("fixture", "quantity", "value"), ("Finch", "illuminance", 7.599), ("Finch", "power_w", 210)):
        book.active.append(row)
    book.save(tmp_path / "old.xlsx")
    assert import_table(tmp_path / "old.xlsx", logbook, clock).refused == []
    _, (found,) = session_state(logbook, logbook.sessions()[0].id)
    assert found.value("illuminance") == pytest.approx(7.599)


@pytest.mark.parametrize(
    ("content", "words"),
    [
        ("a,b\n1,2\n", "must name the columns"),
        ("quantity,value,colour\nilluminance,1,red\n", "unknown column colour"),
        ("quantity,value\n", "no rows"),
        ("quantity,value\nilluminance,many\n", "no row could be understood"),
        ("", "is empty"),
    ],
)
def test_tables_that_are_not_of_the_format(logbook, clock, tmp_path, content, words):
    path = tmp_path / "old.csv"
    path.write_text(content, encoding="utf-8")
    with pytest.raises(FormatError, match=words):
        import_table(path, logbook, clock)
    assert logbook.sessions() == []


def test_spreadsheets_come_and_go(logbook, clock, tmp_path):
    path = tmp_path / "old.csv"
    path.write_text(WALK, encoding="utf-8")
    import_table(path, logbook, clock)
    out = tmp_path / "out.xlsx"
    collection = Collection(logbook)
    rows = table_rows(collection)
    rows[0]["note"] = "=1+1"
    out.write_bytes(readings_table.workbook(rows))
    figures = readings_table.figures_of(readings_table.load(out))
    assert len(figures) == len(rows)
    assert figures[0]["note"] == "=1+1"  # a text that begins with = stays text
    for suffix in ("csv", "json", "xlsx"):
        assert write_table(collection, tmp_path / f"all.{suffix}") == len(rows)
    with pytest.raises(OutputError, match="could not be written"):
        write_table(collection, tmp_path / "no" / "all.csv")
    broken = tmp_path / "broken.xlsx"
    broken.write_bytes(b"PK\x03\x04 nothing")
    with pytest.raises(FormatError, match="not a readable spreadsheet"):
        readings_table.load(broken)


def test_an_export_can_be_imported_again(demo, logbook, clock, tmp_path):
    from even_beam.logbook.store import Logbook

    source = Logbook.open_to_read(demo)
    path = tmp_path / "all.csv"
    write_table(Collection(source), path)
    report = import_files([path], logbook, clock)
    assert report.refused == []
    assert report.readings >= 200
    assert {s.name for s in logbook.sessions()} == {s.name for s in source.sessions()}
    source.close()


def test_spectra_become_a_session(logbook, clock, tmp_path):
    good = tmp_path / "good.csv"
    good.write_text("\n".join(f"{w},{w / 500}" for w in range(380, 781, 5)), encoding="utf-8")
    bad = tmp_path / "bad.csv"
    bad.write_text("\n".join(f"{w},{w / 500}" for w in range(380, 600, 5)), encoding="utf-8")
    report = import_files([good, bad], logbook, clock)
    assert report.readings == 1
    assert "covers 380-595 nm" in report.refused[0]
    _, (reading,) = session_state(logbook, report.sessions[0].id)
    assert reading.value("cct") is not None
    with pytest.raises(FormatError, match=r"^bad\.csv: .*covers 380-595 nm"):
        import_files([bad], logbook, clock)


def test_one_file_that_is_no_table_keeps_no_other_from_coming_in(logbook, clock, tmp_path):
    for number in (1, 3):
        (tmp_path / f"{number} evening.csv").write_text("fixture,quantity,value\nYarrow,illuminance,1600\n")
    (tmp_path / "2 picture.csv").write_bytes(b"\x89PNG\r\n\x1a\n" + bytes(range(256)) * 4)
    report = import_files([tmp_path], logbook, clock)
    assert report.readings == 2
    assert [line.partition(":")[0] for line in report.refused] == ["2 picture.csv"]
    with pytest.raises(FormatError, match=r"^2 picture\.csv: ") as raised:
        import_files([tmp_path / "2 picture.csv"], logbook, clock)
    assert str(raised.value).count("2 picture.csv") == 1


def test_a_spreadsheet_of_ones_own_columns_by_the_mapping_kept(logbook, clock, tmp_path):
    path = tmp_path / "garden lamps.csv"
    path.write_text("Lamp,Set CCT,Lux,CCT read\nYarrow,3200,1600,3187\nSorrel,5600,2210,5480\nSorrel,4400,l900,4410\n")
    with pytest.raises(FormatError, match="asked once what each column is"):
        import_files([path], logbook, clock)
    table = readings_table.load(path)
    remember_columns(logbook, table.shape, columns.guess(table.headings))
    assert known_columns(logbook, table.shape)["Lux"] == "measured illuminance"
    report = import_files([path], logbook, clock)
    assert (report.readings, report.figures) == (3, 5)
    assert report.refused == [report.refused[0]]
    assert "line 4" in report.refused[0]
    _, readings = session_state(logbook, report.sessions[0].id)
    assert readings[0].terms.cct_k == 3200.0
    assert readings[0].value("cct") == 3187.0
    assert report.sessions[0].name == "garden lamps"
    words = preview_of(table, columns.guess(table.headings), "m").sentence
    assert words.startswith("3 readings of Sorrel, Yarrow in 1 session. 1 figure cannot")


def test_a_trace_becomes_a_session_of_one_reading(logbook, clock, tmp_path):
    path = tmp_path / "warm-up.csv"
    path.write_text("minutes,lux\n" + "".join(f"{m},{1000 * (1 + 0.07 * 0.5**m):.2f}\n" for m in range(30)))
    report = import_files([path], logbook, clock)
    (reading,) = logbook.readings(report.sessions[0].id)
    assert reading.values[0].value == pytest.approx(1000.0, abs=0.5)
    (trace,) = logbook.traces(reading.id)
    assert trace.seconds[-1] == 29 * 60.0
    assert settled_after_s(trace) == 180.0  # 7 % halved each minute is within 1 % from the third on


@pytest.mark.parametrize(
    ("first", "kind"),
    [
        ("quantity,value", "readings"),
        ("Lamp;Lux;Dimmer", "readings"),
        ("time,power_w", "traces"),
        ("wavelength,value", "spectra"),
        ("380,0.01", "spectra"),
        ("nm;W/m2/nm", "spectra"),
    ],
)
def test_files_are_told_apart_by_their_first_line(tmp_path, first, kind):
    path = tmp_path / "file.csv"
    path.write_text(f"{first}\n1,2\n")
    assert kind_of(path).name == kind


def test_what_no_term_holds_stands_in_the_note(logbook, clock, tmp_path):
    """ISO, shutter, receptor and what an SSI was reckoned against are part of the figure; two ISOs are two readings."""
    path = tmp_path / "old.csv"
    path.write_text(
        "session,fixture,cct_k,quantity,value,iso,shutter,receptor_c,ssi_reference,fan,power_source,note\n"
        "Old,Tansy,5600,f_stop,f/5.6,800,1/50,,,,,by hand\n"
        "Old,Tansy,5600,ra,96,800,1/50,,,,,\n"
        "Old,Tansy,5600,f_stop,f/8,1600,1/50,,,,,\n"
        "Old,Tansy,5600,ssi,82,,,340,P3200,low,battery,\n",
        encoding="utf-8",
    )
    import_table(path, logbook, clock)
    (session,) = logbook.sessions()
    notes = [reading.note for reading in logbook.readings(session.id)]
    assert notes == [
        "by hand; ISO 800; shutter 1/50",
        "ISO 1600; shutter 1/50",
        "receptor C 340; SSI against P3200; fan low; power from battery",
    ]


@pytest.mark.parametrize(("other", "lux"), [("8", 22.627**2), ("16.8", 22.627**2 * 2.0**0.6)])
def test_an_f_number_with_a_decimal_is_read_as_those_beside_it(other, lux, logbook, clock, tmp_path):
    """ISO 2720:1974: N² C / (S t) is lx; f/22 as a number, or 22 and 6 tenths where the table counts tenths."""
    head = "fixture,quantity,value,iso,shutter,receptor_c\n"
    past = tmp_path / "stops.csv"
    past.write_text(f"{head}Tansy,f_stop,22.6,800,1/50,340\nSorrel,f_stop,{other},800,1/50,340\n")
    import_files([past], logbook, clock)
    tansy = next(e for e in Collection(logbook).entrants() if e.name == "Tansy").readings[0]
    assert tansy.value("illuminance") == pytest.approx(lux * 340.0 / (800.0 / 50.0), rel=0.005)
    assert ("taken as the number f/22" in str(tansy.reading)) == (other == "8")
