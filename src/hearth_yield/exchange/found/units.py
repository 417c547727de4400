"""What the words around a table say its amounts are counted in."""

from __future__ import annotations

import re
from collections.abc import Collection, Iterable

from .numbers import PENCE_OF

UNITS = (
    (
        re.compile(r"\b(?:billions?|bn|mrd|milliarden|milliards?|miliardi|miljard)\b\.?", re.I),
        "billion",
    ),
    (re.compile(r"\bcrores?\b|(?<=[.\s])cr\b\.?", re.I), "crore"),
    (re.compile(r"\b(?:lakhs?|lacs?)\b", re.I), "lakh"),
    (
        re.compile(r"\b(?:millions?|mio|mill|mln|millionen|millones|milioni|miljoen|m)\b\.?", re.I),
        "million",
    ),
    (
        re.compile(
            r"\b(?:thousands?|tsd|tausend|miles|migliaia|duizend|milliers|k|t[A-Z]{3})\b"
            r"|(?<![\d'’.,\s])000s?\b|(?<!\d)['’]000s?\b|\b[A-Z]{3} 000s?\b",
            re.I,
        ),
        "thousand",
    ),
)
HUNDREDTH = "hundredth"
"""What a line of amounts a share is counted in that are pence or cents."""
FACTOR = {"1": 1.0, "thousand": 1e3, "million": 1e6, "billion": 1e9, "lakh": 1e5, "crore": 1e7}
NAMES = {
    "1": "single units",
    "thousand": "thousands",
    "million": "millions",
    "billion": "billions",
    "lakh": "lakhs (100,000)",
    "crore": "crores (10,000,000)",
}
WRITTEN = {"billion": "million", "crore": "million", "lakh": "thousand"}
"""The unit of the product's own in which amounts in another are written down."""
_UNIT_AT = re.compile(r"(?:\bin\b|\ben\b|\(|,|:)\s*[^()\n]*|^[^()\n]{0,40}$", re.IGNORECASE)
_CODE = re.compile(r"\b([A-Z]{3})\b")
_SHARES_APART = re.compile(
    r"\b(?:except|other than|ausser|außer|sauf|excepto)\b[^()\n]{0,30}?"
    r"\bshares?\b\s*(?:,|and|counts?)",
    re.IGNORECASE,
)
_HUNDREDTHS = re.compile(
    r"\b(?:pence|cents?|centimes?|céntimos?|centesimi|öre|øre|groszy)\b|\bct\.?(?=[)\s]|$)",
    re.IGNORECASE,
)
_PENCE = re.compile(r"\bGBX\b|\bGBp\b|\bUSX\b|\bZAc\b|\(\s*[pc¢]\s*\)|\s[pc]\s*(?:/|per\b)\s*share")
"""Marks for hundredths that are told by their capitals, or stand alone in brackets."""


def unit_of(text: str) -> str | None:
    """ "in millions", "(TLL m)", "Mio. TLL" among what stands above a table; of several the
    first."""
    for line in re.split(r"[\n;|]", text):
        for part in _UNIT_AT.findall(line.strip()):
            told = [(at.start(), unit) for p, unit in UNITS if (at := p.search(part))]
            if told:
                return min(told)[1]
    return None


_INNER = re.compile(r"\(([^()]*)\)")
_AT_END = re.compile(
    r"(?:,|:|\bin|\ben|[$€£¥₹]|\b[A-Z]{3}|\s[-–])\s?('?[a-z0]{1,10}\.?)$|\s(m|mn|mln|bn|mio|mrd)\.?$",
    re.IGNORECASE,
)
_MONEY = re.compile(r"(?:[A-Z]{3}|(?:US|A|C)?[$]|[€£¥₹]|Rs\.?)?\s?([^1-9\s]{0,12})")


