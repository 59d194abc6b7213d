"""What something costs, as people say it: `460 to 550 USD each at the shop, October 2026`, `optional frame 45 €`.

Amounts stay in the currency they were told in; nothing is converted.
"""

import re
from dataclasses import dataclass

from even_beam.bench.records import Cost
from even_beam.desk.kit.form_error import FormError
from even_beam.words import notation
from even_beam.words.entry import EntryError, parse

SIGNS = {"€": "EUR", "$": "USD", "£": "GBP", "¥": "JPY", "zł": "PLN", "kč": "CZK", "₹": "INR", "₩": "KRW", "r$": "BRL",
         "a$": "AUD", "c$": "CAD", "fr.": "CHF"}  # fmt: skip
CODES = frozenset({
    "AED", "ARS", "AUD", "BGN", "BRL", "CAD", "CHF", "CLP", "CNY", "COP", "CZK", "DKK", "EGP", "EUR", "GBP", "HKD",
    "HUF", "IDR", "ILS", "INR", "ISK", "JPY", "KES", "KRW", "MAD", "MXN", "MYR", "NGN", "NOK", "NZD", "PEN", "PHP",
    "PLN", "RON", "RSD", "SAR", "SEK", "SGD", "THB", "TRY", "TWD", "UAH", "USD", "VND", "ZAR",
})  # fmt: skip
"""Currencies by their codes (ISO 4217; this selection of those in use is from memory)."""

_MONEY = "|".join(re.escape(sign) for sign in (*sorted(SIGNS, key=len, reverse=True), *sorted(CODES)))
_AMOUNT = r"\d(?:[\d.,'\u202f ]*\d)?"
_PRICE = re.compile(
    rf"(?i)(?P<what>(?:.*?\s)??)(?P<before>{_MONEY})?\s*(?P<low>{_AMOUNT})"
    rf"(?:\s*(?:to|–|-)\s*(?:{_MONEY})?\s*(?P<high>{_AMOUNT}))?\s*(?P<behind>{_MONEY})?(?P<tail>(?![\w.]).*)?"
)
_EACH = re.compile(r"(?i)\b(?:each|apiece|a piece|per lamp)\b")
_FOR = re.compile(r"(?i)\b(?:for\s+(?:a\s+)?(?:kit\s+|set\s+|pair\s+)?(?:of\s+)?|(?:kit|set)\s+of\s+)(\d{1,3})\b")
_OPTIONAL = re.compile(r"(?i)\boptional(?:ly)?\b")
_SAID = re.compile(
    r"(?i)(?:at|from|in|on|seen|as of|by|new|used|street|list)\b.*|\d{4}-\d{2}.*|\d{1,2}\.\d{1,2}\.\d{4}.*"
)


@dataclass(frozen=True, slots=True)
class Price:
    """An amount, from `low` to `high` where it is a range, of `units` together; what is `optional` is not needed, and
    `said` tells when and where."""

    low: float
    high: float | None
    currency: str
    units: int = 1
    optional: bool = False
    said: str = ""

    @property
    def amount_text(self) -> str:
        """The amount without its currency: 460 to 550."""
        return _digits(self.low) if self.high is None else f"{_digits(self.low)} to {_digits(self.high)}"

    @property
    def terms(self) -> str:
        """All that is said beside the amount: for 3, optional, at the corner shop."""
        units = f"for {self.units}" if self.units > 1 else ""
        return ", ".join(filter(None, (units, "optional" * self.optional, self.said)))

    @property
    def text(self) -> str:
        """As it is said; `priced` understands it."""
        return ", ".join(filter(None, (f"{self.amount_text} {self.currency}", self.terms)))


def price_of_cost(cost: Cost) -> Price:
    """What a kept line says."""
    return Price(cost.amount, cost.high, cost.currency, cost.units, cost.optional, cost.said)


def priced(part: str) -> tuple[str, Price] | None:
    """What costs how much; empty for the thing itself, None for what is no price. Raises `FormError`."""
    match = _PRICE.fullmatch(part.strip())
    if match is None or not (match["before"] or match["behind"]):
        return None
    sign = (match["before"] or match["behind"]).lower()
    low, high = _amount(match["low"]), _amount(match["high"]) if match["high"] else None
    if high is not None and high < low:
        raise FormError("line", f"“{part}” is not a range from low to high")
    tail = match["tail"] or ""
    what = (match["what"] or "").strip()
    units = _FOR.search(tail)
    optional = _OPTIONAL.search(tail) or _OPTIONAL.match(what)
    for pattern in (_FOR, _EACH, _OPTIONAL):
        tail = pattern.sub(" ", tail, count=1)
    what = _OPTIONAL.sub("", what, count=1).strip()
    said = ", ".join(" ".join(one.split()) for one in tail.split(",") if one.strip())
    if said and not _SAID.fullmatch(said):
        raise FormError("line", f"“{said}” beside a price: say each, for 3, optional, at a shop, a day")
    count = int(units[1]) if units is not None else 1
    if count < 1:
        raise FormError("line", f"“{part}” is for nothing")
    return what, Price(low, high, SIGNS.get(sign, sign.upper()), count, optional is not None, said)


def _amount(text: str) -> float:
    try:
        amount = parse(text.strip()).value
    except EntryError as error:
        raise FormError("line", str(error)) from error
    if amount is None or amount < 0.0:
        raise FormError("line", "A price is one number, or a range: 640, 460 to 550")
    return amount


def _digits(amount: float) -> str:
    return notation.plain(amount, 2).replace(notation.THIN_SPACE, "")
