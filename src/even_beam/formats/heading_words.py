"""What headings of tables are called in other languages than English, and what cells say that say nothing.

Translations from memory, checked by nobody who measures light in them; a heading that is not here is asked for.
"""

import unicodedata
from collections.abc import Mapping

_WORDS: Mapping[str, tuple[str, ...]] = {
    "lamp": (
        "leuchte", "lampe", "scheinwerfer", "projecteur", "luminaire", "lampara", "foco", "luminaria", "lampada",
        "proiettore", "faro", "armatuur", "lampada", "projetor", "refletor",
    ),
    "distance": ("abstand", "entfernung", "distancia", "distanza", "afstand", "distancia"),
    "lux": (
        "beleuchtungsstarke", "eclairement", "iluminancia", "illuminamento", "verlichtingssterkte", "lichtsterkte",
    ),
    "colour temperature": (
        "farbtemperatur", "temperature de couleur", "temperatura de color", "temperatura di colore", "kleurtemperatuur",
        "temperatura de cor", "farbtemp",
    ),
    "dimmer": (
        "dimmerstellung", "helligkeit", "gradation", "intensite", "intensidad", "intensita", "intensidade", "dimstand",
        "helderheid", "niveau", "nivel", "livello", "stellung", "regulacion", "dimmeraggio",
    ),
    "set cct": (
        "eingestellt", "soll", "sollwert", "reglage", "consigne", "ajuste", "impostato", "ingesteld", "ajustado",
    ),
    "modifier": (
        "vorsatz", "aufsatz", "accessoire", "accesorio", "accessorio", "acessorio", "folie", "filter", "filtre",
        "filtro",
    ),
    "angle": ("winkel", "angulo", "angolo", "hoek"),
    "power": ("leistung", "puissance", "potencia", "potenza", "vermogen"),
    "note": (
        "bemerkung", "bemerkungen", "notiz", "anmerkung", "remarque", "remarques", "nota", "notas", "observaciones",
        "osservazioni", "opmerking", "opmerkingen", "observacao", "observacoes",
    ),
    "date": ("datum", "fecha", "data", "date de mesure"),
    "meter": ("messgerat", "appareil", "medidor", "strumento", "meetinstrument", "instrumento", "luxmeter", "luxmetre"),
    "mode": ("modus", "modalita", "modo"),
    "zoom": ("zoomstellung",),
    "current": ("strom", "courant", "corriente", "corrente", "stroom"),
    "voltage": ("spannung", "tension", "tensione", "spanning", "tensao"),
    "temperature": ("temperatur", "temperatura", "temperatuur"),
    "noise": ("gerausch", "lautstarke", "bruit", "ruido", "rumore", "geluid"),
    "session": ("sitzung", "seance", "sesion", "sessione", "sessie", "sessao"),
}  # fmt: skip
_ENGLISH = {said: english for english, others in _WORDS.items() for said in others}


def in_english(words: str) -> str:
    """A heading's words in English where they are known in another language; else as they are.

    >>> in_english("Beleuchtungsstärke"), in_english("Éclairement"), in_english("lux")
    ('lux', 'lux', 'lux')
    """
    return _ENGLISH.get(without_accents(words.casefold()), words)


def without_accents(text: str) -> str:
    """Letters without what stands over or under them."""
    return "".join(c for c in unicodedata.normalize("NFKD", text) if not unicodedata.combining(c))


SAYS_NOTHING = frozenset({
    "n/a", "na", "-", "–", "—", "?", "none", "nil", "k.a.", "k. a.", "nc", "s/d", "n.d.", "n/d", "#n/a",
})  # fmt: skip
"""Cells that say that there is nothing."""

FOOTERS = frozenset({
    "mean", "average", "avg", "min", "max", "minimum", "maximum", "sum", "total", "median", "stdev", "sd", "std dev",
    "mittel", "mittelwert", "durchschnitt", "schnitt", "summe", "moyenne", "total general", "media", "promedio",
    "gemiddelde", "somma", "suma", "totaal", "mediana", "mediane",
})  # fmt: skip
"""What the first word of a row says that sums up the others."""
