"""The tables of a logbook (documented for other tools in docs/file-format.md)."""

import json
from datetime import UTC, datetime
from typing import Any

from sqlalchemy import (
    Boolean,
    Column,
    Dialect,
    Float,
    ForeignKey,
    Index,
    Integer,
    LargeBinary,
    MetaData,
    String,
    Table,
    UniqueConstraint,
)
from sqlalchemy.types import TypeDecorator

APPLICATION_ID = 0x4576426D
"""«EvBm», in the header of every logbook."""

SCHEMA_VERSION = 6
"""Kept as `user_version` in the header, so that a newer file is known before it is opened."""

REVISION = "0006"
"""The newest migration, which a new file is marked with."""


class UtcText(TypeDecorator[datetime]):
    """Aware times as ISO 8601 UTC text; SQLite itself would drop the offset."""

    impl = String
    cache_ok = True

    def process_bind_param(self, value: datetime | None, dialect: Dialect) -> str | None:
        """To text. Raises `ValueError` for a time without a zone."""
        if value is None:
            return None
        if value.tzinfo is None:
            raise ValueError("a time without a zone cannot be kept")
        return value.astimezone(UTC).isoformat(timespec="milliseconds").replace("+00:00", "Z")

    def process_result_value(self, value: Any, dialect: Dialect) -> datetime | None:
        """From text, in UTC."""
        return None if value is None else datetime.fromisoformat(value)


class JsonText(TypeDecorator[Any]):
    """Tuples and mappings as JSON text; lists come back as tuples."""

    impl = String
    cache_ok = True

    def process_bind_param(self, value: Any, dialect: Dialect) -> str | None:
        """To text."""
        return None if value is None else json.dumps(value, ensure_ascii=False, sort_keys=True)

    def process_result_value(self, value: Any, dialect: Dialect) -> Any:
        """From text."""
        return None if value is None else structure(value)


def structure(text: str) -> Any:
    """The tuple or mapping of a JSON text. Raises `ValueError` for what is neither."""
    value = json.loads(text)
    if not isinstance(value, list | dict):
        raise ValueError(f"neither a list nor an object: {text[:40]}")
    return frozen(value)


def frozen(value: Any) -> Any:
    """JSON values with lists as tuples."""
    if isinstance(value, list):
        return tuple(frozen(item) for item in value)
    if isinstance(value, dict):
        return {key: frozen(item) for key, item in value.items()}
    return value


metadata = MetaData()


def _id() -> Column[str]:
    return Column("id", String, primary_key=True)


def _text(name: str) -> Column[str]:
    return Column(name, String, nullable=False, server_default="")


def _number(name: str) -> Column[float]:
    return Column(name, Float)


def _reference(name: str, target: str, *, nullable: bool = False) -> Column[str]:
    return Column(name, String, ForeignKey(f"{target}.id"), nullable=nullable)


def _terms_columns() -> list[Column[Any]]:
    return [
        _text("mode"),
        _number("cct_k"),
        _text("tint"),
        _number("level_pct"),
        _number("hue_deg"),
        _number("saturation_pct"),
        _text("zoom"),
        Column("configuration", JsonText, nullable=False),
        _number("distance_m"),
        _text("placement"),
        Column("angle_deg", Float, nullable=False),
        _text("reference_plane"),
        Column("turn_deg", Float, nullable=False, server_default="0"),
    ]


model = Table("model", metadata, _id(), _text("name"), _text("kind"), _text("notes"))

source = Table(
    "source",
    metadata,
    _id(),
    Column("nickname", String, nullable=False, unique=True),
    _reference("model_id", "model", nullable=True),
    _text("kind"),
    _text("serial"),
    _text("supplied_by"),
    _text("simulated"),
    _text("notes"),
    Column("retired", Boolean, nullable=False),
    _text("return_by"),
)

claim = Table(
    "claim",
    metadata,
    _id(),
    _reference("model_id", "model"),
    _text("quantity"),
    _number("low"),
    _number("high"),
    _text("unit"),
    _text("text"),
    _text("condition"),
)

cost = Table(
    "cost",
    metadata,
    _id(),
    _reference("model_id", "model"),
    _text("what"),
    Column("amount", Float, nullable=False),
    _text("currency"),
)

gear = Table("gear", metadata, _id(), _reference("model_id", "model"), _text("name"), _text("text"))

subject = Table(
    "subject",
    metadata,
    _id(),
    Column("nickname", String, nullable=False, unique=True),
    Column("wavelength_nm", JsonText, nullable=False),
    Column("reflectance", JsonText, nullable=False),
    _text("notes"),
)

modifier = Table(
    "modifier",
    metadata,
    _id(),
    Column("nickname", String, nullable=False, unique=True),
    _text("kind"),
    _text("notes"),
)

meter = Table(
    "meter",
    metadata,
    _id(),
    Column("nickname", String, nullable=False, unique=True),
    _text("kind"),
    _text("receptor"),
    Column("constant", Float, nullable=False),
    Column("absolute", Boolean, nullable=False),
    Column("level_tolerance", Float, nullable=False),
    Column("ratio_tolerance", Float, nullable=False),
    Column("xy_tolerance", Float, nullable=False),
    Column("floor_lx", Float, nullable=False),
    Column("dim_lx", Float, nullable=False),
    Column("ceiling_lx", Float, nullable=False),
    _text("zeroed_on"),
    _text("cc_sign"),
    Column("quantities", JsonText, nullable=False),
    _text("simulated"),
    _text("notes"),
)

calibration = Table(
    "calibration",
    metadata,
    _id(),
    _reference("meter_id", "meter"),
    Column("at", UtcText, nullable=False),
    _text("kind"),
    _text("note"),
)

