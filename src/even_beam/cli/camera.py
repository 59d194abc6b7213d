"""Commands for what a camera sees: charts in photographs, flicker, fades, edges and walls."""

from collections.abc import Sequence
from pathlib import Path
from typing import Any

import click

from even_beam.cli.group import FORCE, ending_in, fail, main, print_json, say, warn

FILE = click.Path(path_type=Path)


def _tell(found: Sequence[dict[str, Any]], told: Sequence[str], *, as_json: bool, alone: bool) -> None:
    """One object for one file, an array for several; or sentences."""
    if as_json:
        print_json(found[0] if alone else list(found))
    else:
        for line in told:
            say(line)


@main.command()
@click.argument("photos", nargs=-1, required=True, type=FILE)
@click.option("--against", "benchmark", required=True, type=FILE, help="The photograph under the benchmark.")
@click.option("--corners", default="", help="Outer corners of the field of patches: “x,y;x,y;x,y;x,y”, clockwise.")
@click.option("--benchmark-corners", default="", help="The same for the benchmark; found when not given.")
@click.option("--chart", "chart_name", default="", help="“24 patches”, “grey wedge”, or a JSON file of one's own.")
@click.option("--spectrum", type=FILE, help="The lamp's spectrum: what the standard camera makes of both lights.")
@click.option("--benchmark-spectrum", type=FILE, help="The benchmark's spectrum.")
@click.option("--repeats", is_flag=True, help="All photos are of one lamp: what they scatter by is told.")
@click.option("--json", "as_json", is_flag=True, help="Print JSON.")
def chart(
    photos: Sequence[Path],
    benchmark: Path,
    corners: str,
    benchmark_corners: str,
    chart_name: str,
    spectrum: Path | None,
    benchmark_spectrum: Path | None,
    repeats: bool,
    as_json: bool,
) -> None:
    """Photographs of a colour chart under lamps, against one under a benchmark."""
    from even_beam.answers.camera import charts, standard_camera
    from even_beam.camera.errors import CameraError
    from even_beam.formats import FormatError

    if (spectrum is None) is not (benchmark_spectrum is None):
        raise click.UsageError("--spectrum and --benchmark-spectrum go together")
    known_chart, placed = charts.chart_named(chart_name), charts.corners_in(corners)
    known = charts.read_chart_photo(benchmark, known_chart, charts.corners_in(benchmark_corners))
    readings, failed = [], False
    for path in photos:
        try:
            readings.append(charts.read_chart_photo(path, known_chart, placed))
        except (CameraError, FormatError) as error:
            failed = True
            warn(f"{error}")
    found = charts.against(readings, known, repeats=repeats)
    told = [line for one in found for line in (*charts.sentences_of(one, known.name), *_warned(one.warnings))]
    values = [charts.chart_json(one) for one in found]
    if spectrum is not None and benchmark_spectrum is not None:
        lights = [standard_camera.spectrum_in(path) for path in (spectrum, benchmark_spectrum)]
        for one, value in zip(found, values, strict=True):
            beside = standard_camera.beside_standard(one, lights[0], lights[1])
            value["standard_camera"] = standard_camera.beside_json(beside)
            told.append(f"{one.reading.name}: {standard_camera.sentence_of(beside)}")
    if found:
        _tell(values, told, as_json=as_json, alone=len(photos) == 1)
    if failed:
        raise click.exceptions.Exit(1)


def _warned(warnings: Sequence[str]) -> list[str]:
    return [f"  note: {one}" for one in warnings]


@main.command()
@click.argument("waveform", type=FILE)
@click.option("--fps", type=float, help="Frames a second; the usual ones with the usual exposures when not given.")
@click.option("--shutter", default="", help="1/48, 0.02 s, or an angle: “172.8°”.")
@click.option("--readout", default="", help="How long the rows of a frame are read out: 15ms; 0 for all at once.")
@click.option("--mean", type=float, help="The steady part in the file's units, where the recording lost it.")
@click.option("--json", "as_json", is_flag=True, help="Print JSON.")
def flicker(waveform: Path, fps: float | None, shutter: str, readout: str, mean: float | None, as_json: bool) -> None:
    """A waveform of light: how deep and how fast it flickers, and what cameras make of it."""
    from even_beam.answers.camera import flickering

    if fps is None and (shutter or readout):
        raise click.UsageError("--shutter and --readout need --fps")
    exposures = [flickering.exposure_of(fps, shutter, readout)] if fps is not None else []
    found = flickering.flicker_file(waveform, exposures, mean)
    _tell(
        [flickering.flicker_json(found)],
        [*flickering.sentences_of(found), *_warned(found.flicker.warnings), flickering.NOT_HEALTH],
        as_json=as_json,
        alone=True,
    )


