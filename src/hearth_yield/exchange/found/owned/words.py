"""What people and institutions call the kinds of entries. The words are data (kinds.json)."""

from __future__ import annotations

import json
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache, lru_cache
from importlib import resources

from hearth_yield.core.household.kinds import KINDS

from ..headings import plain

LONGEST = 300
"""Characters of a text that are looked at."""
SKIPPED = ("balance", "derivative", "split", "conversion", "within")
"""Kinds of rows that are no entries: sums and balances, options and shorts, splits (which are the
payer's), exchanges of shares, and moves inside an account."""
SIGNS = ("credit", "debit")
LEADING = ("derivative", "reinvestment", "return_of_capital", "split", "conversion")
"""Kinds that count wherever they are said; of the others the first that is."""
SHORT = 3
LONGEST_SUM = 40
_BACK = re.compile(
    r"\b(?:revers\w*|cancel\w*|storn\w*|correct\w*|annul\w*|void|undo\w*|korrektur|rettifica|refund\w*|reclaim\w*|erstatt\w*)\b",
    re.IGNORECASE,
)


@dataclass(frozen=True, slots=True)
class Called:
    """kind: of an entry, one of SKIPPED, or of SIGNS. back: it takes another one back. inward: of
    a transfer, whether it comes in, where it says so."""

    kind: str
    back: bool = False
    inward: bool | None = None


@cache
def _words() -> tuple[Mapping[str, str], Sequence[tuple[str, re.Pattern[str]]]]:
    """By whole texts, and by what stands within one, in the order in which they are looked for."""
    held = json.loads(resources.files(__package__).joinpath("kinds.json").read_text("utf-8"))
    whole: dict[str, str] = {}
    for k in KINDS.values():
        whole |= dict.fromkeys((k.kind.value.replace("_", " "), k.name.lower(), k.did), k.kind)
    within = []
    for kind, words in held.items():
        whole |= {w.strip("*"): kind for w in words["whole"]}
        parts = map(_pattern, sorted(words["within"], key=len, reverse=True))
        within.append((kind, re.compile("|".join(parts) or r"(?!)", re.IGNORECASE)))
    return whole, within


def _pattern(word: str) -> str:
    """A star stands for the rest of a word."""
    left = "" if word.startswith("*") else r"(?<!\w)"
    right = r"\w*" if word.endswith("*") else r"(?!\w)"
    return left + re.escape(word.strip("*")) + right


@lru_cache(maxsize=20_000)
def kind_called(text: str) -> Called | None:
    """What a text says that an entry is; None where it says nothing that is known."""
    return _called(without_numbers(text[:LONGEST]))


def without_numbers(text: str) -> str:
    """A text without words that have a digit, where others are left: many differ in those alone."""
    left = " ".join(w for w in text.split() if not any(map(str.isdigit, w)))
    return left if len(left) > SHORT else text


@lru_cache(maxsize=20_000)
def _called(text: str) -> Called | None:
    folded = plain(text.replace("/", " ").replace("_", " "))
    if not folded:
        return None
    whole, within = _words()
    back = _BACK.search(folded) is not None
    folded = " ".join(_BACK.sub(" ", folded).split())
    if folded in whole:
        return Called(whole[folded], back, _inward(folded))
    said = [(at, kind) for kind, pattern in within if (at := pattern.search(folded))]
    if not said:
        return None
    leading = [kind for _, kind in said if kind in LEADING]
    _, first = min(said, key=lambda x: (x[0].start(), -len(x[0][0])))
    return Called(leading[0] if leading else first, back, _inward(folded))


_IN = re.compile(r"\b(?:in|into|from|incoming|eingang|entrada|entrée|receive\w*|received)\b")
_OUT = re.compile(r"\b(?:out|to|outgoing|ausgang|salida|sortie|deliver\w*)\b")


def _inward(folded: str) -> bool | None:
    told = bool(_IN.search(folded)), bool(_OUT.search(folded))
    return told[0] if told[0] != told[1] else None


@lru_cache(maxsize=20_000)
def is_sum(text: str) -> bool:
    """Whether a text says by itself that its row is a sum or a balance."""
    called = kind_called(text) if len(text) < LONGEST_SUM else None
    return called is not None and called.kind == "balance"


def without_kinds(text: str) -> str:
    """A text without the words that say a kind: what is left may name a payer."""
    _, within = _words()
    left = _BACK.sub(" ", text[:LONGEST])
    for _, pattern in within:
        left = pattern.sub(" ", left)
    return " ".join(left.split())
