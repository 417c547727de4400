"""Whether sentences say what their figures say: the sign of a verb, the side of a limit, singular
and plural, nothing moved by 0.0 %, nothing changed from a number to the same number.

A sentence is a list of parts, as the API answers it; it is read as the page shows it.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from typing import Any

Part = Mapping[str, Any]

MINUS = "\u2212"
UP = "rose|grew|grows|raised|up|above|over|higher"
DOWN = "fell|falls|cut|down|below|under|lower|short"
NOUNS = "year|payment|raise|week|day|month|test|payer|line|analyst|point|slump|quarter|time"
BEFORE = re.compile(rf"\b(?:(?P<up>{UP})|(?P<down>{DOWN}))(?: by)? $")
AFTER = re.compile(rf" (?:points )?(?:(?P<up>{UP})|(?P<down>{DOWN}))\b(?! $| \d| ten\b| five\b)")
NIL = re.compile(rf"{MINUS}?0(\.0+)?( %|×| m| years?| weeks?)?")
FAULTS = {
    "one of many": rf"(?<![\d.,{MINUS}])1 (?:{NOUNS})s\b",
    "many of one": rf"(?<![\d.])(?:[2-9]|[1-9]\d+|\d+\.\d+) (?:{NOUNS})\b(?!-| of|ly)",
    "no words": r"\b(?:None|nan|inf|null|undefined|True|False)\b",
    "a change between equal numbers": r"\bfrom (\S+(?: [%A-Z]+)?) to \1(?![\d.])",
    "marks": r"  | [,;.](?!\d)|\.\.|,,|;;|,\.",
}
DIGITS = {"fraction": 1, "yield": 2, "multiple": 1, "money": 1, "per_share": 2, "index": 1}
PERCENT = ("fraction", "yield")


def number(value: float, digits: int) -> str:
    text = f"{abs(value):,.{digits}f}"
    return MINUS + text if value < 0 and re.search("[1-9]", text) else text


def shown(value: float, unit: str, size: bool = False) -> str:
    """As `show` of web/src/format/format.ts has it within a sentence."""
    value = abs(value) if size else value
    whole = unit == "fraction" and abs(value) >= 0.0995
    digits = 0 if whole else DIGITS.get(unit, 0)
    if unit in PERCENT:
        return f"{number(value * 100, digits)} %"
    if unit in ("money", "shares"):
        return f"{number(value / 1e6, 1)} m"
    if unit in ("years", "weeks"):
        return f"{number(value, 0)} {unit if value != 1 else unit[:-1]}"
    return number(value, digits) + ("×" if unit == "multiple" else "")


def is_sentence(found: Any) -> bool:
    return (
        isinstance(found, list)
        and bool(found)
        and all(isinstance(p, dict) and bool(set(p) & {"text", "figure"}) for p in found)
        and all(set(p) <= {"text", "day", "figure", "size"} for p in found)
    )


def sentences(answer: Any, at: str = "") -> Iterator[tuple[str, str | Sequence[Part]]]:
    """Where each stands, and its parts; a text of several words is one by itself."""
    if isinstance(answer, str):
        if " " in answer:
            yield at, answer
    elif is_sentence(answer):
        yield at, answer
    elif isinstance(answer, list):
        for one in answer:
            yield from sentences(one, at)
    elif isinstance(answer, dict):
        for name, one in answer.items():
            yield from sentences(one, f"{at}.{name}")


def figure_of(part: Part) -> tuple[float | None, str, str]:
    """Value, unit, and what stands where the value is unknown; no unit where it is no figure."""
    figure = part.get("figure")
    if not figure:
        return None, "", ""
    return (
        figure["value"],
        figure["unit"],
        (figure.get("breach") or figure.get("spared") or "unknown"),
    )


def read(parts: Sequence[Part]) -> str:
    out = []
    for part in parts:
        value, unit, otherwise = figure_of(part)
        said = shown(value, unit, part.get("size", False)) if value is not None else otherwise
        out.append(part.get("text") or part.get("day") or said)
    return "".join(out)


def _against(parts: Sequence[Part], n: int) -> Iterator[str]:
    """What a figure says that the words around it do not."""
    value, unit, _ = figure_of(parts[n])
    if value is None or not unit:
        return
    size = parts[n].get("size", False)
    text = shown(value, unit, size)
    after = parts[n + 1] if n + 1 < len(parts) else {}
    before = BEFORE.search(read(parts[:n]))
    behind = AFTER.match(after.get("text") or "")
    for found in (before, behind):
        if found is None:
            continue
        if NIL.fullmatch(text):
            yield "moved by nothing"
        if size and (value < 0 if found["up"] else value > 0):
            yield "a sign against its words"
    if (before or (behind and unit in PERCENT)) and text.startswith(MINUS):
        yield "a minus after its words"


def faults(said: str | Sequence[Part]) -> list[str]:
    """What is false or badly said of a sentence, by name."""
    found = (
        [] if isinstance(said, str) else [f for n in range(len(said)) for f in _against(said, n)]
    )
    text = said if isinstance(said, str) else read(said)
    wrong = {n: p for n, p in FAULTS.items() if n != "marks" or not isinstance(said, str)}
    return found + [name for name, pattern in wrong.items() if re.search(pattern, text)]


def faults_in(answer: Any) -> list[tuple[str, str, list[str]]]:
    """Where in an answer, what is said there, and what is wrong with it."""
    return [
        (at, said if isinstance(said, str) else read(said), wrong)
        for at, said in sentences(answer)
        if (wrong := faults(said))
    ]
