"""Lists of what a person owns, as people and institutions have them: what comes in of each, and
what is asked (tests/data/owned_files.json, worked by hand)."""

import json
from collections.abc import Mapping
from pathlib import Path
from typing import Any

import pytest

from hearth_yield.exchange.cells import spelt
from hearth_yield.exchange.found.reading import FoundFile, made_tables, profile_tables

from .files import AsFound
from .test_found import read

CASES: list[dict[str, Any]] = json.loads(
    (Path(__file__).parents[2] / "data" / "owned_files.json").read_text("utf-8")
)
BEFORE = {
    "price": "at",
    "amount": "for",
    "fee": "fee",
    "tax": "tax",
    "withheld": "withheld",
    "spent": "spent",
    "settled": "settled",
    "into_amount": "into",
    "into_currency": "",
    "to": "to",
}
"""The word before each field of an entry as the cases write it."""
ACCOUNT = {"account": "Harbour", "account_currency": "TLL"}


def said(row: Mapping[str, Any]) -> str:
    parts = [row["kind"], row["day"], row.get("symbol"), row.get("shares")]
    told = " ".join(spelt(p) for p in parts if p is not None)
    more = [f"{w} {spelt(row[n])}".strip() for n, w in BEFORE.items() if row.get(n) is not None]
    return " ".join((told, *more))


def entries_of(found: FoundFile) -> list[str]:
    made = [t for t in made_tables([found]) if t.name == "entries"]
    return [said(row) for t in made for row in t.rows]


@pytest.mark.parametrize("case", CASES, ids=lambda c: c["name"])
def test_a_list_gives_its_entries_and_asks_no_more_than_it_must(case: dict[str, Any]) -> None:
    file = AsFound(name=case["name"], text=case["text"], facts={})
    asked = {q.name for t in read(file).tables for q in t.questions}
    wanted = set(case.get("asked", ()))
    assert {n for n in asked if n in wanted or not n.startswith("account")} == wanted
    answers = ACCOUNT | dict.fromkeys(asked, "Harbour") | case.get("answers", {})
    found = read(file, answers | {f"{n}.{k}": v for n in "01" for k, v in answers.items()})
    assert not [q for t in found.tables for q in t.questions]
    assert not [w for m in (found.made or {}).values() for w in m.wrong]
    assert sorted(entries_of(found)) == sorted(case["entries"])
    left = [x for m in (found.made or {}).values() for x in m.left_out]
    assert len(left) == case.get("left", 0), left


def test_a_profile_keeps_the_account_and_not_the_day_of_positions() -> None:
    file = AsFound(name="held.csv", text="Symbol,Quantity,Average cost\nPNL,100,12\n", facts={})
    (kept,) = profile_tables([read(file, ACCOUNT)])
    assert kept.settled["account"] == "Harbour"
    assert "as_of" not in kept.settled
