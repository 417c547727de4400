"""How a sheet writes its numbers: found from all of them together, asked where they do not say."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache
from typing import NamedTuple

NIL = frozenset({"-", "–", "—", "−", "n/a", "na", "n.a.", "nm", "n.m.", "nil", ".", "..", "k.a."})
"""What stands where nothing is known or nothing is to be told; never 0."""
LONGEST = 80
"""Characters of a number; a longer text is none."""
SPACES = "\u00a0\u202f\u2009 "
MINUS = str.maketrans({"−": "-", "–": "-", "—": "-", "’": "'"})
_NOTE = re.compile(r"(?<=[\d)%])\s*(?:[*†‡¹²³⁴⁵]+|\[\w{1,2}\])$")
_MONEY = r"(?:[A-Z]{0,3}[$]|[A-Z]{3}|[€£¥₹]|Rs\.?|kr\.?|Fr\.?|zł)"
_AROUND = re.compile(rf"^{_MONEY}\s*|(?<!\s)\s*(?:{_MONEY}|%)$")
PENCE_OF = {"GBX": "GBP", "GBp": "GBP", "USX": "USD", "ZAc": "ZAR", "ZAC": "ZAR", "ILA": "ILS"}
"""Codes in which a hundredth of a currency is told, and of which."""
_CODES = "|".join(PENCE_OF)
_SMALL = re.compile(
    rf"^(?:{_CODES})\s?(?=[-+(]?[\d.,])|(?<=[\d.,])\s?(?:{_CODES}|pence|cents?|ct\.?|[pc¢])$"
)
"""Pence and cents beside an amount."""
_LARGE = re.compile(
    r"(?<=[\d.,])\s?(?:(k|tsd\.?)|(m|mn|mln|mio\.?)|(b|bn|mrd\.?)|(lakhs?)|(crores?|cr))\.?$",
    re.IGNORECASE,
)
LARGE = (1e3, 1e6, 1e9, 1e5, 1e7)
"""What the marks behind an amount stand for, in their order."""
_PLAIN = re.compile(r"-?\d{1,15}(?:[.,]\d{1,9})?", re.ASCII)
"""Most numbers; the rest takes longer."""
_WORD = re.compile(r"[^\W\d_]{8}")
"""A word longer than any that stands beside a number."""
_ONE_POINT = re.compile(r"\d+(?:\.\d*)?|\.\d+", re.ASCII)
_DIGITS = re.compile(r"[+-]?(?!')[\d.,'" + SPACES + r"]*\d[.,]?")


@dataclass(frozen=True, slots=True)
class Style:
    """decimal: "." or ",". asked: no number says which, and some could be read both ways."""

    decimal: str
    asked: bool = False

    @property
    def group(self) -> str:
        return "," if self.decimal == "." else "."


def is_small(text: str) -> bool:
    """Whether an amount is written in pence or cents."""
    if text[:1].isdigit() and text[-1:].isdigit():
        return False
    return len(text) <= LONGEST and _SMALL.search(text) is not None and bare(text) is not None


def is_large(text: str) -> bool:
    """Whether an amount says itself that it is in thousands, millions or more."""
    return len(text) <= LONGEST and _LARGE.search(text) is not None and bare(text) is not None


class Bare(NamedTuple):
    """A number's digits and signs without what stands around them; factor: of a percentage, of
    pence, of millions."""

    digits: str
    negative: bool = False
    factor: float = 1.0


@lru_cache(maxsize=50_000)
def bare(text: str) -> Bare | None:
    """A text as a number that is still to be read; None for one that is no number."""
    if _PLAIN.fullmatch(text):
        return Bare(text[1:], negative=True) if text[0] == "-" else Bare(text)
    if len(text) > LONGEST or _WORD.search(text):
        return None
    text = _NOTE.sub("", text.strip()).strip()
    factor, negative = 0.01 if text.endswith("%") else 1.0, False
    if text.startswith("(") and text.endswith(")"):
        negative, text = True, text[1:-1].strip()
    if factor == 1.0 and _SMALL.search(text):
        factor, text = 0.01, _SMALL.sub("", text)
    elif large := _LARGE.search(text):
        factor *= next(f for f, mark in zip(LARGE, large.groups(), strict=True) if mark)
        text = text[: large.start()]
    for _ in range(2):
        text = _AROUND.sub("", text).strip()
    if text.startswith("(") and text.endswith(")"):
        negative, text = True, _AROUND.sub("", text[1:-1].strip()).strip()
    text = text.translate(MINUS)
    if text.endswith("-") and text[:-1]:
        negative, text = True, text[:-1]
    if text.startswith("-"):
        negative, text = True, text[1:]
    text = text.strip().lstrip("+")
    return Bare(text, negative, factor) if _DIGITS.fullmatch(text) else None


def style_of(texts: Iterable[str]) -> Style:
    """From the numbers of a whole sheet: one that can be read one way only decides for all."""
    says: set[str] = set()
    open_ones = False
    for text in texts:
        found = bare(text) if "." in text or "," in text else None
        if found is None:
            continue
        mark = _decimal_of(found.digits)
        if mark == "?":
            open_ones = True
        elif mark:
            says.add(mark)
    if len(says) == 1:
        return Style(says.pop())
    return Style(".", asked=open_ones or len(says) > 1)


def _decimal_of(digits: str) -> str:
    """The sign that must be the decimal's; "?" where one could be either; "" without any."""
    for space in SPACES + "'":
        digits = digits.replace(space, "")
    dots, commas = digits.count("."), digits.count(",")
    if dots and commas:
        return "." if digits.rfind(".") > digits.rfind(",") else ","
    if dots + commas == 0:
        return ""
    sign = "." if dots else ","
    other = "," if dots else "."
    if dots + commas > 1:
        return other
    before, after = digits.split(sign)
    grouped = len(after) == 3 and 1 <= len(before) <= 3 and before != "0"
    return "?" if grouped else sign