def own_unit(heading: str) -> str | None:
    """What a line says for itself: "Revenue (m)", "Revenue, $m", "Capex in millions"."""
    if inner := _INNER.findall(heading):
        return unit_of(f"({inner[-1]})")
    end = _AT_END.search(heading[-30:])
    return unit_of(f"({end[1] or end[2]})") if end else None


def unit_beside(cell: str) -> str | None:
    """What a cell beside a line says that it is counted in: "$m", "TLL thousands"; "TLL" alone
    is single units."""
    told = _MONEY.fullmatch(cell)
    if not cell or told is None:
        return None
    if not told[1]:
        return "1"
    return unit_of(f"({told[1]})") or ("1" if currency_code(cell) else None)


def shares_apart(text: str) -> bool:
    """ "in thousands, except share and per share data": share counts are in single units."""
    return _SHARES_APART.search(text) is not None


def hundredths(text: str) -> bool:
    """Whether amounts a share are said to be in pence or cents."""
    return _HUNDREDTHS.search(text) is not None or _PENCE.search(text) is not None


def currency_code(cell: object) -> tuple[str, float] | None:
    """A cell of a currency column: its code, and what an amount in it is to be times."""
    text = cell.strip() if isinstance(cell, str) else ""
    if text in PENCE_OF:
        return PENCE_OF[text], 0.01
    code = text.upper()
    return (code, 1.0) if len(code) == 3 and code.isascii() and code.isalpha() else None


MAIN = frozenset(
    (
        *("USD", "EUR", "GBP", "JPY", "CHF", "CAD", "AUD", "NZD", "SEK", "NOK", "DKK", "ISK"),
        *("HKD", "SGD", "CNY", "CNH", "TWD", "KRW", "INR", "IDR", "MYR", "THB", "PHP", "BRL"),
        *("MXN", "ZAR", "ILS", "PLN", "CZK", "HUF", "AED", "SAR"),
    )
)
"""Codes of ISO 4217 that are no word of a sheet besides."""
SIGNS = {"€": "EUR", "£": "GBP", "₹": "INR", "US$": "USD", "C$": "CAD", "A$": "AUD", "HK$": "HKD"}
"""Signs of one currency alone."""
DOLLARS = frozenset(("USD", "CAD", "AUD", "NZD", "HKD", "SGD", "TWD", "MXN"))
"""What "$" alone may be."""
_CURRENCY_AT = re.compile(
    r"^\(?-?\s?(US\$|HK\$|[CA]\$|[€£₹$]|(?:[A-Z]{3}|GBp|ZAc)(?![^\W\d_]))"
    r"|((?<![^\W\d_])(?:[A-Z]{3}|GBp|ZAc)|[€£₹$])\)?$"
)


def currencies_in(cells: Iterable[str], known: Collection[str]) -> set[str]:
    """The currencies that amounts say for themselves: "€ 0.50", "12.50 TLL"."""
    marks = {at[1] or at[2] for c in cells if (at := _CURRENCY_AT.search(c[:40].strip()))}
    codes = {SIGNS.get(mark) or PENCE_OF.get(mark, mark) for mark in marks}
    return {c for c in codes if c in known or c in MAIN or c == "$"}


_DOLLAR = re.compile(r"(?<![A-Z])\$")
_TOLD = re.compile(r"(?:currency|währung|devise|moneda|valuta)\W+([A-Z]{3})\b", re.I)


def currencies_of(text: str, known: Collection[str]) -> set[str]:
    """The currencies that are told above a table: those that are said to be one, else codes of
    payers and of the main currencies, and signs."""
    if told := {code.upper() for code in _TOLD.findall(text)}:
        return told
    codes = {c for c in _CODE.findall(text) if c in known or c in MAIN}
    codes |= {whole for code, whole in PENCE_OF.items() if re.search(rf"\b{code}\b", text)}
    dollars = {"$"} if _DOLLAR.search(text) else set()
    return codes | {code for sign, code in SIGNS.items() if sign in text} | dollars
