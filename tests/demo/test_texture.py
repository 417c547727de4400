"""The made-up world reads as real: held against what is published of real markets in general terms
(docs/demo-world.md says what, and of what kind the source is)."""

from datetime import timedelta
from itertools import combinations, pairwise
from pathlib import Path
from statistics import median, quantiles

import pytest

from hearth_yield.demo.forecasts import Analysts
from hearth_yield.demo.script import SLUMPS
from hearth_yield.demo.world import CAST_PEERS, SEED, World

from . import report

DOCUMENT = Path(__file__).parents[2] / "docs" / "demo-world.md"
DEFINED = (
    {"depreciation_amortization", "property_depreciation"},
    {"diluted_shares", "shares_outstanding"},
    {"preferred_dividends", "preferred_equity"},
    {"current_liabilities", "total_liabilities"},  # of payers without loans
)
"""Pairs of which one follows from the other in real accounts too."""
HELD = {"dividends_paid"}
"""Stands still while the board holds it."""
LENT = {"total_assets", "total_liabilities"}
"""Of a bank nearly the same."""


def lines_of(symbol: str) -> dict[str, dict[int, float]]:
    years = report.years(symbol)
    names = {n for s in years.values() for n, v in s.items() if isinstance(v, float)}
    names -= {"diluted_eps", "occupancy", "capital_ratio"}
    return {n: {y: s[n] for y, s in years.items() if s.get(n)} for n in sorted(names)}


def test_no_ratio_of_two_lines_is_the_same_for_five_years() -> None:
    found = []
    for symbol, script in report.SCRIPTS.items():
        for (a, left), (b, right) in combinations(lines_of(symbol).items(), 2):
            pair = {a, b}
            if pair in DEFINED or pair & HELD or (script.kind == "financial" and pair == LENT):
                continue
            both = sorted(left.keys() & right.keys())
            ratios = {y: left[y] / right[y] for y in both}
            for first in both:
                five = [ratios[y] for y in range(first, first + 5) if y in ratios]
                if len(five) == 5 and min(five) > 0 and max(five) / min(five) < 1.001:
                    found.append((symbol, first, a, b))
    assert not found


def test_no_two_lines_grow_by_the_same_per_cent() -> None:
    """But by chance: to a tenth of a point, in fewer than one of a hundred."""
    same = total = 0
    for symbol in report.companies():
        lines = lines_of(symbol)
        for (a, left), (b, right) in combinations(lines.items(), 2):
            if {a, b} in DEFINED:
                continue
            for before, now in pairwise(sorted(left.keys() & right.keys())):
                total += 1
                grown = left[now] / left[before] - right[now] / right[before]
                same += abs(grown) < 0.0005
    assert total > 100_000
    assert same / total < 0.01


def test_quarters_have_their_seasons_and_move_from_year_to_year() -> None:
    shares = []
    for symbol in report.companies():
        quarters = {
            s["period_end"]: s["revenue"]
            for s in report.of("statements")[symbol]
            if s["span"] == "quarter"
        }
        for end, revenue in quarters.items():
            year = report.years(symbol).get(end.year)
            if end.month == 12 and year:
                shares.append(revenue / year["revenue"])
    low, _, high = quantiles(shares, n=4)
    assert high - low > 0.015
    assert max(shares) > 0.29
    assert min(shares) < 0.235


def test_cuts_are_rare_and_come_together_in_slumps() -> None:
    outside, inside = report.share_cutting(inside=False), report.share_cutting(inside=True)
    assert 0.01 <= outside <= 0.04
    assert 0.06 <= inside <= 0.20
    counts = report.changes_of_dividends()
    worst = max(counts, key=lambda y: counts[y][0] / sum(counts[y]))
    assert worst in report.SLUMP_YEARS
    assert 0.12 <= counts[worst][0] / sum(counts[worst]) <= 0.30
    usual = [r / (c + h + r) for y, (c, h, r) in counts.items() if y not in report.SLUMP_YEARS]
    assert 0.6 <= median(usual) <= 0.9


