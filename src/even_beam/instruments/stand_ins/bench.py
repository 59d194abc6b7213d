"""A bench of stand-ins: a room, its lamps on the network, its meters on wires, and the file that reaches them."""

import json
from collections.abc import Mapping
from datetime import UTC, datetime, timedelta
from pathlib import Path
from time import monotonic
from typing import Any

from even_beam.bench.records import Terms
from even_beam.instruments.bench_file import BenchFile, Reached, write_bench
from even_beam.instruments.profile import Profile, profile_of
from even_beam.instruments.simulated_bench import SimulatedSpectrometer
from even_beam.instruments.simulated_lamps import LAMPS
from even_beam.instruments.stand_ins.faults import Fault
from even_beam.instruments.stand_ins.lamps import LampServer, listener_of
from even_beam.instruments.stand_ins.meters import IDENTITY, FolderServer, LineServer, ScpiServer
from even_beam.instruments.stand_ins.room import SETTLES_S, SLOW_S, Lamp, Room

UNIVERSE = 7
METERS: Mapping[str, str] = {
    "spectrometer": "Wall meter",
    "lux": "Pocket meter",
    "power": "Power meter",
    "files": "Files",
}
"""The meters that there are, with the nickname of each."""
WHITES_K = (2700.0, 6500.0)


def profile_for(model: str) -> Profile:
    """The channels of a stand-in: level in sixteen bits, white in eight where it has one, a fan that holds still."""
    channels: list[dict[str, Any]] = [{"term": "level", "offset": 1, "fine": 2, "points": [[0, 0], [65_535, 100]]}]
    if model not in {"tungsten", "discharge lamp"}:
        channels.append({"term": "cct", "offset": 3, "points": [[0, WHITES_K[0]], [255, WHITES_K[1]]]})
    return profile_of({"name": model, "footprint": 5, "channels": [*channels, {"offset": 5, "value": 200}]}, model)


class StandIns:
    """Lamps by name with their models, meters by kind with their names; `file` is the bench file that reaches them."""

    def __init__(
        self,
        folder: Path,
        lamps: Mapping[str, str],
        meters: Mapping[str, str],
        faults: Mapping[str, Fault],
        *,
        host: str = "127.0.0.1",
        speed: float = 1.0,
        seed: int = 1,
        distance_m: float = 2.0,
    ) -> None:
        settles = SLOW_S if "slow" in faults else SETTLES_S
        made = {name: Lamp(model, settles, "roll-off" in faults) for name, model in lamps.items()}
        self.room = Room(made, Terms(distance_m=distance_m), speed=speed)
        begun, started = datetime.now(UTC), monotonic()

        def clock() -> datetime:
            return begun + timedelta(seconds=speed * (monotonic() - started))

        self.spectrometer = SimulatedSpectrometer(self.room, clock, seed)
        self._servers: list[LampServer | ScpiServer | LineServer | FolderServer] = []
        listeners, reached_lamps = [], {}
        for place, (name, model) in enumerate(lamps.items()):
            profile, first = profile_for(model), 1 + 10 * place
            (folder / f"{name}.json").write_text(json.dumps(profile.as_json(), indent=1))
            listeners.append(listener_of(name, profile, first, dict(faults)))
            reached_lamps[name] = Reached(
                "sacn", "", {"universe": UNIVERSE, "destination": host, "address": first, "profile": f"{name}.json"}
            )
        self.lamps = LampServer(self.room, UNIVERSE, host, listeners)
        self._servers.append(self.lamps)
        reached_meters = {name: self._meter(kind, folder, host, dict(faults)) for kind, name in meters.items()}
        self.bench = BenchFile(reached_meters, reached_lamps, folder)
        self.file = folder / "bench.toml"
        write_bench(self.bench, self.file, over_others=True)

    def _meter(self, kind: str, folder: Path, host: str, faults: dict[str, Fault]) -> Reached:
        """Start a meter; how it is reached."""
        if kind == "lux":
            lines = LineServer(self.spectrometer.read)
            self._servers.append(lines)
            pattern = r"E= (?P<illuminance>[-+.0-9e]+) lx"
            said = {"simulated": True, "pattern": pattern, "streams": True, "units": {"illuminance": "lx"}}
            return Reached("line", lines.address, said)
        if kind == "files":
            place = folder / "files"
            place.mkdir(exist_ok=True)
            self._servers.append(FolderServer(self.spectrometer.read, place))
            return Reached("folder", str(place), {"simulated": True})
        server = ScpiServer(self.spectrometer.read, lambda: self.room.watts, faults, host)
        self._servers.append(server)
        reads: dict[str, Any] = {"power_w": {"ask": "MEAS:POW?", "unit": "W"}}
        if kind == "spectrometer":
            reads = {
                "illuminance": {"ask": "MEAS:ILL?", "unit": "fc"},
                "cct": {"ask": "MEAS:CCT?", "unit": "K"},
                "spectrum": {"ask": "MEAS:SPEC?", "first_nm": 380, "step_nm": 5, "unit": "W m-2 nm-1"},
            }
        said = {
            "simulated": True, "write_termination": "\n", "read_termination": "\r\n", "timeout_s": 3.0,
            "identity": IDENTITY.split(",")[1],
            "begins": ["*CLS"], "zero": "CAL:ZERO", "errors": "SYST:ERR?", "number": "MEAS:NUMB?", "reads": reads,
        }  # fmt: skip
        return Reached("scpi", f"TCPIP::{host}::{server.port}::SOCKET", said)

    def start(self) -> None:
        """Begin."""
        for server in self._servers:
            server.start()

    def close(self) -> None:
        """End."""
        for server in self._servers:
            server.close()


def meter_of(text: str) -> tuple[str, str]:
    """A meter as it is asked for: its kind, and after = the name it goes by. Raises `ValueError`."""
    kind, _, name = text.partition("=")
    if kind not in METERS:
        raise ValueError(f"there is no meter {kind}; there are {', '.join(METERS)}")
    return kind, name.strip() or METERS[kind]


def model_of(text: str) -> tuple[str, str]:
    """A lamp as it is asked for: its name, and after = the model that plays it. Raises `ValueError`."""
    name, _, model = text.partition("=")
    model = model or "six-emitter colour light"
    if model not in LAMPS:
        raise ValueError(f"there is no simulated lamp “{model}”; there are {', '.join(LAMPS)}")
    return name.strip(), model