tolerance_set = Table(
    "tolerance_set",
    metadata,
    _id(),
    Column("name", String, nullable=False, unique=True),
    _text("purpose"),
    Column("limits", JsonText, nullable=False),
)

plan = Table(
    "plan", metadata, _id(), Column("name", String, nullable=False), Column("content", JsonText, nullable=False)
)

mapping = Table(
    "mapping",
    metadata,
    _id(),
    Column("shape", String, nullable=False, unique=True),
    Column("content", JsonText, nullable=False),
)

session = Table(
    "session",
    metadata,
    _id(),
    _text("name"),
    Column("created_at", UtcText, nullable=False),
    _text("zone"),
    _text("question"),
    _text("decision"),
    _text("disclosure"),
)

conditions = Table(
    "conditions",
    metadata,
    _id(),
    _reference("session_id", "session"),
    Column("at", UtcText, nullable=False),
    _text("room"),
    _number("ambient_lx"),
    _number("temperature_c"),
    _number("mains_v"),
    _text("note"),
)

step = Table(
    "step",
    metadata,
    _id(),
    _reference("session_id", "session"),
    Column("position", Float, nullable=False),
    Column("source_ids", JsonText, nullable=False),
    Column("quantities", JsonText, nullable=False),
    _reference("meter_id", "meter", nullable=True),
    Column("repeats", Integer, nullable=False),
    Column("inserted", Boolean, nullable=False),
    _number("spread_stops"),
    Column("wait_s", Float, nullable=False, server_default="0"),
    *_terms_columns(),
    Index("step_of_session", "session_id", "position"),
)

reading = Table(
    "reading",
    metadata,
    _id(),
    _reference("session_id", "session"),
    Column("at", UtcText, nullable=False),
    Column("sequence", Integer, nullable=False),
    Column("source_ids", JsonText, nullable=False),
    _reference("step_id", "step", nullable=True),
    _reference("meter_id", "meter", nullable=True),
    _text("note"),
    _number("since_change_s"),
    _text("meter_mode"),
    _text("meter_range"),
    *_terms_columns(),
    UniqueConstraint("session_id", "sequence", name="reading_sequence"),
    Index("reading_of_sources", "source_ids", "session_id"),
)

value = Table(
    "value",
    metadata,
    Column("reading_id", String, ForeignKey("reading.id"), primary_key=True),
    Column("quantity", String, primary_key=True),
    Column("origin", String, primary_key=True),
    _number("value"),
    _number("low"),
    _number("high"),
    _text("text"),
    _text("unit"),
    _text("qualifier"),
)

spectrum = Table(
    "spectrum",
    metadata,
    Column("reading_id", String, ForeignKey("reading.id"), primary_key=True),
    Column("first_nm", Float, nullable=False),
    Column("step_nm", Float),
    Column("wavelengths", LargeBinary),
    Column("samples", LargeBinary, nullable=False),
    Column("absolute", Boolean, nullable=False),
)

trace = Table(
    "trace",
    metadata,
    Column("reading_id", String, ForeignKey("reading.id"), primary_key=True),
    Column("quantity", String, primary_key=True),
    Column("seconds", LargeBinary, nullable=False),
    Column("samples", LargeBinary, nullable=False),
)

observation = Table(
    "observation",
    metadata,
    _id(),
    _reference("session_id", "session"),
    Column("at", UtcText, nullable=False),
    Column("source_ids", JsonText, nullable=False),
    _text("subject"),
    _text("finding"),
    _text("note"),
    *_terms_columns(),
)

photo = Table(
    "photo",
    metadata,
    _id(),
    _reference("session_id", "session"),
    Column("at", UtcText, nullable=False),
    _reference("observation_id", "observation", nullable=True),
    _reference("reading_id", "reading", nullable=True),
    _text("name"),
    _text("media_type"),
    Column("image", LargeBinary, nullable=False),
    Column("thumbnail", LargeBinary, nullable=False),
)

look = Table(
    "look",
    metadata,
    _id(),
    Column("name", String, nullable=False, unique=True),
    Column("at", UtcText, nullable=False),
    Column("cct_k", Float, nullable=False),
    Column("duv", Float, nullable=False),
    Column("reading_ids", JsonText, nullable=False),
    _text("note"),
)

report_layout = Table(
    "report_layout",
    metadata,
    _id(),
    _reference("session_id", "session"),
    _text("kind"),
    Column("section_order", JsonText, nullable=False),
    Column("left_out", JsonText, nullable=False),
    Column("own", JsonText, nullable=False),
)

COMPUTED_SCALARS = (
    "illuminance", "cct", "duv", "x", "y", "u_prime", "v_prime", "peak_nm", "ra", "r9", "rf", "rg", "ssi", "tlci",
)  # fmt: skip
"""The computed figures that have a column of their own; a test holds them equal to what is computed."""

computed = Table(
    "computed",
    metadata,
    Column("reading_id", String, ForeignKey("reading.id"), primary_key=True),
    Column("method_version", Integer, nullable=False),
    *(_number(name) for name in COMPUTED_SCALARS),
    Column("vectors", JsonText, nullable=False),
    Index("computed_of_method", "method_version", "reading_id"),
)

event = Table(
    "event",
    metadata,
    _id(),
    _reference("session_id", "session"),
    Column("sequence", Integer, nullable=False),
    Column("at", UtcText, nullable=False),
    Column("kind", String, nullable=False),
    _reference("reading_id", "reading", nullable=True),
    _reference("step_id", "step", nullable=True),
    _text("field"),
    _text("old"),
    _text("new"),
    _text("reason"),
    _reference("undoes", "event", nullable=True),
    UniqueConstraint("session_id", "sequence", name="event_sequence"),
)

Index("event_naming_sources", event.c.new, sqlite_where=event.c.kind == "source named")
