"""The lamps, claims and meters of the garden's film unit. No maker appears: the unit names its lamps after plants."""

from dataclasses import dataclass, replace

from even_beam.bench.records import Meter, Modifier, Source, new_id
from even_beam.demo.subjects import subjects
from even_beam.desk.kit.desk import KitDesk
from even_beam.desk.kit.lamp_form import LampForm
from even_beam.logbook.store import Logbook


@dataclass(frozen=True, slots=True)
class DemoLamp:
    """A lamp of the unit and the simulated fixture that plays it."""

    form: LampForm
    simulated: str


LAMPS = (
    DemoLamp(
        LampForm(
            nickname="Yarrow",
            kind="tungsten Fresnel",
            model="studio Fresnel, 1 kW",
            supplied_by="the garden's own store",
            serial="",
            price="310",
            currency="EUR",
            notes="The reference of the store. New lamp last autumn.",
            claims={"cct": "3200", "ra": "99+", "illuminance": "17k lx", "power_w": "1000"},
        ),
        "tungsten",
    ),
    DemoLamp(
        LampForm(
            nickname="Tansy",
            kind="six-emitter colour light",
            model="six-emitter spot, 260 W",
            supplied_by="on approval until Friday",
            serial="S6-0417",
            price="1480",
            currency="EUR",
            notes="May it replace tungsten and blue gel on the specimen table?",
            return_by="2026-11-20",
            beside=(("ball head", "45 EUR"), ("second supply", "120 EUR")),
            gear=(
                ("weight", "5.2 kg with the supply"),
                ("mount", "bayonet of its own; takes no common softbox"),
                ("control", "knob and two buttons; app over radio"),
                ("in the box", "reflector, supply, 6 m cable, bag"),
                ("modes", "white with tint, hue and saturation, twelve effects"),
            ),
            claims={
                "cct": "2000 to 10000",
                "ra": "97, with the reflector",
                "illuminance": "19 800 lx, with the reflector",
                "power_w": "250",
            },
        ),
        "six-emitter colour light",
    ),
    DemoLamp(
        LampForm(
            nickname="Sorrel",
            kind="bicolour panel",
            model="soft panel, 200 W",
            supplied_by="the garden's own store",
            serial="BP-22",
            price="690",
            currency="EUR",
            notes="Leans towards magenta in the middle of its range.",
            claims={"cct": "2800 to 6500", "ra": "96", "illuminance": "9800 lx", "power_w": "200"},
        ),
        "bicolour panel",
    ),
    DemoLamp(
        LampForm(
            nickname="Burdock",
            kind="two-channel point source",
            model="point source, 300 W",
            supplied_by="lent by the herbarium",
            serial="",
            price="820",
            currency="EUR",
            notes="The claimed level is with the reflector, which shifts its white.",
            gear=(
                ("weight", "3.9 kg"),
                ("mount", "common bayonet"),
                ("control", "two knobs"),
                ("in the box", "reflector, supply, 5 m cable"),
                ("dial", "in 50 K from 2700 to 6500"),
                ("surge", "38 A"),
            ),
            claims={
                "cct": "2700 to 6500",
                "ra": "95+, with the reflector",
                "illuminance": "46k lx, with the reflector",
                "power_w": "300",
                "beam_deg": "55, with the reflector",
            },
        ),
        "two-channel point source",
    ),
    DemoLamp(
        LampForm(
            nickname="Teasel",
            kind="five-emitter colour light",
            model="colour panel, 150 W",
            supplied_by="the garden's own store",
            serial="",
            price="560",
            currency="EUR",
            notes="",
            claims={"cct": "2500 to 9000", "ra": "95", "illuminance": "7600 lx", "power_w": "150"},
        ),
        "five-emitter colour light",
    ),
    DemoLamp(
        LampForm(
            nickname="Comfrey",
            kind="budget bicolour panel",
            model="small panel, 90 W",
            supplied_by="bought second-hand",
            serial="",
            price="85",
            currency="EUR",
            notes="Ageing; greener every year.",
            claims={"cct": "3200 to 5600", "ra": "90+", "illuminance": "3100 lx", "power_w": "90"},
        ),
        "budget panel",
    ),
    DemoLamp(
        LampForm(
            nickname="Bracken",
            kind="discharge lamp",
            model="discharge Fresnel, 575 W",
            supplied_by="lent by the open-air theatre",
            serial="",
            price="1900",
            currency="EUR",
            notes="Three minutes to its white; hot restrike only by its manual.",
            claims={"cct": "5600", "ra": "90", "illuminance": "60k lx", "power_w": "640"},
        ),
        "discharge lamp",
    ),
)

SPECTROMETER = Meter(
    "5f3c6d1e-0001-4000-8000-000000000001",
    "Spectrometer 2",
    simulated="spectrometer",
    dim_lx=8.0,
    notes="Simulated. Calibrated last spring.",
)
LIGHT_METER = Meter(
    "5f3c6d1e-0001-4000-8000-000000000002",
    "Light meter 1",
    kind="light meter",
    receptor="dome",
    constant=340.0,
    quantities=("illuminance",),
    ratio_tolerance=0.02,
    notes="Read by eye and typed.",
)


MODIFIERS = (
    Modifier(new_id(), "reflector", "reflector", "Comes with the point source; shifts its white."),
    Modifier(new_id(), "softbox", "softbox", "90 cm, two layers, no grid."),
)


def stock(logbook: Logbook) -> dict[str, Source]:
    """Put lamps and meters into the logbook; the lamps by nickname."""
    logbook.save(SPECTROMETER, LIGHT_METER)
    logbook.save(*MODIFIERS, *subjects())
    desk = KitDesk(logbook)
    return {lamp.form.nickname: desk.add_lamp(replace(lamp.form, simulated=lamp.simulated)) for lamp in LAMPS}