@main.command()
@click.argument("files", nargs=-1, required=True, type=FILE)
@click.option("--asked", type=float, help="The seconds that were dialled.")
@click.option("--fps", type=float, help="Frames a second, of films and folders of frames.")
@click.option("--json", "as_json", is_flag=True, help="Print JSON.")
def fade(files: Sequence[Path], asked: float | None, fps: float | None, as_json: bool) -> None:
    """Fades of level, white or colour: how long they took, by which law, in which steps."""
    from even_beam.answers.camera import fading

    if fps is not None and not 0.0 < fps < 100_000.0:
        fail("--fps must be a number above zero")
    found = [fading.fade_file(path, asked, fps) for path in files]
    told = [line for one in found for line in fading.sentences_of(one)]
    told += filter(None, [fading.pair_sentence(found)])
    _tell([fading.fade_json(one) for one in found], told, as_json=as_json, alone=len(files) == 1)


@main.command()
@click.argument("photo", type=FILE)
@click.option("--line", required=True, help="From where to where it crosses the edge, in pixels: “x,y;x,y”.")
@click.option("--json", "as_json", is_flag=True, help="Print JSON.")
def edge(photo: Path, line: str, as_json: bool) -> None:
    """A shadow or the cut of a door across a line in a photograph: width, steps, colour fringe."""
    from even_beam.answers.camera import surfaces

    found = surfaces.edge_file(photo, surfaces.line_in(line))
    _tell([surfaces.edge_json(found)], surfaces.edge_sentences(found), as_json=as_json, alone=True)


@main.command()
@click.argument("photo", type=FILE)
@click.option("--json", "as_json", is_flag=True, help="Print JSON.")
def wall(photo: Path, as_json: bool) -> None:
    """How evenly a plain wall is lit, from a photograph that it fills."""
    from even_beam.answers.camera import surfaces

    found = surfaces.wall_file(photo)
    _tell([surfaces.wall_json(found)], surfaces.wall_sentences(found), as_json=as_json, alone=True)


@main.command()
@click.argument("film", type=FILE)
@click.option("--fps", required=True, type=float, help="Frames a second.")
@click.option("--area", default="", help="left,top,right,bottom as shares of the picture; all of it when not given.")
@click.option("--json", "as_json", is_flag=True, help="Print JSON.")
def film(film: Path, fps: float, area: str, as_json: bool) -> None:
    """A film, or a folder of frames: how its level beats from frame to frame, and its bands by row."""
    from even_beam.answers.camera import films

    if not 0.0 < fps < 100_000.0:
        fail("--fps must be a number above zero")
    found = films.film_file(film, fps, films.area_in(area))
    _tell([films.film_json(found)], films.sentences_of(found), as_json=as_json, alone=True)


@main.command()
@click.argument("photos", nargs=-1, required=True, type=FILE)
@click.option("--against", "benchmark", required=True, type=FILE, help="The photograph under the benchmark.")
@click.option("--area", required=True, help="Two opposite corners of the part in pixels: “x,y;x,y”.")
@click.option("--as-shot", is_flag=True, help="With the cast; once greys agree when not given.")
@click.option("--chart", "chart_name", default="", help="As in chart.")
@click.option("--out", type=FILE, help="A PNG with all of them in a row.")
@FORCE
@click.option("--json", "as_json", is_flag=True, help="Print JSON.")
def crops(
    photos: Sequence[Path],
    benchmark: Path,
    area: str,
    as_shot: bool,
    chart_name: str,
    out: Path | None,
    force: bool,
    as_json: bool,
) -> None:
    """One part of photographs, such as skin or a petal, side by side at equal exposure."""
    from even_beam.answers.camera import crops as parts
    from even_beam.answers.camera.charts import chart_named
    from even_beam.files.writing import write

    box, known = parts.box_in(area), chart_named(chart_name)
    found = parts.crops_of([benchmark, *photos], box, known, balanced=not as_shot)
    if out is not None:
        out = ending_in(out, ".png")
        write(out, parts.strip_of(found), over_others=force, inputs=(benchmark, *photos))
    values = parts.crops_json(found)
    told = [f"{one['file']}: {one['delta_e']:.1f} from {benchmark.name} (CIEDE2000 of the mean)" for one in values[1:]]
    _tell(values, [*told, *([f"wrote {out}"] if out is not None else [])], as_json=as_json, alone=False)
