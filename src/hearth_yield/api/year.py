"""The year of the household: dividends, sales, interest, fees and tax."""

from __future__ import annotations

import csv
import io
from datetime import date
from typing import Annotated, Any, Literal, cast

from fastapi import APIRouter, Query, Response

from hearth_yield.actions.read_year import YearRead, read_year, year_book, year_sheets
from hearth_yield.core.household.amounts import SHARE, minor_digits
from hearth_yield.core.household.income.year import YearCountry, YearDividends, YearOther, YearSale
from hearth_yield.core.household.kinds import KINDS
from hearth_yield.core.household.ledger import Place
from hearth_yield.exchange.book import SumAbove
from hearth_yield.exchange.cells import Cell, spelt

from .answer import wire
from .context import Here, When
from .schemas import Problem
from .sources import XLSX
from .wire import fill

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})
WhichYear = Annotated[int | None, Query(ge=1800, le=2199)]


@wire
class YearDividendsOut:
    """Of one payer in one account. beyond: withheld above the rate of the house rules; on_record:
    how many of the payments the record told."""

    exchange: str
    symbol: str
    name: str
    country: str | None
    account: int
    currency: str
    payments: int
    gross: float
    withheld: float
    beyond: float
    net: float
    gross_at_home: float | None
    at_home: float | None
    on_record: int


@wire
class YearCountryOut:
    """Dividends of one country in one currency. unknown: how many lines are in no sum at home."""

    country: str | None
    currency: str
    payments: int
    gross: float
    withheld: float
    beyond: float
    net: float
    gross_at_home: float
    at_home: float
    unknown: int


@wire
class YearSaleOut:
    """bought: null where the day is not known."""

    day: date
    exchange: str
    symbol: str
    name: str
    account: int
    what: str
    bought: date | None
    held: int | None
    shares: float
    currency: str
    proceeds: float | None
    cost: float | None
    gain: float | None
    gain_at_home: float | None


@wire
class YearOtherOut:
    what: str
    account: int
    name: str
    currency: str
    amount: float
    at_home: float | None


@wire
class YearSumsOut:
    """At home, of what is known; unknown: how many rows are in no sum; on_record: payments that the
    record told."""

    gross: float
    withheld: float
    net: float
    gain: float
    unknown: int
    on_record: int


@wire
class YearPlaceOut:
    name: str
    account: int


@wire
class HouseholdYearOut:
    year: int
    years: list[int]
    home: str
    sums: YearSumsOut
    dividends: list[YearDividendsOut]
    countries: list[YearCountryOut]
    sales: list[YearSaleOut]
    others: list[YearOtherOut]
    unresolved: list[YearPlaceOut]


@router.get("/holdings/year")
def year(here: Here, when: When, year: WhichYear = None) -> HouseholdYearOut:
    """Up to the day that is viewed; without a year, that of the day."""
    read = read_year(here.cache, year or when.as_of.year, when.as_of, when.edition)
    found, home = read.found, read.home
    return HouseholdYearOut(
        year=found.year,
        years=list(read.years),
        home=home,
        sums=YearSumsOut(
            gross=_amount(found.gross, home),
            withheld=_amount(found.gross - found.net, home),
            net=_amount(found.net, home),
            gain=_amount(found.gain, home),
            unknown=found.unknown,
            on_record=sum(d.on_record for d in found.dividends),
        ),
        dividends=[_dividends(read, d) for d in found.dividends],
        countries=[_country(c, home) for c in found.countries],
        sales=[_sale(read, s) for s in found.sales],
        others=[_other(read, o) for o in found.others],
        unresolved=[
            YearPlaceOut(name=read.name_of(key), account=account)
            for account, key in found.unresolved
        ],
    )


def _named(read: YearRead, place: Place) -> dict[str, Any]:
    account, (exchange, symbol) = place
    name = read.name_of(place[1])
    return {"account": account, "exchange": exchange, "symbol": symbol, "name": name}


def _dividends(read: YearRead, d: YearDividends) -> YearDividendsOut:
    own = _amounts(d, d.currency, "gross", "withheld", "beyond", "net")
    home = _amounts(d, read.home, "gross_at_home", "at_home")
    return fill(YearDividendsOut, d, **_named(read, d.place), **own, **home)


def _country(c: YearCountry, home: str) -> YearCountryOut:
    return fill(
        YearCountryOut,
        c,
        **_amounts(c, c.currency, "gross", "withheld", "beyond", "net"),
        **_amounts(c, home, "gross_at_home", "at_home"),
    )


def _sale(read: YearRead, s: YearSale) -> YearSaleOut:
    own = _amounts(s, s.currency, "proceeds", "cost", "gain")
    return fill(
        YearSaleOut,
        s,
        **_named(read, s.place),
        **own,
        what=KINDS[s.kind].name,
        bought=s.bought if s.dated else None,
        held=s.held if s.dated else None,
        shares=s.shares / SHARE,
        gain_at_home=_known(s.gain_at_home, read.home),
    )


def _other(read: YearRead, o: YearOther) -> YearOtherOut:
    return fill(
        YearOtherOut,
        o,
        what=KINDS[o.kind].name,
        name=read.name_of(o.payer),
        amount=_amount(o.amount, o.currency),
        at_home=_known(o.at_home, read.home),
    )


@router.get("/holdings/year/file", response_class=Response)
def year_file(
    here: Here, when: When, year: WhichYear = None, form: Literal["xlsx", "csv"] = "xlsx"
) -> Response:
    """The same as a workbook, or its tables one below the other as CSV."""
    read = read_year(here.cache, year or when.as_of.year, when.as_of, when.edition)
    name = f"year-{read.found.year}.{form}"
    raw = year_book(read) if form == "xlsx" else _csv(read)
    return Response(
        raw,
        media_type=XLSX if form == "xlsx" else "text/csv; charset=utf-8",
        headers={"content-disposition": f'attachment; filename="{name}"'},
    )


def _csv(read: YearRead) -> bytes:
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    for n, (name, rows) in enumerate(year_sheets(read).items()):
        if n:
            writer.writerow([])
        writer.writerow([name])
        writer.writerows([[_cell(cell) for cell in row] for row in rows])
    return out.getvalue().encode("utf-8-sig")


def _cell(cell: object) -> str:
    return str(cell) if isinstance(cell, SumAbove) else spelt(cast("Cell", cell))


def _amounts(part: object, currency: str, *names: str) -> dict[str, Any]:
    """Members of a part that are minor units."""
    return {n: _known(getattr(part, n), currency) for n in names}


def _amount(units: int, currency: str) -> float:
    return units / float(10 ** minor_digits(currency))


def _known(units: int | None, currency: str) -> float | None:
    return None if units is None else _amount(units, currency)
