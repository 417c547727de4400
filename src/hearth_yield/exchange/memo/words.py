"""Values and days as a memo writes them."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date
from typing import Any

MILLION = 1e6
SPACE = "\u00a0"
"""Keeps a number and what it counts on one line."""
DIGITS = {"fraction": 1, "yield": 2, "multiple": 1, "money": 1, "per_share": 2, "shares": 1}


def number(value: float, digits: int = 0) -> str:
    """With a true minus: 1,234.5"""
    text = f"{abs(value):,.{digits}f}"
    return f"−{text}" if value < 0 and float(text.replace(",", "")) != 0 else text


def show(value: float, unit: str, currency: str | None = None) -> str:
    """In the unit's own form: 4.20 %, 3.1×, 57.10 TLL, 12.3 m TLL."""
    digits = DIGITS.get(unit, 0)
    match unit:
        case "fraction" | "yield":
            return f"{number(value * 100, digits)}{SPACE}%"
        case "multiple":
            return f"{number(value, digits)}×"
        case "money":
            return f"{number(value / MILLION, digits)}{SPACE}m{SPACE}{currency or ''}".strip()
        case "shares":
            return f"{number(value / MILLION, digits)}{SPACE}m"
        case "per_share":
            return f"{number(value, digits)}{SPACE}{currency or ''}".strip()
        case "years" | "weeks":
            one = unit.removesuffix("s")
            return f"{number(value)}{SPACE}{one if value == 1 else unit}"
    return number(value, digits)


def told(kept: Mapping[str, Any]) -> str:
    """A kept value, or why there is none."""
    if kept["value"] is None:
        return f"unknown ({kept['reason']})" if kept.get("reason") else "unknown"
    return show(kept["value"], kept["unit"], kept.get("currency"))


def sentence(parts: list[Any]) -> str:
    """Kept parts of a sentence, as words."""
    text = "".join(_part(p) for p in parts).strip()
    return text[:1].upper() + text[1:]


def _part(part: Any) -> str:
    match part:
        case str():
            return part
        case {"day": str(iso)}:
            return day(iso)
    return told(part)


def day(iso: str | date) -> str:
    """7 July 2026"""
    d = date.fromisoformat(iso) if isinstance(iso, str) else iso
    return f"{d.day} {d:%B %Y}"
