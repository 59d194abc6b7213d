"""Verdicts that cannot be talked past (check values 26 and 27, common practice, no source)."""

from dataclasses import replace
from datetime import date

import pytest

from even_beam.bench.estimate import Estimate, Part
from even_beam.bench.records import Claim, Origin, Terms, Value
from even_beam.bench.tolerances import LIMITS, ToleranceError, content_of, set_of, shipped
from even_beam.known.findings.claims import ClaimVerdict, Even, Holds
from even_beam.known.findings.everything import findings_of
from even_beam.known.verdicts import Answer, judge, keep_or_send_back, strengths_and_weaknesses, verdict
from tests.known.findings.story import evidence, read

FULL = Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0)
RENTAL = next(s for s in shipped() if s.name == "rental check")


def figure(value: float, half: float = 0.0) -> Estimate:
    return Estimate(value, (Part("all", "all", half),))


def white_of(dialled: float, *measured: float):
    return [read(i, replace(FULL, cct_k=dialled), cct=k, duv=0.001) for i, k in enumerate(measured)]


def judged(dialled: float, measured: float):
    own = evidence(*white_of(dialled, measured))
    return next(j for j in verdict(own, (), RENTAL).judgements if j.limit == "white_kelvin")


@pytest.mark.parametrize(
    ("measured", "certain"),
    [(5881.0, False), (5841.0, False), (5804.0, False), (6100.0, True)],
)
def test_all_over_the_limit_as_read(measured, certain):
    """Check value 26: 5881, 5841, 5804 K are all beyond 200 K of 5600 as read; whether this meter can tell is another
    answer."""
    found = judged(5600.0, measured)
    assert found.answer is Answer.OUTSIDE
    assert found.certain is certain
    assert ("cannot tell" in found.sentence) is not certain


@pytest.mark.parametrize(
    ("measured", "answer"), [(3389.0, Answer.WITHIN), (3445.0, Answer.OUTSIDE), (3343.0, Answer.WITHIN)]
)
def test_pass_fail_pass(measured, answer):
    """Check value 27."""
    assert judged(3200.0, measured).answer is answer


@pytest.mark.parametrize(
    ("limit", "bound", "low", "high", "half", "answer", "certain"),
    [
        ("ra", 95.0, 99.0, None, 1.0, Answer.WITHIN, True),  # 99+
        ("ra", 95.0, 96.0, 97.0, 1.5, Answer.WITHIN, False),  # as typed; the meter may be off by more
        ("ra", 95.0, None, 93.0, 1.5, Answer.OUTSIDE, True),
        ("ra", 95.0, 94.0, 96.0, 0.0, Answer.NOT_MEASURED, False),
        ("ra", 95.0, None, 97.0, 0.0, Answer.NOT_MEASURED, False),
        ("duv", 0.003, -0.001, 0.002, 0.0, Answer.WITHIN, True),
        ("duv", 0.003, -0.005, 0.001, 0.0, Answer.NOT_MEASURED, False),
        ("duv", 0.003, -0.008, -0.004, 0.0, Answer.OUTSIDE, True),
        ("duv", 0.003, None, 0.002, 0.0, Answer.NOT_MEASURED, False),  # it may lie far to the other side
        ("duv", 0.003, -0.008, -0.0035, 0.001, Answer.OUTSIDE, False),  # its near end decides
        ("duv", 0.003, None, -0.004, 0.0005, Answer.OUTSIDE, True),
        ("duv", 0.003, 0.004, None, 0.002, Answer.OUTSIDE, False),
        ("white_kelvin", 200.0, -100.0, 100.0, 120.0, Answer.WITHIN, False),
    ],
)
def test_what_a_bound_answers(limit, bound, low, high, half, answer, certain):
    found = judge(limit, bound, Estimate(None, (Part("all", "all", half),), low, high))
    assert (found.answer, found.certain) == (answer, certain)
    assert "as typed" in found.sentence and ("cannot tell" in found.sentence) is (
        answer is not Answer.NOT_MEASURED and not certain
    )


def typed(quantity: str, low: float | None, high: float | None, unit: str = "") -> Value:
    return Value(quantity, None, Origin.TYPED, low=low, high=high, text="as typed", unit=unit)


