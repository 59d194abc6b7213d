"""The lamps, claims and meters of the garden's film unit. No maker appears: the unit names its lamps after plants."""

from dataclasses import dataclass

from even_beam.bench.records import Meter, Source
from even_beam.logbook.store import Logbook
from even_beam.workspace.kit.desk import KitDesk, LampForm


@dataclass(frozen=True, slots=True)
class DemoLamp:
    """A lamp of the unit and the simulated fixture that plays it."""

    form: LampForm
    simulated: str


LAMPS = (
    DemoLamp(
        LampForm(
            "Yarrow",
            "tungsten Fresnel",
            "studio Fresnel, 1 kW",
            "the garden's own store",
            "",
            "3200",
            "99+",
            "17k lx",
            "1000",
            "310",
            "EUR",
            "The reference of the store. New lamp last autumn.",
        ),
        "tungsten",
    ),
    DemoLamp(
        LampForm(
            "Tansy",
            "six-emitter colour light",
            "six-emitter spot, 260 W",
            "on approval until Friday",
            "S6-0417",
            "2000 to 10000",
            "97, with the reflector",
            "19 800 lx, with the reflector",
            "250",
            "1480",
            "EUR",
            "May it replace tungsten and blue gel on the specimen table?",
            return_by="2026-11-20",
        ),
        "six-emitter colour light",
    ),
    DemoLamp(
        LampForm(
            "Sorrel",
            "bicolour panel",
            "soft panel, 200 W",
            "the garden's own store",
            "BP-22",
            "2800 to 6500",
            "96",
            "9800 lx",
            "200",
            "690",
            "EUR",
            "Leans towards magenta in the middle of its range.",
        ),
        "bicolour panel",
    ),
    DemoLamp(
        LampForm(
            "Burdock",
            "two-channel point source",
            "point source, 300 W",
            "lent by the herbarium",
            "",
            "2700 to 6500",
            "95+, with the reflector",
            "46k lx, with the reflector",
            "300",
            "820",
            "EUR",
            "The claimed level is with the reflector, which shifts its white.",
        ),
        "two-channel point source",
    ),
    DemoLamp(
        LampForm(
            "Teasel",
            "five-emitter colour light",
            "colour panel, 150 W",
            "the garden's own store",
            "",
            "2500 to 9000",
            "95",
            "7600 lx",
            "150",
            "560",
            "EUR",
            "",
        ),
        "five-emitter colour light",
    ),
    DemoLamp(
        LampForm(
            "Comfrey",
            "budget bicolour panel",
            "small panel, 90 W",
            "bought second-hand",
            "",
            "3200 to 5600",
            "90+",
            "3100 lx",
            "90",
            "85",
            "EUR",
            "Ageing; greener every year.",
        ),
        "budget panel",
    ),
    DemoLamp(
        LampForm(
            "Bracken",
            "discharge lamp",
            "discharge Fresnel, 575 W",
            "lent by the open-air theatre",
            "",
            "5600",
            "90",
            "60k lx",
            "640",
            "1900",
            "EUR",
            "Three minutes to its white; hot restrike only by its manual.",
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


def stock(logbook: Logbook) -> dict[str, Source]:
    """Put lamps and meters into the logbook; the lamps by nickname."""
    logbook.save(SPECTROMETER, LIGHT_METER)
    desk = KitDesk(logbook)
    return {lamp.form.nickname: desk.add_lamp(lamp.form, lamp.simulated) for lamp in LAMPS}
