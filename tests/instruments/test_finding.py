"""What is at the wires of this machine, and what the command of devices says."""

from types import SimpleNamespace

import pyvisa
import serial.tools.list_ports
from click.testing import CliRunner

from even_beam.cli import main


class Manager:
    def __init__(self, library):
        assert library == "@py"

    def list_resources(self):
        return ("ASRL/dev/ttyUSB0::INSTR", "USB0::1::2::3::INSTR", "USB0::1::2::4::INSTR")

    def open_resource(self, name):
        if name.endswith("4::INSTR"):
            raise ValueError("in use")
        return SimpleNamespace(timeout=0, query=lambda text: "SOME,PHOTO,1", close=lambda: None)


def test_ports_and_instruments_are_listed_with_what_they_say(monkeypatch):
    port = SimpleNamespace(device="/dev/ttyUSB0", description="a bridge")
    monkeypatch.setattr(serial.tools.list_ports, "comports", lambda: [port])
    monkeypatch.setattr(pyvisa, "ResourceManager", Manager)
    said = CliRunner().invoke(main, ["devices", "--find"])
    assert said.exit_code == 0
    assert "/dev/ttyUSB0: a bridge" in said.output
    assert "USB0::1::2::3::INSTR: SOME,PHOTO,1" in said.output
    assert "USB0::1::2::4::INSTR: does not answer (in use)" in said.output
    assert "ASRL" not in said.output, "no question is put to a serial port, which it might set off"


def test_what_there_is_not_is_told():
    for said, words in (
        (["--fault", "gremlin"], "there is no fault “gremlin”"),
        (["--lamp", "Tansy=torch"], "there is no simulated lamp “torch”"),
        (["--meter", "sundial"], "there is no meter sundial"),
    ):
        found = CliRunner().invoke(main, ["devices", *said])
        assert found.exit_code == 2 and words in found.output
    found = CliRunner().invoke(main, ["devices", "--try", "crystal ball", "x"])
    assert found.exit_code == 1 and "there is no driver “crystal ball”" in found.output
