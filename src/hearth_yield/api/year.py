"""The year of the household: dividends, sales, interest, fees and tax."""

from __future__ import annotations

import csv
import io
from datetime import date
from typing import Annotated, Literal, cast

from fastapi import APIRouter, Query, Response

from hearth_yield.actions.read_year import YearRead, read_year, year_book, year_sheets
from hearth_yield.core.household.amounts import SHARE, minor_digits
from hearth_yield.core.household.kinds import KINDS
from hearth_yield.exchange.book import SumAbove
from hearth_yield.exchange.cells import Cell, spelt

from .answer import wire
from .context import Here, When
from .schemas import Problem
from .sources import XLSX

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
    """At home, of what is known; unknown: how many rows are in no sum."""

    gross: float
    net: float
    gain: float
    unknown: int


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
        sums=_sums(read),
        dividends=[
            YearDividendsOut(
                exchange=d.place[1][0],
                symbol=d.place[1][1],
                name=read.name_of(d.place[1]),
                country=d.country,
                account=d.place[0],
                currency=d.currency,
                payments=d.payments,
                gross=_amount(d.gross, d.currency),
                withheld=_amount(d.withheld, d.currency),
                beyond=_amount(d.beyond, d.currency),
                net=_amount(d.net, d.currency),
                gross_at_home=_known(d.gross_at_home, home),
                at_home=_known(d.at_home, home),
                on_record=d.on_record,
            )
            for d in found.dividends
        ],
        sales=[
            YearSaleOut(
                day=s.day,
                exchange=s.place[1][0],
                symbol=s.place[1][1],
                name=read.name_of(s.place[1]),
                account=s.place[0],
                what=KINDS[s.kind].name,
                bought=s.bought if s.dated else None,
                held=s.held if s.dated else None,
                shares=s.shares / SHARE,
                currency=s.currency,
                proceeds=_known(s.proceeds, s.currency),
                cost=_known(s.cost, s.currency),
                gain=_known(s.gain, s.currency),
                gain_at_home=_known(s.gain_at_home, home),
            )
            for s in found.sales
        ],
        others=[
            YearOtherOut(
                what=KINDS[o.kind].name,
                account=o.account,
                name=read.name_of(o.payer),
                currency=o.currency,
                amount=_amount(o.amount, o.currency),
                at_home=_known(o.at_home, home),
            )
            for o in found.others
        ],
        unresolved=[
            YearPlaceOut(name=read.name_of(key), account=account)
            for account, key in found.unresolved
        ],
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


def _sums(read: YearRead) -> YearSumsOut:
    home, found = read.home, read.found
    gross = [d.gross_at_home for d in found.dividends]
    net = [d.at_home for d in found.dividends]
    gains = [s.gain_at_home for s in found.sales]
    return YearSumsOut(
        gross=_amount(sum(n or 0 for n in gross), home),
        net=_amount(sum(n or 0 for n in net), home),
        gain=_amount(sum(n or 0 for n in gains), home),
        unknown=sum(n is None for n in (*net, *gains)),
    )


def _amount(units: int, currency: str) -> float:
    return units / float(10 ** minor_digits(currency))


def _known(units: int | None, currency: str) -> float | None:
    return None if units is None else _amount(units, currency)
