import pytest

from even_beam.collection import files as documents
from even_beam.shell import places
from even_beam.shell.settings import Settings, SettingsError, load, save


def test_defaults_then_a_round_trip():
    assert load() == Settings()
    wanted = Settings(theme="paper", distance_unit="ft", illuminance_unit="fc", paper="Letter", publisher="Film unit")
    save(wanted)
    assert load() == wanted


def test_comments_and_strangers_stay():
    places.config_file().parent.mkdir(parents=True, exist_ok=True)
    places.config_file().write_text('# mine\ntheme = "paper"\nother = 3\n', encoding="utf-8")
    save(load())
    text = places.config_file().read_text(encoding="utf-8")
    assert "# mine" in text
    assert "other = 3" in text
    assert 'theme = "paper"' in text


@pytest.mark.parametrize(
    "content", ['theme = "neon"', "iso = true", 'iso = "fast"', "theme = ", 'distance_unit = "mile"']
)
def test_a_wrong_entry_is_named(content):
    places.config_file().parent.mkdir(parents=True, exist_ok=True)
    places.config_file().write_text(content, encoding="utf-8")
    with pytest.raises(SettingsError) as raised:
        load()
    assert "settings.toml" in str(raised.value)


def test_recent_logbooks(tmp_path):
    paths = [tmp_path / f"{i}.evenbeam" for i in range(10)]
    for path in paths:
        path.touch()
        documents.remember(path)
    assert documents.recent() == paths[:1:-1]
    paths[5].unlink()
    assert paths[5] not in documents.recent()
    documents.remember_geometry("abc")
    assert documents.remembered_geometry() == "abc"
    assert documents.recent()[0] == paths[9]
    for text in ("not {json", "[]", '{"recent": 3}'):
        places.recent_file().write_text(text)
        assert documents.recent() == []


def test_a_new_logbook_has_meters_to_begin_with(tmp_path):
    from even_beam.bench.records import Meter

    book = documents.open_or_create(tmp_path / "mine.evenbeam")
    assert {m.kind for m in book.all(Meter)} == {"spectrometer", "light meter"}
    book.close()
    documents.open_or_create(tmp_path / "mine.evenbeam").close()
