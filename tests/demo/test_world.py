"""The made-up world: consistent with itself, the same every time, nothing known too early."""

import hashlib
import json
import subprocess
import sys
from collections import Counter, defaultdict
from datetime import date, timedelta
from functools import cache
from itertools import pairwise
from typing import Any

import pytest

from hearth_yield.demo.ahead import END, KNOWN_ON
from hearth_yield.demo.cast import CAST
from hearth_yield.demo.indices import MARKET, MARKET_TOTAL
from hearth_yield.demo.many import EXTENT, many
from hearth_yield.demo.payments import split_ratio_after
from hearth_yield.demo.script import TODAY, Script
from hearth_yield.demo.world import CAST_PEERS, SEED, Extent, World, build_world, stream

from .report import unexplained
from .world import world

BY_SYMBOL = {s.symbol: s for s in CAST}


@cache
def final() -> dict[tuple[str, str, str], dict[str, Any]]:
    """Statements as they stand in the end: the newest version of each period."""
    by_day = sorted(world()["statements"], key=lambda s: s["published_on"])
    return {(s["symbol"], s["span"], s["period_end"]): s for s in by_day}


def yearly(symbol: str) -> list[dict[str, Any]]:
    return [
        s
        for (name, span, _), s in sorted(final().items(), key=lambda x: x[0][2])
        if name == symbol and span == "year"
    ]


PRINTED = """
import hashlib, json
from hearth_yield.demo.world import build_world
print(hashlib.sha256(json.dumps(build_world(), default=str).encode()).hexdigest())
"""


def test_the_same_seed_gives_the_same_bytes() -> None:
    """In another process too, where sets have another order."""
    mine = hashlib.sha256(json.dumps(world(), default=str).encode()).hexdigest()
    another = subprocess.run(
        [sys.executable, "-c", PRINTED],
        env={"PYTHONHASHSEED": "1"},
        capture_output=True,
        text=True,
        check=True,
    )
    assert another.stdout.strip() == mine
    assert json.dumps(build_world(seed=1), default=str) != json.dumps(world(), default=str)


def said(field: str) -> dict[str, list[str]]:
    """Notes of one field, by symbol, the oldest first."""
    found: dict[str, list[str]] = {}
    for n in sorted(world()["payer_notes"], key=lambda n: n["published_on"]):
        if n["field"] == field:
            found.setdefault(n["symbol"], []).append(n["value"])
    return found


def test_sixty_payers_of_four_kinds_in_seventeen_industries_and_two_currencies() -> None:
    kinds = {p["kind"] for p in world()["payers"]}
    assert (len(world()["payers"]), len(kinds)) == (60, 4)
    industries = Counter(v for (v,) in said("industry").values())
    assert len(industries) == 17
    assert min(industries.values()) >= 2
    assert len({v for (v,) in said("sector").values()}) == 10
    assert {p["currency"] for p in world()["payers"]} == {"TLL", "THK"}
    assert len({(p["exchange"], p["symbol"]) for p in world()["payers"]}) == 60
    assert len({p["name"] for p in world()["payers"]}) == 60


def test_ratings_follow_debt_and_peers_share_an_industry() -> None:
    ratings, industry = said("credit_rating"), said("industry")
    assert 35 <= len(ratings) <= 55
    assert any(len(r) > 1 for r in ratings.values())
    assert all(a != b for r in ratings.values() for a, b in pairwise(r))
    assert ratings["WKTG"][-1] == "BB+"
    for symbol, (named,) in said("peers").items():
        others = [n.split("/")[1] for n in named.split(", ")]
        assert symbol not in others
        assert all(industry[o] == industry[symbol] for o in others)


def test_thirty_years_weekly_and_two_years_daily() -> None:
    days = [p["day"] for p in world()["prices"] if p["symbol"] == "TRS"]
    assert days == sorted(set(days))
    assert days[0].year == 1996
    assert days[-1] == TODAY
    assert all((b - a).days == 7 for a, b in pairwise(d for d in days if d < date(2024, 7, 1)))
    recent = [d for d in days if d > date(2024, 7, 5)]
    assert all((b - a).days in (1, 3) for a, b in pairwise(recent))


def test_balance_sheets_balance_to_the_last_unit() -> None:
    for s in world()["statements"]:
        owed = s["total_liabilities"] + s["equity"] + s.get("minority_interest", 0.0)
        assert s["total_assets"] == owed, (s["symbol"], s["period_end"])
        assert s["equity"] > 0
        assert s.get("cash", 0.0) >= 0


def test_parts_sum_to_their_year() -> None:
    parts = defaultdict(list)
    for (symbol, span, end), s in final().items():
        if span != "year":
            parts[symbol, end.year].append(s)
    whole = 0
    for (symbol, span, end), s in final().items():
        inside = parts[symbol, end.year]
        if span != "year" or len(inside) != (2 if inside and inside[0]["span"] == "half" else 4):
            continue
        whole += 1
        for line in ("revenue", "net_income", "operating_cash_flow", "dividends_paid"):
            assert sum(p[line] for p in inside) == s[line]
    assert whole > 600


