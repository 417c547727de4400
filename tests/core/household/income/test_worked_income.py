"""Income worked by hand, as data: what is due, what changed it, what comes, what tax leaves
(tests/data/income_cases.json)."""

from __future__ import annotations

import json
from collections.abc import Sequence
from datetime import date
from fractions import Fraction
from pathlib import Path
from typing import Any

import pytest
from msgspec.structs import replace

from hearth_yield.core.facts.records import DividendKind
from hearth_yield.core.household.entries import Entry, EntryKind
from hearth_yield.core.household.income.ahead import ahead
from hearth_yield.core.household.income.due import dues
from hearth_yield.core.household.income.tax import TaxRules

from .build import ACCOUNT, RATES, A, book_of, buy, known, paid, paying
from .test_change import between, parts

CASES: dict[str, list[dict[str, Any]]] = json.loads(
    (Path(__file__).parents[3] / "data" / "income_cases.json").read_text("utf-8")
)
EX, PAY, END = date(2025, 3, 3), date(2025, 3, 17), date(2025, 12, 31)


def cases(of: str) -> pytest.MarkDecorator:
    return pytest.mark.parametrize("case", CASES[of], ids=lambda c: c["name"])


def trades(case: dict[str, Any]) -> list[Entry]:
    def trade(n: int, kind: str, day: str, shares: float) -> Entry:
        made = buy(date.fromisoformat(day), shares, id=n)
        return made if kind == "buy" else replace(made, kind=EntryKind.SELL)

    return [trade(n, *t) for n, t in enumerate(case["trades"], 1)]


@cases("due")
def test_what_is_due(case: dict[str, Any]) -> None:
    every = trades(case)
    split: Sequence[Any] = case.get("split", ())
    splits = [(date.fromisoformat(split[0]), Fraction(split[1]))] if split else []
    of = known({A: splits})
    kind = DividendKind(case.get("kind", "regular"))
    payers = {A: paying(paid(EX, case["each"], PAY, kind=kind), country="XX")}
    rules = TaxRules(withheld={"XX": case["withheld"]})
    book = book_of(every, of, END)
    found = dues(book, [ACCOUNT], every, payers, of, RATES, rules, "TLL", END)
    assert [(d.gross, d.net) for d in found] == [
        (case["gross"], case["net"]) for _ in range("gross" in case)
    ]


@cases("change")
def test_what_changed_it(case: dict[str, Any]) -> None:
    rates = [(date.fromisoformat(d), r) for d, r in case["rates"]]
    of = paying(rates=rates, currency=case.get("currency", "TLL"))
    found = between(trades(case), {A: of})
    assert (found.first, found.last) == pytest.approx((case["first"], case["last"]))
    assert parts(found) == pytest.approx(case["parts"])
    assert found.first + sum(case["parts"].values()) == pytest.approx(found.last)


@cases("ahead")
def test_what_comes(case: dict[str, Any]) -> None:
    day = date(2025, 6, 30)
    ex, pays = (date.fromisoformat(case[n]) for n in ("ex", "pays"))
    book = book_of(trades(case), known(), day)
    found = ahead(book, {A: paying(paid(ex, case["each"], pays))}, known(), day)
    assert [(a.stands.value, pytest.approx(a.gross)) for a in found] == [
        (case["stands"], case["gross"]) for _ in range("gross" in case)
    ]


@cases("tax")
def test_what_tax_leaves(case: dict[str, Any]) -> None:
    rules = TaxRules(
        withheld={"XX": case["withheld"]}, home=case["home"], credited=case["credited"]
    )
    assert rules.kept("XX", case.get("sheltered", False)) == pytest.approx(case["kept"])


def test_every_case_has_a_name_of_its_own() -> None:
    names = [c["name"] for some in CASES.values() for c in some]
    assert len(set(names)) == len(names) >= 30
