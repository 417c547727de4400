"""Whether a backup's rows mean what they must: each cell within the bounds a file is read with,
each piece of JSON in a shape that a page can show. Types are the store's to check."""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Collection, Mapping, Sequence
from datetime import date, datetime
from decimal import Decimal
from functools import cache
from types import NoneType
from typing import Any

import msgspec

from hearth_yield.core.cover.bases import Basis
from hearth_yield.core.errors import InvalidInput
from hearth_yield.core.expecting.expectation import Side, Way
from hearth_yield.core.facts.columns import FIRST_DAY, LAST_DAY, Column, Type
from hearth_yield.core.facts.tables import TABLES
from hearth_yield.core.figures.figure import Unit
from hearth_yield.core.finding.catalogue import CHOICES
from hearth_yield.core.household.entries import Account, Entry
from hearth_yield.core.household.kinds import MOST_NAME, check_entry
from hearth_yield.core.judging.judge import State
from hearth_yield.core.names import NUMBERS
from hearth_yield.core.question import read_question
from hearth_yield.core.range.multiples import QUANTITIES
from hearth_yield.core.stages import MEASURES, STAGES
from hearth_yield.core.worth.declare import Choices
from hearth_yield.exchange.cells import MAX_CELL
from hearth_yield.rows import Rows
from hearth_yield.store import ledger
from hearth_yield.store.edits import EXCLUDED, EXCLUDED_ON
from hearth_yield.store.fact_rows import OF_A_PAYER
from hearth_yield.store.facts import FACT_TABLES
from hearth_yield.store.house_rules import from_body
from hearth_yield.store.types import IsoDate
from hearth_yield.texts import is_plain

from .draw_lines import MAX_PRICE
from .edit_facts import EDITABLE
from .set_house_rules import check_house_rules

Row = Mapping[str, Any]
MOST_REVISIONS = 2**53
_CURRENCY = re.compile(r"[A-Z]{3}")


Fits = Callable[[Any], bool]


def check_rows(store: str, rows: Rows, first: int = 1) -> None:
    """Some rows of a table, the first of which has this number. Raises InvalidInput naming the
    first row and cell that cannot be."""
    for name, fits in _cells_of(store).items():
        values = rows.column(name) if name in rows.names else []
        if not all(map(fits, _each_once(values))):
            at = next(n for n, value in enumerate(values) if not fits(value))
            raise _cannot_be(first + at, store, name, rows[at])
    whole = _WHOLE.get(store)
    for number, row in enumerate(rows if whole else (), first):
        wrong = whole(row) if whole else None
        if wrong is not None:
            raise _cannot_be(number, store, wrong, row)


def _each_once(values: Sequence[Any]) -> Collection[Any]:
    """Days, names and numbers of one kind, which repeat, are looked at once."""
    kinds = {*map(type, values)} - {NoneType}
    return set(values) if len(kinds) == 1 and kinds <= {str, date, float, int} else values


@cache
def _cells_of(store: str) -> Mapping[str, Fits]:
    """What may stand in each column of a table of the store."""
    table = next((table for table in TABLES.values() if table.held == store), None)
    if table is None:
        return _OTHERS.get(store, {})
    return {c.name: _cell(c) for c in table.stored}


def _cannot_be(number: int, store: str, column: str, row: Row) -> InvalidInput:
    return InvalidInput(
        f"row {number} of {store} cannot be: {column}",
        field=f"{store}.{column}",
        value=str(row[column])[:120],
        rule="a value as Hearth Yield writes it",
    )


def _cell(column: Column) -> Fits:
    """Whether a value may stand in a column of a file's table."""
    held = column.required or column.default is not None

    def fits(value: Any) -> bool:
        if value is None or (value == "" and not held):
            return not held
        match column.type:
            case Type.NUMBER | Type.INTEGER:
                # A negative cost was taken before the columns refused it.
                size = abs(value) if column.scaled else value
                return column.refuses(size) is None
            case Type.EXACT:
                return column.refuses(Decimal(value)) is None
            case Type.DATE:
                return _day(value)
            case Type.CHOICE:
                return value in column.choices
            case Type.CURRENCY:
                return _CURRENCY.fullmatch(value) is not None
        return (
            len(value) <= MAX_CELL
            and is_plain(value)
            and column.fits(value)
            and bool(value.strip())
        )

    return fits


def _day(value: date) -> bool:
    return FIRST_DAY <= value <= LAST_DAY


def _text(value: str) -> bool:
    return len(value) <= 20_000 and is_plain(value)


def _name(value: str) -> bool:
    return bool(value.strip()) and _text(value)


def _moment(value: str) -> bool:
    try:
        return _day(datetime.fromisoformat(value).date())
    except ValueError:
        return False


def _count(value: int) -> bool:
    return 0 <= value < MOST_REVISIONS


def _or_none(fits: Fits) -> Fits:
    return lambda value: value is None or fits(value)


