"""What analysts and the payers themselves expected: from what was known on the day, and no more.

An analyst takes the quarters that are published and the plan for those to come, lets what was above
or below the plan lately fade, and hopes: a year ahead too much, at the last a little too little.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from random import Random

from .accounts import Quarter
from .economy import ENDS, Economy
from .operations import SHOWN_IN_REVENUE, Operation, before_tax, plan_of, planned_profit
from .payments import Record, owner, split_ratio_after
from .reports import Reported, first_published
from .script import Script

FIRST_ESTIMATED = 2015
LEADS = (750, 640, 540, 450, 360, 270, 180, 90, 20)
"""Days before a fiscal year's end at which estimates of it are published."""
HOPE, SANDBAG = 0.075, -0.012
"""By what expected quarters stand above the plan a year out, and at the last."""
OFF = {"beaten": -0.08, "missed": 0.14}
"""By what the year as a whole is always expected too low, or too high, where a story says so."""
FADES = 0.9
"""How much of what is above or below the plan is expected to last a quarter longer."""
WITHDRAWN_IN = -0.045
"""A company that guides says nothing in a year whose last quarter had its trade lose so much."""


@dataclass(frozen=True, slots=True)
class Known:
    """A published quarter, per share of today."""

    end: date
    values: Mapping[str, float]


def measures_of(script: Script) -> tuple[str, ...]:
    return ("affo", "ffo") if script.kind == "property_trust" else ("eps",)


def published(script: Script, books: Sequence[Quarter]) -> list[Known]:
    return [Known(q.end, _per_share(script, q)) for q in books]


def _per_share(script: Script, quarter: Quarter) -> dict[str, float]:
    """What came once is left out, as analysts do."""
    lines = first_published(script, quarter.end.year, quarter.lines)
    usual = (
        lines["net_income"]
        - lines.get("preferred_dividends", 0)
        + lines.get("impairments", 0)
        - lines.get("gains_on_property_sales", 0)
    )
    shares = lines["shares"]
    found = {
        "eps": usual / shares,
        "revenue": lines["revenue"] / shares,
        "fcf": (lines["operating_cash_flow"] - lines["capital_expenditure"]) / shares,
        "shares": float(shares),
    }
    if script.kind == "property_trust":
        ffo = usual + lines["property_depreciation"]
        found["ffo"] = ffo / shares
        found["affo"] = (ffo - lines["recurring_capex"] - lines["straight_line_rent"]) / shares
    return found


