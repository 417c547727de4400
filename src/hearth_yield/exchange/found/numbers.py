"""How a sheet writes its numbers: found from all of them together, asked where they do not say."""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache

NIL = frozenset({"-", "–", "—", "−", "n/a", "na", "n.a.", "nm", "n.m.", "nil", ".", "..", "k.a."})
"""What stands where nothing is known or nothing is to be told; never 0."""
LONGEST = 80
"""Characters of a number; a longer text is none."""
SPACES = "\u00a0\u202f\u2009 "
MINUS = str.maketrans({"−": "-", "–": "-", "—": "-", "’": "'"})
_NOTE = re.compile(r"(?<=[\d)%])\s*(?:[*†‡¹²³⁴⁵]+|\[\w{1,2}\])$")
_AROUND = re.compile(r"^(?:[A-Z]{3}|[€$£¥])\s*|(?<!\s)\s*(?:[A-Z]{3}|[€$£¥%])$")
_PLAIN = re.compile(r"-?\d{1,15}(?:[.,]\d{1,9})?", re.ASCII)
"""Most numbers; the rest takes longer."""
_DIGITS = re.compile(r"[+-]?[\d.,'" + SPACES + r"]*\d[.,]?")


@dataclass(frozen=True, slots=True)
class Style:
    """decimal: "." or ",". asked: no number says which, and some could be read both ways."""

    decimal: str
    asked: bool = False

    @property
    def group(self) -> str:
        return "," if self.decimal == "." else "."


@lru_cache(maxsize=50_000)
def bare(text: str) -> tuple[str, bool, bool] | None:
    """A number's digits and signs without what stands around them, whether it is negative, and
    whether it is a percentage; None for a text that is no number."""
    if _PLAIN.fullmatch(text):
        return (text[1:], True, False) if text[0] == "-" else (text, False, False)
    if len(text) > LONGEST:
        return None
    text = _NOTE.sub("", text.strip()).strip()
    percent = text.endswith("%")
    for _ in range(2):
        text = _AROUND.sub("", text).strip()
    negative = False
    if text.startswith("(") and text.endswith(")"):
        negative, text = True, _AROUND.sub("", text[1:-1].strip()).strip()
    text = text.translate(MINUS)
    if text.endswith("-") and text[:-1]:
        negative, text = True, text[:-1]
    if text.startswith("-"):
        negative, text = True, text[1:]
    text = text.strip().lstrip("+")
    return (text, negative, percent) if _DIGITS.fullmatch(text) else None


def style_of(texts: Iterable[str]) -> Style:
    """From the numbers of a whole sheet: one that can be read one way only decides for all."""
    says: set[str] = set()
    open_ones = False
    for text in texts:
        found = bare(text) if "." in text or "," in text else None
        if found is None:
            continue
        mark = _decimal_of(found[0])
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
    found = bare(text)
    if found is None:
        return None
    digits, negative, percent = found
    for space in SPACES + "'":
        digits = digits.replace(space, "")
    if style.group in digits:
        whole = digits.split(style.decimal)[0].split(style.group)
        if not all(len(part) == 3 for part in whole[1:]):
            return None
        digits = digits.replace(style.group, "")
    try:
        value = float(digits.replace(style.decimal, "."))
    except ValueError:
        return None
    return (-value if negative else value) / (100 if percent else 1)


def is_nil(text: str) -> bool:
    return text.strip().lower() in NIL
