"""Instruments on wires: stand-ins to try everything with, a driver put to the test, what the channels of a lamp do."""

import sys
import tempfile
import threading
from pathlib import Path

import click

from even_beam.cli.group import FORCE, ending_in, main, say


@main.command()
@click.option("--lamp", "lamps", multiple=True, help="A lamp: its name, and after = the model that plays it.")
@click.option(
    "--meter", "meters", multiple=True, help="spectrometer, lux, power or files, and after = the name it goes by."
)
@click.option("--fault", "faults", multiple=True, help="What goes wrong, such as hang@7, stale, deaf, full-on-loss.")
@click.option("--host", default="127.0.0.1", help="The address of this machine that they listen at.")
@click.option("--speed", type=click.FloatRange(0.1, 1000.0), default=1.0, help="How much faster their time runs.")
@click.option("--distance", type=click.FloatRange(0.1, 100.0), default=2.0, help="How far the meter stands, in metres.")
@click.option("--seed", type=int, default=1, help="The errors of the meter.")
@click.option("--folder", type=click.Path(path_type=Path, file_okay=False), help="Where the bench file is written.")
@click.option(
    "--try", "tried", nargs=2, metavar="DRIVER ADDRESS", help="Put a driver, or a name of --bench, to the test."
)
@click.option("--find", "finds", is_flag=True, help="List serial ports and VISA resources with what they answer.")
@click.option("--bench", type=click.Path(path_type=Path, exists=True), help="The bench file whose names --try knows.")
def devices(
    lamps: tuple[str, ...],
    meters: tuple[str, ...],
    faults: tuple[str, ...],
    host: str,
    speed: float,
    distance: float,
    seed: int,
    folder: Path | None,
    tried: tuple[str, str] | None,
    finds: bool,
    bench: Path | None,
) -> None:
    """Start stand-ins for meters and lamps, and print the bench file that reaches them; they end with Ctrl C."""
    if tried is not None:
        _try(*tried, bench)
        return
    if finds:
        _find()
        return
    from even_beam.instruments.stand_ins.bench import StandIns, meter_of, model_of
    from even_beam.instruments.stand_ins.faults import faults_of

    try:
        wanted, made = faults_of(faults), dict(map(model_of, lamps or ("Tansy",)))
        read = dict(map(meter_of, meters or ("spectrometer",)))
    except ValueError as error:
        raise click.UsageError(str(error)) from error
    with tempfile.TemporaryDirectory(prefix="even-beam-devices-") as own:
        place = folder if folder is not None else Path(own)
        place.mkdir(parents=True, exist_ok=True)
        stand_ins = StandIns(place, made, read, wanted, host=host, speed=speed, seed=seed, distance_m=distance)
        stand_ins.start()
        say(f"# {stand_ins.file}")
        say(stand_ins.file.read_text())
        sys.stdout.flush()
        _wait_for_the_end()
        stand_ins.close()


def _wait_for_the_end() -> None:
    import signal

    ended = threading.Event()
    for number in (signal.SIGTERM, signal.SIGINT):
        signal.signal(number, lambda *_: ended.set())
    while not ended.wait(0.5):
        pass


def _find() -> None:
    from even_beam.instruments.finding import serial_ports, visa_resources

    for what, found in (("Serial ports", list(serial_ports())), ("VISA resources", list(visa_resources()))):
        say(what)
        for line in found or ["none"]:
            say(f"  {line}")


def _try(driver: str, address: str, bench: Path | None) -> None:
    from even_beam.instruments.bench_file import read_bench
    from even_beam.instruments.trying import try_driver

    known = read_bench(bench) if bench is not None else None
    for line in try_driver(driver, address, known, Path.cwd()):
        say(line)
    say("It does what a driver must.")


@main.command()
@click.argument("out", type=click.Path(path_type=Path))
@click.argument("channels", nargs=-1)
@click.option("--name", default="", help="What the lamp is called.")
@click.option("--gdtf", type=click.Path(path_type=Path, exists=True), help="Take the channels from a GDTF file.")
@click.option("--mode", default="", help="The mode of the GDTF file; its first when not given.")
@FORCE
def profile(out: Path, channels: tuple[str, ...], name: str, gdtf: Path | None, mode: str, force: bool) -> None:
    """Write what a lamp's channels do, said as people say it: "channel 1-2 level 0-100 %" "channel 5 = 200"."""
    import json

    from even_beam.files.writing import write
    from even_beam.instruments.gdtf import read_gdtf
    from even_beam.instruments.profile import profile_of_channels, said_channel

    if bool(channels) is (gdtf is not None):
        raise click.UsageError("say the channels, or --gdtf with the file that has them")
    path = ending_in(out, ".json")
    title = name or path.stem
    made = read_gdtf(gdtf, mode) if gdtf is not None else profile_of_channels(title, list(map(said_channel, channels)))
    write(path, json.dumps(made.as_json(), indent=1).encode("utf-8"), over_others=force)
    limits = ", ".join(f"{term} {low:g} to {high:g}" for term, (low, high) in made.limits.items()) or "nothing"
    say(f"wrote {path}: {made.footprint} channels, which set {limits}")
