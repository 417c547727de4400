"""Dates and periods as people write them: in several languages, orders and shortenings."""

from __future__ import annotations

import calendar
import re
from collections.abc import Hashable, Iterable
from dataclasses import dataclass, replace
from datetime import date, timedelta
from functools import cache, lru_cache
from itertools import pairwise
from typing import NamedTuple

from babel import Locale

from hearth_yield.core.facts.statements import Span

LONGEST = 80
"""Characters of a day or a period; a longer text is none."""
LOCALES = ("en", "de", "fr", "es", "it", "nl", "pt", "sv", "da", "fi", "pl")
_TIME = re.compile(r"[T ]\d{1,2}:\d{2}(:\d{2}(\.\d+)?)?(Z|[+-]\d\d:?\d\d)?$")
_NUMERIC = re.compile(r"(\d{1,4})([./-])(\d{1,2})\2(\d{1,4})\.?")
_COMPACT = re.compile(r"(\d{4})(\d{2})(\d{2})")
_MONTH = re.compile(r"(\d{4})[-/M](\d{1,2})|(\d{1,2})[-/.](\d{4})")
_WEEK = re.compile(r"(\d{4})-?W(\d{2})(?:-?(\d))?", re.IGNORECASE)
_MONTH_YEAR = re.compile(r"^[^\W\d_]+\.?[-'’]\d{2}$")
_WORDS = re.compile(r"[^\W\d_]+\.?|\d+")


class Order(NamedTuple):
    """day_first: 03/04 is 3 April. asked: no date says so, and some could be read both ways."""

    day_first: bool
    asked: bool = False


@dataclass(frozen=True, slots=True)
class Period:
    """What a column of a statement covers. estimated: it is expected, not reported. dated: only its
    last day is told, so that the span is for others to say; named: only the fiscal year is, so that
    the day is."""

    end: date
    span: Span
    estimated: bool = False
    dated: bool = False
    named: bool = False


@cache
def months() -> dict[str, int]:
    """Month names and their shortenings, without dots, in lower case."""
    found: dict[str, int] = {}
    for code in LOCALES:
        names = Locale.parse(code).months
        for context in ("format", "stand-alone"):
            for width in ("wide", "abbreviated"):
                for number, name in names[context][width].items():
                    found.setdefault(name.lower().rstrip("."), number)
    return found | {"sept": 9, "mrz": 3, "okt": 10, "dez": 12, "mai": 5}


def order_of(texts: Iterable[str]) -> Order:
    """From the dates of a whole sheet: a part above 12 decides for all."""
    marks = {_order_mark(text) for text in texts if not text.isdigit()}
    first, second = "first" in marks, "second" in marks
    if first != second:
        return Order(day_first=first)
    return Order(day_first=True, asked="either" in marks or (first and second))


@lru_cache(maxsize=50_000)
def _order_mark(text: str) -> str:
    """Which part of a date must be the day; empty for what is no date, or says nothing."""
    if ":" in text:
        text = _TIME.sub("", text)
    found = len(text) <= LONGEST and _NUMERIC.fullmatch(text.strip())
    if not found or len(found[1]) > 2:
        return ""
    a, b = int(found[1]), int(found[3])
    if found[2] == "." or a > 12:
        return "first"
    if b > 12:
        return "second"
    return "either" if a != b else ""


@lru_cache(maxsize=50_000)
def date_of(cell: Hashable, order: Order) -> date | None:
    """A cell as a day; None where it is none."""
    if isinstance(cell, date):
        return cell
    if isinstance(cell, float):
        return _serial(cell)
    if len(str(cell)) > LONGEST:
        return None
    text = str(cell).strip()
    if ":" in text:
        text = _TIME.sub("", text)
    return _numeric(text, order) or _week(text) or _spelt(text)


EPOCHS = {
    "serial": (date(1899, 12, 30), 1, 20_000, 80_000),
    "unix": (date(1970, 1, 1), 86_400, 10**8, 4 * 10**9),
}
"""By count: the day it begins with, its steps a day, and the numbers that are taken for one."""