def _number(value: object) -> bool:
    return type(value) in (int, float) and math.isfinite(float(str(value)))


def _price(value: object) -> bool:
    return _number(value) and 0 < float(str(value)) <= MAX_PRICE


def _key(value: object) -> bool:
    return isinstance(value, dict) and all(isinstance(v, str | int) for v in value.values())


def _row_before(value: object) -> bool:
    plain = (str, int, float, type(None))
    return isinstance(value, dict) and all(isinstance(v, plain) for v in value.values())


def _edit(row: Row) -> str | None:
    """The column in which an edit names nothing that can be edited: a field of its table, by the
    whole key of a row there."""
    table, field = row["table_name"], row["field"]
    aside = field.startswith(EXCLUDED_ON)
    if aside:
        known = table == "statements" and field.removeprefix(EXCLUDED_ON) in {
            b.value for b in Basis
        }
    else:
        known = table in OF_A_PAYER and field in (EXCLUDED, *EDITABLE.get(table, ()))
    if not known:
        return "field"
    held, key = FACT_TABLES[table], row["row_key"]
    names = [n for n in held.key[1:] if not (aside and n == "published_on")]
    dated = [n for n in names if isinstance(held.table.c[n].type, IsoDate)]
    whole = isinstance(key, dict) and list(key) == names and set(map(type, key.values())) <= {str}
    return None if whole and all(_iso(key[n]) for n in dated) else "row_key"


class _AnyAccount(dict[int, Account]):
    """Every account there could be: which there are the store looks to."""

    def __missing__(self, id: int) -> Account:
        return Account(id=id, name="any", currency="XXX")

    def get(self, id: int, default: Any = None) -> Any:
        return self[id]

    def __contains__(self, id: object) -> bool:
        return True


def _entry(row: Row) -> str | None:
    """The column in which an entry says what none can, or cannot be read."""
    try:
        made = ledger.entry_of([row[c.name] for c in ledger.row_columns()])
        check_entry(made, _AnyAccount(), LAST_DAY)
    except InvalidInput as error:
        return error.field if error.field in row else "kind"
    except (KeyError, TypeError, ValueError, ArithmeticError):
        return "chosen"
    return None


def _former(value: object) -> bool:
    try:
        made = msgspec.convert(value, Entry)
        check_entry(made, _AnyAccount(), LAST_DAY)
    except (msgspec.ValidationError, InvalidInput, ArithmeticError):
        return False
    return True


_WHOLE: Mapping[str, Callable[[Row], str | None]] = {"edit": _edit, "entry": _entry}


def _is_currency(text: str) -> bool:
    return _CURRENCY.fullmatch(text) is not None


def _iso(text: str) -> bool:
    try:
        return _day(date.fromisoformat(text))
    except ValueError:
        return False


def _frozen(value: object) -> bool:
    units = {u.value for u in Unit}
    return isinstance(value, dict) and all(
        isinstance(f, dict)
        and isinstance(f.get("label"), str)
        and f.get("unit") in units
        and (f.get("value") is None or _number(f["value"]))
        and isinstance(f.get("reason"), str | None)
        for f in value.values()
    )


def _question(value: object) -> bool:
    if not isinstance(value, dict) or not all(isinstance(v, str) for v in value.values()):
        return False
    try:
        read_question(value)
    except InvalidInput:
        return False
    return True


def _strain(value: object) -> bool:
    return _question(value) and read_question(value).strain is not None  # type: ignore[arg-type]


def _case(value: object) -> bool:
    return _question(value) and read_question(value).choices != Choices()  # type: ignore[arg-type]


def _named(question: Fits) -> dict[str, Fits]:
    """What a kept question holds."""
    return {
        "exchange": _name,
        "symbol": _name,
        "name": _name,
        "question": question,
        "kept_at": _moment,
    }


def _strains(value: object) -> bool:
    """What kept strains said when a decision was made."""
    texts, numbers = ("words", "state", "first", "refused"), ("gives_at", "uncovered_at")
    return isinstance(value, list) and all(
        isinstance(s, dict)
        and isinstance(s.get("name"), str)
        and _strain(s.get("question"))
        and all(isinstance(s.get(n), str | None) for n in texts)
        and all(s.get(n) is None or _number(s[n]) for n in numbers)
        and s.keys() <= {"name", "question", *texts, *numbers}
        for s in value
    )


def _expectations(value: object) -> bool:
    """What was expected when a decision was made."""
    return isinstance(value, list) and all(
        isinstance(e, dict)
        and e.get("measure") in MEASURES
        and e.get("way") in {w.value for w in Way}
        and e.get("side") in {s.value for s in Side}
        and _number(e.get("value"))
        and isinstance(e.get("until"), str)
        and _iso(e["until"])
        and (e.get("then") is None or _number(e["then"]))
        and e.keys() <= {"measure", "way", "side", "value", "until", "then"}
        for e in value
    )