def test_white_tint_and_level_typed_as_ranges_are_judged():
    """5500 to 5700 K is within 200 K of 5600 as typed, Duv 0.003 to 0.004 about the daylight curve, 240 to 260 lx too
    dim for looking at prints."""
    own = evidence(
        read(
            1,
            FULL,
            values=(typed("cct", 5500.0, 5700.0), typed("duv", 0.003, 0.004), typed("illuminance", 240.0, 260.0)),
        )
    )
    by_limit = {j.limit: j for j in verdict(own, (), RENTAL).judgements}
    assert by_limit["white_kelvin"].answer is Answer.WITHIN and not by_limit["white_kelvin"].certain
    assert "−100 to 100 K" in by_limit["white_kelvin"].sentence
    assert by_limit["duv"].answer is Answer.WITHIN
    prints = next(s for s in shipped() if s.name == "print viewing (practical)")
    levels = {j.limit: j.answer for j in verdict(own, (), prints).judgements}
    assert levels["level_lx_low"] is Answer.OUTSIDE and levels["level_lx_high"] is Answer.WITHIN
    far = evidence(read(1, FULL, values=(typed("cct", 4900.0, 5000.0),)))
    assert next(j for j in verdict(far, (), RENTAL).judgements if j.limit == "white_kelvin").answer is Answer.OUTSIDE


def test_a_range_outside_its_limit_is_not_said_to_pass_it():
    own = evidence(read(1, FULL, values=(typed("tlci", 60.0, 70.0), typed("illuminance", 3000.0, 3100.0, "lx"))))
    by_limit = {j.limit: j for s in shipped() for j in verdict(own, findings_of(own), s).judgements}
    assert "TLCI 60 to 70, as typed, is below the limit of" in by_limit["tlci"].sentence
    every = " ".join(j.sentence for s in shipped() for j in verdict(own, findings_of(own), s).judgements)
    assert "as typed, is beyond the limit of" in every and "passes" not in every


def test_the_same_gap_is_told_once():
    own = evidence(read(1, FULL, ra=95.0))
    prints = next(s for s in shipped() if s.name == "print viewing (practical)")
    assert verdict(own, (), prints).sentence.count("Illuminance: not measured") == 1


def test_281_is_not_within_200():
    found = judge("white_kelvin", 200.0, figure(281.0, 60.0))
    assert found.answer is Answer.OUTSIDE
    assert found.certain
    assert "beyond 200 K" in found.sentence
    assert judge("ra", 90.0, figure(89.9, 1.0)).answer is Answer.OUTSIDE
    assert judge("ra", 90.0, None).answer is Answer.NOT_MEASURED


def test_the_whole_is_as_bad_as_its_worst_limit():
    own = evidence(*white_of(5600.0, 5610.0))
    found = verdict(own, findings_of(own), RENTAL)
    assert found.answer is Answer.NOT_MEASURED  # no score, no ageing
    assert not found.certain
    bad = evidence(*white_of(5600.0, 7000.0))
    assert verdict(bad, (), RENTAL).answer is Answer.OUTSIDE
    assert verdict(bad, (), RENTAL).certain


def test_keep_or_send_back_with_the_date_and_the_reasons():
    friday = date(2026, 11, 20)
    bad = verdict(evidence(*white_of(5600.0, 7000.0)), (), RENTAL)
    back = keep_or_send_back(bad, (), friday)
    assert back.keep is False
    assert back.sentence.startswith("Send it back by 20 November 2026: White off")
    small = replace(RENTAL, limits={"white_kelvin": 200.0})
    good = verdict(evidence(*white_of(5600.0, 5605.0)), (), small)
    assert keep_or_send_back(good, (), friday).keep is True
    close = keep_or_send_back(verdict(evidence(*white_of(5600.0, 5790.0)), (), small), (), friday)
    assert close.keep is True
    assert "cannot tell" in close.open[0]
    for unsure in (white_of(5600.0, 5810.0), [read(1, FULL, illuminance=100.0)]):
        open_ = keep_or_send_back(verdict(evidence(*unsure), (), small), (), friday)
        assert open_.keep is None
        assert open_.open
    broken = ClaimVerdict(
        Claim("c", "m", "ra", 95.0, None, "", "95+"),
        80.0,
        1.0,
        Even.EQUAL,
        Holds.NO,
        "95+ claimed; 80 measured: does not hold.",
    )
    assert keep_or_send_back(good, (broken,), friday).keep is False
    strong, weak = strengths_and_weaknesses([good], [broken])
    assert strong == (good.judgements[0].sentence,)
    assert weak == ("95+ claimed; 80 measured: does not hold.",)


