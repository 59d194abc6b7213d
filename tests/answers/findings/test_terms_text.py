"""Terms as they are written on the command line: every field there and back, every slip told."""

import pytest

from even_beam.answers.findings.terms_text import NAMES, TermsTextError, terms_of
from even_beam.bench import fields
from even_beam.bench.fields import UNSTATED
from even_beam.known.choice import JOINED

METERS, SESSIONS = {"spectrometer": "m1"}, {"first evening": "s1"}


def asked(text):
    return terms_of(text, METERS, SESSIONS)


@pytest.mark.parametrize(
    ("text", "field", "value"),
    [
        ("cct=5600", "cct", 5600.0),
        ("white=5600 K", "cct", 5600.0),
        ("cct=5.6k", "cct", 5600.0),
        ("level=50 %", "level", 50.0),
        ("distance=10 ft", "distance", 3.048),
        ("distance=2 m", "distance", 2.0),
        ("zoom=Flood", "zoom", "flood"),
        ("tint=0", "tint", UNSTATED),
        ("session=joined", "session", JOINED),
        ("meter=Joined", "meter", JOINED),
        ("tint=+2", "tint", "+2"),
        ("configuration=bare", "configuration", ()),
        ("on=Reflector + full CTO", "configuration", ("reflector", "full cto")),
        ("angle=-15", "angle", -15.0),
        ("meter=Spectrometer", "meter", "m1"),
        ("session=First Evening", "session", "s1"),
        ("level=none", "level", UNSTATED),
        ("distance=not stated", "distance", UNSTATED),
    ],
)
def test_a_term_is_understood(text, field, value):
    found = asked(text)
    assert list(found) == [field]
    assert found[field] == (pytest.approx(value, abs=0.001) if isinstance(value, float) else value)


def test_several_are_parted_by_semicolons_or_commas():
    assert asked("cct=5600;level=100") == asked("cct=5600,level=100") == {"cct": 5600.0, "level": 100.0}


def test_a_comma_may_belong_to_a_name():
    sessions = {"glasshouse, north window": "s2"}
    assert terms_of("session=Glasshouse, north window", METERS, sessions) == {"session": "s2"}
    both = terms_of("session=Glasshouse, north window, level=100,", METERS, sessions)
    assert both == {"session": "s2", "level": 100.0}
    with pytest.raises(TermsTextError, match="there is no session “Glasshouse”; there are glasshouse, north window"):
        terms_of("session=Glasshouse", METERS, sessions)


def test_none_at_all():
    assert asked("") == {}


@pytest.mark.parametrize(
    ("text", "told"),
    [
        ("colour=5600", "Terms are mode, cct"),
        ("cct", "write cct=5600"),
        ("cct=", "write cct=5600"),
        ("cct=warm", ""),
        ("level=140", "level"),
        ("distance=-2", "distance"),
        ("cct=-3200", "white"),
        ("meter=other", "there are spectrometer"),
        ("session=other", "there are first evening"),
        ("level=50+", "needs one value"),
        ("level=joined", "only meter and session can"),
    ],
)
def test_a_slip_is_told(text, told):
    with pytest.raises(TermsTextError) as error:
        asked(text)
    assert told in str(error.value)


def test_every_field_can_be_asked_by_its_name():
    assert {*NAMES, "placement"} == set(fields.NAMES)
    for name in NAMES:
        if name not in {"meter", "session"}:
            assert list(asked(f"{name}=none")) == [name]