def _words_by_stage(value: object) -> bool:
    return isinstance(value, dict) and all(
        k in {s.value for s in STAGES} and isinstance(v, str) for k, v in value.items()
    )


def _rules(value: object) -> bool:
    if not isinstance(value, dict):
        return False
    try:
        check_house_rules(from_body(value))
    except (InvalidInput, LookupError, TypeError, ValueError, AttributeError):
        return False
    return True


def _saved(value: object) -> bool:
    """A set of columns, or a search."""
    if not isinstance(value, dict):
        return False
    columns = value.get("columns")
    if columns is not None:
        return (
            bool(columns) and isinstance(columns, list) and all(isinstance(c, str) for c in columns)
        )
    return (
        isinstance(value.get("q"), str)
        and isinstance(value.get("sort"), str)
        and isinstance(value.get("descending"), bool)
        and isinstance(value.get("delisted", False), bool)
        and _group(value.get("where"), 0)
    )


MOST_DEEP = 20
_OPS = {"at_least", "at_most", "is", "is_not", "known", "unknown"}


def _group(part: object, depth: int) -> bool:
    if not isinstance(part, dict) or depth > MOST_DEEP:
        return False
    if "join" in part:
        parts = part.get("parts")
        return (
            part["join"] in ("all", "any")
            and isinstance(parts, list)
            and all(_group(p, depth + 1) for p in parts)
        )
    words = part.get("words", [])
    return (
        part.get("op") in _OPS
        and (part.get("id") in NUMBERS or part.get("id") in CHOICES)
        and (part.get("value") is None or _number(part["value"]))
        and isinstance(words, list)
        and all(isinstance(w, str) for w in words)
    )


_OTHERS: dict[str, dict[str, Fits]] = {
    "product_state": {
        "revision": _count,
        "kept_revision": _count,
        "pinned_today": _or_none(_day),
        "ledger": _count,
        "home": _or_none(_is_currency),
    },
    "account": {
        "name": lambda v: 0 < len(v) <= MOST_NAME and is_plain(v),
        "currency": _is_currency,
        "entered_from": _or_none(_day),
        "closed_on": _or_none(_day),
        "made_at": _moment,
        "deleted_at": _or_none(_moment),
    },
    "entry": {
        "day": _day,
        "bought": _or_none(_day),
        "currency": _is_currency,
        "note": lambda v: len(v) <= MAX_CELL and is_plain(v),
        "reference": _or_none(_text),
        "made_at": _moment,
        "deleted_at": _or_none(_moment),
    },
    "entered_since": {"day": _day},
    "explained_payment": {
        "exchange": lambda v: isinstance(v, str) and is_plain(v),
        "symbol": _name,
        "ex_date": _day,
        "words": _name,
        "made_at": _moment,
    },
    "former_entry": {"said": _former, "until": _moment},
    "source": {
        "file_name": _name,
        "sha256": _or_none(_text),
        "added_at": _moment,
        "rows_added": _count,
        "rows_changed": _count,
        "undone_at": _or_none(_moment),
    },
    "source_change": {
        "table_name": lambda v: v in FACT_TABLES,
        "row_key": _key,
        "before": _row_before,
    },
    "source_warning": {
        "file": _text,
        "line": _or_none(_count),
        "column": _or_none(_text),
        "value": _or_none(_text),
        "expected": _text,
    },
    "edit": {
        "exchange": _name,
        "symbol": _name,
        "reason": _name,
        "made_at": _moment,
        "withdrawn_at": _or_none(_moment),
        "value": _number,
        "original": _or_none(_number),
    },
    "house_rules": {"made_at": _moment, "body": _rules, "note": _text},
    "saved_view": {"name": _name, "body": _saved},
    "decision": {
        "exchange": _name,
        "symbol": _name,
        "as_of": _day,
        "recorded_at": _moment,
        "words": _name,
        "currency": lambda v: _CURRENCY.fullmatch(v) is not None,
        "state": _or_none(lambda v: v in {s.value for s in State}),
        "first_to_give": _or_none(_text),
        "frozen": _frozen,
        "intention": _or_none(_text),
        "question": _question,
        "strains": _strains,
        "expectations": _expectations,
        "disagreements": _words_by_stage,
    },
    "disagreement": {
        "exchange": _name,
        "symbol": _name,
        "stage": lambda v: v in {s.value for s in STAGES},
        "words": _name,
        "made_at": _moment,
    },
    "price_line": {
        "exchange": _name,
        "symbol": _name,
        "name": _text,
        "first_day": _day,
        "first_price": _price,
        "last_day": _day,
        "last_price": _price,
        "drawn_on": _day,
    },
    "entry_step": {
        "exchange": _name,
        "symbol": _name,
        "quantity": lambda v: v in QUANTITIES,
        "target": _price,
        "amount": lambda v: v > 0,
        "kept_on": _day,
    },
    "kept_strain": _named(_strain),
    "worth_case": _named(_case),
}