def test_shipped_sets_are_whole_and_come_back_from_json():
    assert {s.name for s in shipped()} >= {
        "skin key",
        "product",
        "background and effects",
        "print viewing (critical)",
        "print viewing (practical)",
        "matching the store",
        "rental check",
    }
    for one in shipped():
        assert set(one.limits) <= set(LIMITS)
        again = set_of(content_of(one))
        assert (again.name, again.limits) == (one.name, one.limits)
    for name, low, high in (("critical", 1500.0, 2500.0), ("practical", 375.0, 625.0)):
        viewing = next(s for s in shipped() if s.name == f"print viewing ({name})")
        assert "ISO 3664" in viewing.purpose
        assert (viewing.limits["level_lx_low"], viewing.limits["level_lx_high"]) == (low, high)


@pytest.mark.parametrize(
    "content",
    [
        {},
        {"name": "x", "limits": {}},
        {"name": "x", "limits": {"mood": 1}},
        {"name": "x", "limits": {"ra": "high"}},
        {"name": "x", "limits": {"ra": -1}},
        {"name": "x", "limits": {"ra": True}},
    ],
)
def test_sets_that_are_wrong_are_refused(content):
    with pytest.raises(ToleranceError):
        set_of(content)


def test_what_is_left_open_is_said_with_the_day():
    """5881 K is over the limit as read, but a handheld meter cannot tell: it is read again before the day, not sent
    back."""
    own = evidence(*white_of(5600.0, 5881.0))
    rental = verdict(own, (), RENTAL)
    said = keep_or_send_back(rental, (), date(2026, 12, 1)).sentence
    assert said.startswith("Not decided by 1 December 2026: No limit is surely passed")
    assert "Still open: White off +281 K" in said


@pytest.mark.parametrize(
    ("limit", "bound", "value", "words"),
    [
        ("ra", 94.0, 96.0, "Ra 96 is at least 94"),
        ("ra", 94.0, 90.0, "Ra 90 is below 94"),
        ("white_mired", 10.0, -13.3, "White off −13.3 mired is beyond 10 mired"),
        ("r15", 92.0, 91.6, "R15 (skin) 91.6 is below 92"),
        ("tlci", 95.0, 96.0, "TLCI 96 is at least 95"),
        ("ra", 94.0, 99.6, "Ra 99.6 is at least 94"),
        ("ra", 94.0, 100.0, "Ra 100 is at least 94"),
        ("duv", 0.003, 0.0031, "Tint +0.0031 Duv is beyond 0.003 Duv"),
    ],
)
def test_a_judgement_is_said_so_that_it_cannot_be_misread(limit, bound, value, words):
    assert judge(limit, bound, figure(value)).sentence.startswith(words)


def test_white_and_scores_are_judged_where_they_were_read_and_it_is_said():
    """Levels at 3 m with a light meter, colours at 2 m with a spectrometer; what was read off the axis is another
    light."""
    far = replace(FULL, distance_m=3.0)
    own = (
        read(1, far, meter="hand", illuminance=400.0),
        read(2, FULL, cct=5620.0, duv=0.0033, ra=96.0),
        read(3, replace(FULL, angle_deg=30.0), cct=4000.0, ra=60.0),
    )
    skin = next(one for one in shipped() if one.name == "skin key")
    asked = {"distance": 3.0, "meter": "hand"}
    by_limit = {j.limit: j for j in verdict(evidence(*own), (), skin, asked).judgements}
    for limit in ("white_mired", "duv", "ra"):
        assert by_limit[limit].answer is Answer.WITHIN and by_limit[limit].readings == ("r2",)
        assert "at bare · 5600 K · 100 % · 2 m" in by_limit[limit].sentence
    here = {j.limit: j for j in verdict(evidence(*own), (), skin, {"distance": 2.0, "angle": 0.0}).judgements}
    assert here["ra"].sentence.startswith("Ra 96 is at least 94"), "its own terms are not said again"
    aside = verdict(evidence(own[0], own[2]), (), skin, asked)
    assert all(j.answer is Answer.NOT_MEASURED for j in aside.judgements)
