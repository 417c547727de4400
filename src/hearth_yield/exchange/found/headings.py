"""What a heading means: by the trade's words for it in several languages, else by its likeness to
one of them; never in silence below a threshold. The words are data (synonyms.json)."""

from __future__ import annotations

import json
import re
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache, lru_cache
from importlib import resources

from rapidfuzz import fuzz, process

LIKE_ENOUGH = 92.0
"""A heading this like a known one (of 100) is taken for it, and said to be."""
LONGEST = 200
"""Characters of a heading; a longer text is none."""
_AROUND = re.compile(r"\((?:[^()]*)\)|\[[^\[\]]*\]|[*†‡¹²³:]")
_MONEY = r"(?:\b[A-Z]{3}\s|(?:\bUS|\b[AC])?[$]\s?|[€£¥₹]\s?)"
_UNIT = re.compile(
    rf"(?:{_MONEY}|\b(?i:in|en)\s+{_MONEY}?|\b)"
    r"(?i:mio|millions?|mill|mln|mn|mrd|thousands?|tsd|000s?|k|m|bn|billions?|lakhs?|crores?)\.?$"
)


@dataclass(frozen=True, slots=True)
class Meant:
    """target: the column of a table. sure: by its very words; else by likeness."""

    target: str
    sure: bool


@cache
def synonyms() -> Mapping[str, Mapping[str, str]]:
    """By kind of table: a plain heading and the column it means."""
    held = json.loads(resources.files(__package__).joinpath("synonyms.json").read_text("utf-8"))
    found = {}
    for kind, columns in held.items():
        words = {plain(w): target for target, all_ in columns.items() for w in all_}
        words |= {plain(target.replace("_", " ")): target for target in columns}
        found[kind] = words
    return found


@lru_cache(maxsize=20_000)
def plain(heading: str) -> str:
    """Lower case, without notes in brackets, units and marks; dashes are spaces."""
    text = " ".join(_AROUND.sub(" ", heading).replace("–", "-").replace("’", "'").split())
    text = _UNIT.sub("", text).casefold().replace("-", " ").replace("_", " ")
    return " ".join(text.strip(" .,;+").split())


@lru_cache(maxsize=20_000)
def meaning(kind: str, heading: str) -> Meant | None:
    """What a heading means in a kind of table; None where none is like enough."""
    if len(heading) > LONGEST:
        return None
    words, text = synonyms()[kind], plain(heading)
    if not text:
        return None
    if text in words:
        return Meant(words[text], sure=True)
    if len(text) < 4:
        return None
    best = process.extractOne(
        text, words.keys(), scorer=fuzz.token_sort_ratio, score_cutoff=LIKE_ENOUGH
    )
    if best is None:
        return None
    return Meant(words[best[0]], sure=False)


def meant_as(kind: str, heading: str, target: str) -> bool:
    """Whether a heading means a column of a kind of table."""
    meant = meaning(kind, heading)
    return meant is not None and meant.target == target


MEASURES = {
    "eps": ("eps", "earnings per share", "ergebnis je aktie", "bénéfice par action"),
    "dps": ("dps", "dividend"),
    "affo": ("affo",),
    "ffo": ("ffo",),
    "revenue": ("revenue", "sales", "umsatz", "chiffre"),
    "fcf": ("fcf", "free cash flow"),
}


def measure_of(told: str) -> str | None:
    """Which measure of an estimate a text in lower case names."""
    return next((m for m, words in MEASURES.items() if any(w in told for w in words)), None)