def numbered_day(cell: Hashable, kind: str) -> date | None:
    """A day that is written as the number a program counts it by; None for any other number."""
    text = f"{cell:.0f}" if isinstance(cell, float) and cell.is_integer() else str(cell)
    if not text.isascii() or not text.isdecimal() or len(text) > 12:
        return None
    first, steps, low, high = EPOCHS[kind]
    number = int(text)
    return first + timedelta(days=number // steps) if low <= number <= high else None


def _serial(value: float) -> date | None:
    """20260630 as a number; other numbers are no dates."""
    whole = f"{value:.0f}" if value == int(value) else ""
    return _compact(whole)


def _compact(text: str) -> date | None:
    found = _COMPACT.fullmatch(text)
    return _day(int(found[1]), int(found[2]), int(found[3])) if found else None


def _numeric(text: str, order: Order) -> date | None:
    found = _NUMERIC.fullmatch(text)
    if not found:
        return _compact(text) or _month(text)
    a, b, c = found[1], found[3], found[4]
    if len(a) == 4:
        return _day(int(a), int(b), int(c))
    if len(a) > 2:
        return None
    year = _year(c)
    if year is None:
        return None
    day_first = order.day_first or found[2] == "."
    day, month = (int(a), int(b)) if day_first else (int(b), int(a))
    return _day(year, month, day)


def _month(text: str) -> date | None:
    """ "2010-01", "01/2010", "2010M01": the last day of the month."""
    found = _MONTH.fullmatch(text)
    if not found:
        return None
    year, month = int(found[1] or found[4]), int(found[2] or found[3])
    return _day(year, month, calendar.monthrange(year, month)[1]) if 1 <= month <= 12 else None


def _week(text: str) -> date | None:
    """The Friday of an ISO week, or the day of it that is told."""
    found = _WEEK.fullmatch(text)
    if not found:
        return None
    try:
        return date.fromisocalendar(int(found[1]), int(found[2]), int(found[3] or 5))
    except ValueError:
        return None


def _spelt(text: str) -> date | None:
    """ "June 30, 2026", "30. Juni 2026", "30-Jun-26"; a month and a year are its last day."""
    words = _WORDS.findall(text)
    if not 2 <= len(words) <= 4:
        return None
    names = [months().get(w.lower().rstrip(".")) for w in words if not w.isdigit()]
    numbers = [w for w in words if w.isdigit()]
    if len([n for n in names if n]) != 1 or len(names) > 2:
        return None
    month = next(n for n in names if n)
    if len(numbers) == 1:
        # "30 June" is a day without a year; "Jun-26" and "June 2026" are months.
        if len(numbers[0]) != 4 and not _MONTH_YEAR.search(text):
            return None
        year = _year(numbers[0])
        return _day(year, month, calendar.monthrange(year, month)[1]) if year else None
    if len(numbers) != 2:
        return None
    a, b = numbers
    day, told = (b, a) if len(a) == 4 else (a, b)
    year = _year(told)
    return _day(year, month, int(day)) if year and len(day) <= 2 else None


def _year(text: str) -> int | None:
    if len(text) == 4:
        return int(text)
    return (
        2000 + int(text)
        if len(text) == 2 and int(text) < 70
        else (1900 + int(text) if len(text) == 2 else None)
    )


def _day(year: int, month: int, day: int) -> date | None:
    try:
        return date(year, month, day) if 1800 <= year <= 2199 else None
    except ValueError:
        return None


_FISCAL = re.compile(
    r"(?:FY|CY|GJ|Year|Jahr|Exercice|Fiscal(?: year)?)?\s*['’]?(\d{4}|\d{2})\s*"
    r"(A|E|F|P|e|est\.?|\(e\)|estimate|actual)?",
    re.IGNORECASE,
)
_QUARTER = re.compile(
    r"(?:Q([1-4])|([1-4])Q)\s*(?:FY)?\s*['’/-]?\s*(\d{4}|\d{2})\s*(A|E)?", re.IGNORECASE
)
_HALF = re.compile(
    r"(?:H([12])|([12])H)\s*(?:FY)?\s*['’/-]?\s*(\d{4}|\d{2})\s*(A|E)?", re.IGNORECASE
)
_YEAR_FIRST = re.compile(r"(\d{4})\s*[-/ ]?\s*(?:Q([1-4])|H([12]))\s*(A|E)?", re.IGNORECASE)
EXPECTED = frozenset({"E", "F", "P", "EST", "EST.", "(E)", "ESTIMATE"})


@lru_cache(maxsize=20_000)
def period_of(cell: Hashable, order: Order, year_ends: int = 12) -> Period | None:
    """What a heading of a statement's column covers; None where it is no period.

    year_ends: the month that fiscal years end in. A bare day is the end of a year, or of a quarter
    where the sheet says so elsewhere.
    """
    if isinstance(cell, date):
        return Period(cell, Span.YEAR, dated=True)
    if len(str(cell)) > LONGEST:
        return None
    text = (
        f"{cell:.0f}" if isinstance(cell, float) and cell == int(cell) else bare_period(str(cell))
    )
    covered = _COVERED.match(text)
    if covered:
        return _covered(text[covered.end() :], covered, order)
    quarter = _QUARTER.fullmatch(text)
    if quarter:
        year = _year(quarter[3])
        part = int(quarter[1] or quarter[2])
        return _part(year, part, 4, year_ends, quarter[4], Span.QUARTER)
    half = _HALF.fullmatch(text)
    if half:
        year = _year(half[3])
        return _part(year, int(half[1] or half[2]), 2, year_ends, half[4], Span.HALF)
    turned = _YEAR_FIRST.fullmatch(text)
    if turned:
        span, parts = (Span.QUARTER, 4) if turned[2] else (Span.HALF, 2)
        number = int(turned[2] or turned[3])
        return _part(int(turned[1]), number, parts, year_ends, turned[4], span)
    fiscal = _FISCAL.fullmatch(text)
    if fiscal:
        year = _year(fiscal[1])
        if year is None or not 1900 <= year <= 2199 or (len(fiscal[1]) == 2 and text == fiscal[1]):
            return None
        return _part(year, 1, 1, year_ends, fiscal[2], Span.YEAR)
    crossed = _CROSSED.fullmatch(text)
    if crossed and (_year(crossed[2]) or 0) == int(crossed[1]) + 1:
        return _part(int(crossed[1]) + 1, 1, 1, year_ends, crossed[3], Span.YEAR)
    day = date_of(text, order) if not isinstance(cell, float) else None
    return Period(day, Span.YEAR, dated=True) if day else None


_MARKS = re.compile(
    r"(?<![\s*†‡¹²³])\s*(?:[*†‡¹²³]+|\((?:restated|audited|unaudited|reported|rep\.|adj\.|angepasst|retraité|a)\)"
    r"|restated|audited|unaudited|\(?\d\)|\[\w{1,2}\])$",
    re.IGNORECASE,
)
_COVERED = re.compile(
    r"(?:(?:for )?the )?(?:(fiscal )?(years?)|(six|6) months?|(three|3) months?|(twelve|12) months?"
    r"|(half[- ]year)|(quarter))\s*(?:ended|ending|to|end)\s*:?\s*",
    re.IGNORECASE,
)
_CROSSED = re.compile(r"(?:FY|GJ)?\s*(\d{4})\s*[/–-]\s*(\d{4}|\d{2})\s*(A|E)?", re.IGNORECASE)


def bare_period(text: str) -> str:
    """A heading without the marks that lead to a note."""
    text = text.strip()
    while (shorter := _MARKS.sub("", text).strip()) != text and shorter:
        text = shorter
    return text


def _covered(told: str, by: re.Match[str], order: Order) -> Period | None:
    """ "Year ended 30 June 2025"."""
    day = date_of(told, order)
    span = Span.HALF if by[3] or by[6] else Span.QUARTER if by[4] or by[7] else Span.YEAR
    return Period(day, span) if day else None


def _part(
    year: int | None, part: int, parts: int, year_ends: int, mark: str | None, span: Span
) -> Period | None:
    """The end of one part of a fiscal year."""
    if year is None:
        return None
    months_back = 12 - 12 * part // parts
    month = year_ends - months_back
    at = year if month >= 1 else year - 1
    month = month if month >= 1 else month + 12
    end = date(at, month, calendar.monthrange(at, month)[1])
    expected = mark is not None and mark.upper() in EXPECTED
    return Period(end, span, expected, named=True)


def later_by_a_year(period: Period) -> Period:
    """The same period where a fiscal year bears the name of the year it begins in."""
    year, month = period.end.year + 1, period.end.month
    return replace(period, end=date(year, month, calendar.monthrange(year, month)[1]))


def spans_by_their_distance(ends: Iterable[date]) -> Span | None:
    """What columns cover of which only the last days are told: the distance between them says.
    Half a year apart could be either; None."""
    days = sorted(set(ends))
    gaps = [(b - a).days for a, b in pairwise(days)]
    if not gaps or min(gaps) > 200:
        return Span.YEAR
    return Span.QUARTER if min(gaps) <= 100 else None