def test_the_indebted_cut_deeper() -> None:
    deep, mild = report.depths_of_cuts()
    assert median(deep) > median(mild) + 0.03


def test_payouts_yields_and_debts_are_spread() -> None:
    low, middle, high = quantiles(report.payouts(), n=4)
    assert low < 0.40 < middle < 0.50 < high < 0.75
    low, middle, high = quantiles(report.yields(), n=4)
    assert 0.02 < low < middle < high < 0.07
    low, middle, high = quantiles(report.leverage(), n=4)
    assert low < 0.8 < high
    assert 0.3 < middle < 2.0


def test_earnings_change_as_earnings_do() -> None:
    """They fall in a third of all years, by amounts that differ widely, and one year's change says
    next to nothing of the next's."""
    changes = report.earnings_changes()
    low, _, high = quantiles(changes, n=4)
    assert low < -0.03
    assert high > 0.12
    assert 0.25 < sum(c < 0 for c in changes) / len(changes) < 0.45
    assert -0.25 < report.autocorrelation() < 0.1


def test_prices_jump_fall_far_and_move_together() -> None:
    own = [report.volatility(report.weekly(s).values()) for s in report.SCRIPTS]
    index = report.volatility(report.index_returns().values())
    assert 0.20 < median(own) < 0.35
    assert 0.11 < index < 0.20
    assert median(report.kurtosis(list(report.weekly(s).values())) for s in report.SCRIPTS) > 4
    assert median(report.worst_fall(report.weekly(s)) for s in report.SCRIPTS) < -0.5
    assert -0.6 < report.worst_fall(report.index_returns()) < -0.35
    within, between = report.correlations()
    assert 0.15 < between < within - 0.08 < 0.5


def test_prices_jump_on_the_days_of_results() -> None:
    assert report.jumps_on_results() > 1.8


def test_analysts_know_what_was_published_and_no_more() -> None:
    """A quarter on the day its figures are out, both quarters of a half on the day of the half."""
    world = World(SEED, CAST_PEERS)
    for symbol, script in report.SCRIPTS.items():
        life = world.life(script)
        analysts = Analysts(life.script, life.business, life.books, life.reported, life.paid)
        told = {
            (s["period_end"], s["span"]): s["published_on"]
            for s in reversed(report.of("statements")[symbol])
        }
        for at, quarter in enumerate(life.books):
            half = quarter.end.month in (6, 12) and (quarter.end, "half") in told
            day = told.get((quarter.end, "half" if half else "quarter"))
            if day is None or (script.listed and day <= script.listed):
                continue
            known = analysts.known_on(day)
            before = analysts.known_on(day - timedelta(days=1))
            assert (before, known) == (at + 1 - (2 if half else 1), at + 1)


def test_slumps_differ_and_hit_trades_differently() -> None:
    falls = [report.fall_in(s) for s in SLUMPS]
    assert all(-0.55 < f < -0.2 for f in falls)
    assert max(falls) - min(falls) > 0.1
    worst = [report.worst_trade_in(s) for s in SLUMPS]
    assert len(set(worst)) == 3


def test_analysts_hope_and_are_revised_down() -> None:
    errors = report.estimate_errors()
    far, near = max(errors), min(errors)
    assert 0.04 < errors[12][0] < 0.20
    assert errors[far][0] > errors[9][0] > errors[near][0]
    assert errors[far][1] > 2 * errors[near][1]


def test_guidance_is_mostly_met_and_sometimes_withdrawn() -> None:
    met, missed, silent = report.guidance_kept()
    assert 0.4 < met / (met + missed) < 0.95
    assert silent >= 3


@pytest.mark.parametrize("kind", ["acquired", "sold", "issued", "bought back", "written off"])
def test_there_are_lumps_of_each_kind(kind: str) -> None:
    assert report.lumps()[kind] >= 5


def test_the_document_tells_what_is_measured() -> None:
    text = DOCUMENT.read_text()
    missing = [f"| {name} | {here} |" for name, here in report.table()]
    assert not [row for row in missing if row not in text]