@pytest.mark.parametrize("script", CAST, ids=lambda s: s.symbol)
def test_dividends_agree_with_the_cash_flow_statement(script: Script) -> None:
    """Units × per unit = total, within what share counts move inside a year."""
    paid = defaultdict(float)
    for d in world()["dividends"]:
        if d["symbol"] == script.symbol:
            edited = d["amount"] / split_ratio_after(script, d["ex_date"])
            paid[d["pay_date"].year] += edited
    for s in yearly(script.symbol):
        year = s["period_end"].year
        if script.listed and year <= script.listed.year:
            continue
        shares = s["diluted_shares"] * split_ratio_after(script, s["published_on"])
        assert s["dividends_paid"] / shares == pytest.approx(paid[year], rel=0.08, abs=1e-9)


@cache
def lives() -> World:
    return World(SEED, CAST_PEERS)


@pytest.mark.parametrize(
    "script", [s for s in CAST if s.kind != "financial" and not s.listed], ids=lambda s: s.symbol
)
def test_cash_flows_explain_the_cash(script: Script) -> None:
    """But for what was paid for businesses, which no published line shows."""
    bought: dict[int, int] = defaultdict(int)
    for quarter in lives().life(script).books:
        bought[quarter.end.year] += quarter.acquired * 1000
    for before, now in pairwise(yearly(script.symbol)):
        assert unexplained(before, now) == bought[now["period_end"].year], now["period_end"]


def test_nothing_is_known_after_the_demos_today() -> None:
    assert max(p["day"] for p in world()["prices"]) <= TODAY
    assert max(d["declared_on"] for d in world()["dividends"]) <= TODAY
    for table in ("statements", "series_points", "estimates", "guidance", "exposures"):
        assert max(r["published_on"] for r in world()[table]) <= TODAY, table


def test_no_key_stands_twice() -> None:
    keys = {
        "prices": ("symbol", "day"),
        "dividends": ("symbol", "ex_date", "kind"),
        "statements": ("symbol", "period_end", "span", "published_on"),
        "estimates": ("symbol", "fiscal_year", "measure", "published_on"),
        "series_points": ("code", "day", "published_on"),
    }
    for table, columns in keys.items():
        found = [tuple(r[c] for c in columns) for r in world()[table]]
        assert len(found) == len(set(found)), table


def test_shares_of_revenue_and_rent_are_whole() -> None:
    sums: dict[tuple[Any, ...], float] = defaultdict(float)
    for e in world()["exposures"]:
        sums[e["symbol"], e["basis"], e["published_on"]] += e["share"]
    assert len(sums) > 60
    assert all(total == pytest.approx(1) for total in sums.values())


def test_the_market_is_made_from_its_payers() -> None:
    """One week's return of the index against the plain mean of the payers' own returns."""
    points = {
        (p["code"], p["day"]): p["value"]
        for p in world()["series_points"]
        if p["code"] in (MARKET, MARKET_TOTAL)
    }
    before, now = date(2012, 3, 2), date(2012, 3, 9)
    closes: dict[tuple[str, date], float] = {
        (p["symbol"], p["day"]): p["close"]
        for p in world()["prices"]
        if p["exchange"] == "ELV" and p["day"] in (before, now)
    }
    names = {s for s, _ in closes}
    returns = [closes[s, now] / closes[s, before] - 1 for s in names]
    index = points[MARKET, now] / points[MARKET, before] - 1
    assert index == pytest.approx(sum(returns) / len(returns), abs=2e-4)
    last = max(d for code, d in points if code == MARKET)
    assert points[MARKET_TOTAL, last] > 2 * points[MARKET, last]


def test_every_slump_is_a_fall_of_the_market() -> None:
    points = [(p["day"], p["value"]) for p in world()["series_points"] if p["code"] == MARKET]
    for slump in world()["slumps"]:
        inside = [v for d, v in points if slump["begins"] - timedelta(14) <= d <= slump["ends"]]
        assert min(inside) < 0.75 * max(inside[:6]), slump["name"]


def test_a_world_of_any_size_streams_the_same_payers() -> None:
    parts = list(stream(many(7, SEED), SEED, {}, EXTENT))
    assert [len(p.get("payers", ())) for p in parts] == [0, 1, 1, 1, 1, 1, 1, 1, 0]
    again = list(stream(many(3, SEED), SEED, {}, EXTENT))
    assert again[1:4] == parts[1:4]
    for part in parts[1:-1]:
        for s in part["statements"]:
            assert s["total_assets"] == s["total_liabilities"] + s["equity"]


def test_it_is_a_full_world() -> None:
    """Thirty years of daily prices, quarters and estimates."""
    parts = list(stream(many(12, SEED), SEED, {}, EXTENT))[1:-1]
    oldest = max(parts, key=lambda p: len(p["prices"]))
    assert len(oldest["prices"]) > 29 * 260
    assert sum(s["span"] == "quarter" for s in oldest["statements"]) == 121
    assert sum(len(p["estimates"]) for p in parts) > 1000


def test_a_world_that_is_told_further_was_the_same_before() -> None:
    """Nothing that is known by the demo's day rests on what comes after."""
    for further in stream(extent=Extent(until=END)):
        for table, rows in further.items():
            known = [r for r in rows if table not in KNOWN_ON or r[KNOWN_ON[table]] <= TODAY]
            assert by_bytes(known) <= told()[table], (table, known[0].get("symbol"))


@cache
def told() -> dict[str, set[str]]:
    return {table: by_bytes(rows) for table, rows in world().items()}


def by_bytes(rows: list[dict[str, Any]]) -> set[str]:
    return {json.dumps(r, default=str) for r in rows}