class Analysts:
    """All who follow one payer, as one voice."""

    def __init__(
        self,
        script: Script,
        business: Sequence[Operation],
        books: Sequence[Quarter],
        days: Sequence[Reported],
        paid: Sequence[Record],
    ) -> None:
        self.script = script
        self.known = published(script, books)
        self.seasons = [q.season for q in business[:4]]
        self._days = [d.results for d in days]
        self._usuals: dict[tuple[int, str], float] = {}
        self.plans = {end: plan_of(script, end) for end in ENDS}
        regular = [p for p in paid if p["kind"] == "regular"]
        self.paid = sorted(regular, key=lambda p: p["declared_on"])

    def _planned(self, end: date, measure: str, day: date) -> float:
        """A quarter's plan; with the story's fortune once they were warned of it."""
        plan = self.plans[end]
        season = self.seasons[end.month // 3 - 1]
        warned = self.script.warned
        fortune = 1.0
        if warned is not None and day >= warned and end.year >= warned.year:
            fortune = self.script.fortunes.get(end.year, 1.0)
        if measure == "revenue":
            return plan.revenue * season * (1 - SHOWN_IN_REVENUE * (1 - fortune))
        if measure == "fcf":
            return plan.free / 4 * fortune
        profit = planned_profit(self.script, plan, end, season) / before_tax(self.script)
        return profit - plan.earned * season * (1 - fortune)

    def known_on(self, day: date) -> int:
        """How many quarters are published by a day."""
        return bisect_right(self._days, day)

    def year(self, year: int, measure: str, day: date, hope: float) -> float | None:
        """Published quarters and those to come; None where less than a year is published yet."""
        at_hand = self.known_on(day)
        if at_hand < 4:
            return None
        lately = self.known[at_hand - 4 : at_hand]
        was = sum(k.values[measure] for k in lately)
        warned = self.script.warned
        heard = day if warned is not None and day >= warned else date.min
        planned = sum(self._planned(k.end, measure, max(heard, k.end)) for k in lately)
        off = min(max(was / planned, 0.25), 2.5)
        usual = self._usual(at_hand, measure)
        total = sum(k.values[measure] for k in lately if k.end.year == year)
        last = ENDS.index(lately[-1].end)
        for ahead, end in enumerate(ENDS[last + 1 : ENDS.index(date(year, 12, 31)) + 1], 1):
            if end.year == year:
                lasting = usual * (off / usual) ** (FADES**ahead)
                total += self._planned(end, measure, day) * lasting * (1 + hope)
        return total

    def _usual(self, at_hand: int, measure: str) -> float:
        """What a payer reports for one unit of plan over the years."""
        if measure in ("eps", "revenue"):
            return 1.0
        if (at_hand, measure) not in self._usuals:
            long = self.known[max(at_hand - 20, 0) : at_hand]
            planned = sum(self._planned(k.end, measure, k.end) for k in long)
            was = sum(k.values[measure] for k in long)
            self._usuals[at_hand, measure] = min(max(was / planned, 0.4), 2.5)
        return self._usuals[at_hand, measure]

    def dividend(self, year: int, day: date) -> float | None:
        """Declared so far, and what is paid now for the rest, raised a little each year as the
        board did lately. Nobody foresees a cut."""
        said = self.paid[: bisect_right(self.paid, day, key=lambda p: p["declared_on"])]
        per_year = len(self.script.pays_in(day.year)[0])
        if len(said) < per_year or year < day.year:
            return None
        amounts = [
            p["amount"] / split_ratio_after(self.script, p["ex_date"])
            for p in said[-2 * per_year :]
        ]
        now, before = sum(amounts[-per_year:]), sum(amounts[-2 * per_year : -per_year])
        growth = min(max(now / before - 1, 0.0), 0.15) if before else 0.0
        stopped = self.script.suspended
        if stopped is not None and stopped[0] <= day < stopped[1]:
            return None
        rate = now if per_year < 3 else amounts[-1] * per_year
        return float(rate * (1 + growth) ** (year - said[-1]["ex_date"].year))


def estimates(script: Script, analysts: Analysts, random: Random) -> list[Record]:
    """Means that are revised in steps, with the lowest and highest voice about them."""
    if not script.analysts:
        return []
    return [
        record
        for year in range(FIRST_ESTIMATED, script.until.year + 3)
        for record in _of_year(script, analysts, year, random)
    ]


def _of_year(script: Script, analysts: Analysts, year: int, random: Random) -> Iterator[Record]:
    end, taste = date(year, 12, 31), random.gauss(0, 0.03)
    for lead in LEADS:
        day = end - timedelta(days=lead - random.randrange(9))
        chance = random.gauss(0, 0.015)
        if not (script.listed or date.min) <= day <= script.last_day:
            continue
        far = min(lead / 360, 1.6)
        hope = SANDBAG + (HOPE - SANDBAG) * far + (taste + chance) * far
        if script.estimates in OFF:
            hope = OFF[script.estimates] / min(0.27 + (lead - 20) / 340, 1.0)
        for measure in (*measures_of(script), "dps", "revenue", "fcf"):
            mean = _mean(script, analysts, year, measure, day, hope)
            if mean is None or not mean:
                continue
            spread = abs(mean) * 0.02 * (1 + lead / 180)
            digits = -4 if measure in ("revenue", "fcf") else 4
            yield owner(script) | {
                "fiscal_year": year,
                "measure": measure,
                "published_on": day,
                "mean": round(mean, digits),
                "low": round(mean - spread, digits),
                "high": round(mean + spread, digits),
                "analysts": script.analysts,
            }


def _mean(
    script: Script, analysts: Analysts, year: int, measure: str, day: date, hope: float
) -> float | None:
    """In the shares of the day, or in total."""
    ratio = split_ratio_after(script, day)
    if measure == "dps":
        said = analysts.dividend(year, day) if script.pays else None
        return None if said is None else said * ratio
    if measure in ("revenue", "fcf"):
        found = analysts.year(year, measure, day, hope * (0.25 if measure == "revenue" else 1.0))
        shares = analysts.known[analysts.known_on(day) - 1].values["shares"]
        return None if found is None else found * shares * 1000
    found = analysts.year(year, measure, day, hope)
    return None if found is None else found * ratio


GUIDED_ON = ((3, 4, 0.05), (8, 24, 0.025))
"""Month and day on which a year is guided, and how wide at most."""


def guidance(script: Script, economy: Economy, analysts: Analysts, random: Random) -> list[Record]:
    """What the payer says in March and August it expects of the year; nothing when its trade has
    just lost much of its custom."""
    measure = "ffo" if script.kind == "property_trust" else "eps"
    found = []
    for year in range(FIRST_ESTIMATED, script.until.year + 1) if script.guides else ():
        lately = economy.demand(script.industry, ENDS.index(date(year - 1, 12, 31)))
        for month, of_month, widest in GUIDED_ON:
            day, wide = date(year, month, of_month), random.uniform(0.5, 1.0) * widest
            if not (script.listed or date.min) <= day <= script.last_day or lately < WITHDRAWN_IN:
                continue
            value = analysts.year(year, measure, day, -0.01)
            if value:
                mean = value * split_ratio_after(script, day)
                low, high = sorted((round(mean * (1 - wide), 3), round(mean * (1 + wide), 3)))
                found.append(
                    owner(script)
                    | {
                        "fiscal_year": year,
                        "measure": measure,
                        "published_on": day,
                        "low": low,
                        "high": high,
                    }
                )
    return found
