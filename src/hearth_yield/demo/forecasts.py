"""What analysts and the payers themselves expected: estimates that move, guidance, exposures."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from datetime import date, timedelta
from random import Random

from .books import Quarter, money_of, year_of
from .payments import Record, owner, split_ratio_after
from .script import LAST_YEAR, Script

FIRST_ESTIMATED = 2015
LEADS = (750, 640, 540, 450, 360, 270, 180, 90, 20)
"""Days before a fiscal year's end at which estimates of it are published."""
EXPOSED_YEARS = 5


def actuals(script: Script, books: Sequence[Quarter]) -> dict[int, dict[str, float]]:
    """Per share in today's shares, by fiscal year: what was, and for years to come what is
    planned."""
    found: dict[int, dict[str, float]] = {}
    for i, quarter in enumerate(books):
        if quarter.end.month == 12 and i >= 3:
            found[quarter.end.year] = _per_share(script, year_of(books[i - 3 : i + 1]))
    newest = script.until.year - 1
    last = found.get(newest)
    if last is None or script.delisted:
        return found
    shares = books[-1].lines["shares"]
    base = money_of(script, shares, newest)
    for year in (newest + 1, newest + 2):
        money = money_of(script, shares, year)
        found[year] = {
            m: v * (money.free / base.free if m == "fcf" else money.earned / base.earned)
            for m, v in last.items()
        } | {"dps": script.rate[year] if script.pays else 0.0}
    return found


def _per_share(script: Script, year: Mapping[str, int]) -> dict[str, float]:
    shares = year["shares"]
    found = {
        "eps": year["net_income"] / shares,
        "dps": year["dividends_paid"] / shares,
        "revenue": year["revenue"] * 1000.0,
        "fcf": (year["operating_cash_flow"] - year["capital_expenditure"]) * 1000.0,
    }
    if script.kind == "property_trust":
        ffo = (
            year["net_income"]
            + year["property_depreciation"]
            + year.get("impairments", 0)
            - year.get("gains_on_property_sales", 0)
        )
        found["ffo"] = ffo / shares
        found["affo"] = (ffo - year["recurring_capex"] - year["straight_line_rent"]) / shares
    return found


def estimates(
    script: Script, known: Mapping[int, Mapping[str, float]], random: Random
) -> list[Record]:
    """Means that start off the mark and close in on what comes; halved, beaten or missed where the
    story says so."""
    if not script.analysts:
        return []
    return [
        record
        for year in range(FIRST_ESTIMATED, script.until.year + 2)
        if year in known
        for record in _of_year(script, year, known[year], random)
    ]


def _of_year(
    script: Script, year: int, values: Mapping[str, float], random: Random
) -> Iterator[Record]:
    measures = ("affo", "ffo", "dps") if script.kind == "property_trust" else ("eps", "dps")
    end = date(year, 12, 31)
    miss = random.gauss(0.02, 0.11)
    for lead in LEADS:
        published = end - timedelta(days=lead - random.randrange(9))
        if not (script.listed or date.min) <= published <= script.last_day:
            continue
        for measure in (*measures, "revenue", "fcf"):
            actual = values.get(measure)
            if not actual or (measure == "dps" and not script.pays):
                continue
            swing = 0.35 if measure in ("dps", "revenue") else 1.0
            off = _off(script.estimates, year, published, lead, miss) * swing
            per_share = measure not in ("revenue", "fcf")
            unit = split_ratio_after(script, published) if per_share else 1.0
            mean = actual * (1 + off) * unit
            spread = abs(mean) * 0.02 * (1 + lead / 180)
            digits = 4 if per_share else -4
            yield owner(script) | {
                "fiscal_year": year,
                "measure": measure,
                "published_on": published,
                "mean": round(mean, digits),
                "low": round(mean - spread, digits),
                "high": round(mean + spread, digits),
                "analysts": script.analysts,
            }


def _off(story: str, year: int, published: date, lead: int, miss: float) -> float:
    """By what an estimate stands off what comes (for years to come: off the plan)."""
    closing = min(lead / 540, 1.2)
    if story == "halved" and year > LAST_YEAR:
        return -0.50 if published > date(2026, 2, 1) else 0.04
    if story == "beaten":
        return -0.08 - 0.05 * closing
    if story == "missed":
        return 0.16 * closing + 0.06
    return miss * closing


def guidance(script: Script, known: Mapping[int, Mapping[str, float]]) -> list[Record]:
    """What the payer says in February it expects of the year."""
    if not script.guides:
        return []
    measure = "ffo" if script.kind == "property_trust" else "eps"
    found = []
    for year in range(FIRST_ESTIMATED, script.until.year + 1):
        said = date(year, 2, 24)
        value = known.get(year, {}).get(measure)
        if value and (script.listed or date.min) <= said <= script.last_day:
            mean = value * split_ratio_after(script, said)
            low, high = sorted((round(mean * 0.97, 3), round(mean * 1.04, 3)))
            found.append(
                owner(script)
                | {
                    "fiscal_year": year,
                    "measure": measure,
                    "published_on": said,
                    "low": low,
                    "high": high,
                }
            )
    return found


def exposures(script: Script, books: Sequence[Quarter]) -> list[Record]:
    """Shares of revenue or rent in the last fiscal years, the first part growing a little."""
    found = []
    years = [q.end.year for q in books if q.end.month == 12][-EXPOSED_YEARS:]
    home = ((script.land.name, 0.8), ("Elsewhere", 0.2))
    for basis, parts in (
        ("segment", script.segments or ((script.industry, 0.85), ("Other trades", 0.15))),
        ("region", script.regions or home),
        ("tenant", script.tenants),
    ):
        for year in years:
            published = date(year + 1, 3, 1)
            if not parts or published > script.last_day or published < (script.listed or published):
                continue
            drift = 0.004 * (year - years[-1])
            for i, (name, share) in enumerate(parts):
                moved = share + (drift if i == 0 else -drift if i == 1 else 0.0)
                found.append(
                    owner(script)
                    | {
                        "fiscal_year": year,
                        "basis": basis,
                        "name": name,
                        "published_on": published,
                        "share": round(moved, 4),
                    }
                )
    return found