def number_of(text: str, style: Style) -> float | None:
    """A text as a number; None where it is none in this style."""
    if _PLAIN.fullmatch(text) and style.group not in text:
        return float(text.replace(style.decimal, "."))
    found = _digits(text, style)
    if found is None:
        return None
    digits, factor = found
    return float(digits) if factor == 1.0 else float(Decimal(digits) * Decimal(repr(factor)))


def exact_of(text: str, style: Style) -> Decimal | None:
    """The same to the last digit, without a binary number on the way."""
    if _PLAIN.fullmatch(text) and style.group not in text:
        return Decimal(text.replace(style.decimal, "."))
    found = _digits(text, style)
    if found is None:
        return None
    digits, factor = found
    return Decimal(digits) if factor == 1.0 else Decimal(digits) * Decimal(repr(factor))


def _digits(text: str, style: Style) -> tuple[str, float] | None:
    """A number as Python writes it, without what stands around it, and its factor."""
    found = bare(text)
    if found is None:
        return None
    digits, negative, factor = found
    for space in SPACES + "'":
        if space in digits:
            if not is_grouped(digits.split(style.decimal)[0].split(space)):
                return None
            digits = digits.replace(space, "")
    if style.group in digits:
        whole = digits.split(style.decimal)[0].split(style.group)
        if not is_grouped(whole):
            return None
        digits = digits.replace(style.group, "")
    digits = digits.replace(style.decimal, ".")
    if not _ONE_POINT.fullmatch(digits):
        return None
    return f"-{digits}" if negative else digits, factor


def is_grouped(parts: Sequence[str]) -> bool:
    """Thousands, or lakhs and crores: 1,234,567 and 12,34,567."""
    between, last = parts[1:-1], parts[-1]
    if len(last) != 3:
        return False
    return all(len(p) == 3 for p in between) or (
        len(parts[0]) <= 2 and all(len(p) == 2 for p in between)
    )


def is_nil(text: str) -> bool:
    return text.strip().lower() in NIL
