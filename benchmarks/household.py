"""What a person owns: positions from many entries, and the page of Holdings."""

from __future__ import annotations

import sqlite3
import time
from contextlib import closing
from datetime import date
from pathlib import Path

import httpx
from sqlalchemy import delete, select

from hearth_yield.actions.read_holdings import read_holdings
from hearth_yield.actions.read_income import income_of
from hearth_yield.actions.review_cache import ReviewCache
from hearth_yield.core.figures.figure import Unit, given
from hearth_yield.core.household.income.paying import YEAR
from hearth_yield.core.household.ledger import Known, walk
from hearth_yield.core.household.positions import Quote, positions
from hearth_yield.core.household.rates import SeriesRates
from hearth_yield.core.household.totals import Totals
from hearth_yield.store import facts, ledger, payer_files
from hearth_yield.store import tables as t
from hearth_yield.store.database import Database
from tests.core.household.untidy import FIRST, Untidy

from .timing import medians_ms

ENTRIES, PAYERS = 20_000, 60
UNTIL = date(2030, 1, 1)
DAY = date(2026, 6, 30)


def held_positions(folder: Path) -> tuple[float, float]:
    """Positions with all their sums, and reading the entries they rest on, in milliseconds."""
    of = Untidy(1, payers_held=PAYERS)
    database = Database(folder / "household.sqlite")
    database.migrate()
    with database.write(facts=False, ledger=True) as connection:
        for account in of.accounts:
            ledger.add_account(connection, account, "now")
        ledger.add_many(connection, of.entries(ENTRIES), None, "now")
    rates = SeriesRates("TLL", {"THK": [(FIRST, 1.4)]})
    quotes = {
        payer: Quote(
            payer=payer,
            name=payer[1],
            currency=currency,
            price=given("price", Unit.PER_SHARE, 20.0, "close"),
            rate=given("declared rate", Unit.PER_SHARE, 1.0, "declared"),
            at_home=given("rate", Unit.INDEX, 1.4 if currency == "THK" else 1.0, "rate"),
            buy_below=given("buy below", Unit.PER_SHARE, 18.0, "yours"),
            trim_above=given("trim above", Unit.PER_SHARE, 25.0, "yours"),
        )
        for payer, currency in of.known.currencies.items()
    }

    def read() -> list[ledger.Entry]:
        with database.read() as connection:
            return ledger.entries(connection)

    entries = read()

    def ours() -> None:
        book = walk(of.accounts, entries, of.known, rates, "TLL", UNTIL)
        held = positions(book, quotes, {}, "TLL")
        totals = Totals(positions=held, home="TLL")
        for figure in (totals.value, totals.cost, totals.income, totals.yield_on_cost):
            figure.known  # noqa: B018 - asked for, so that it is made

    return medians_ms(ours, read, 5)


def income(demo: Database, folder: Path) -> tuple[float, float]:
    """Income of all the demo's payers from as many entries, everything read anew, and reading the
    entries, dividends, splits and notices with SQLAlchemy Core and nothing else."""
    path = folder / "income.sqlite"
    with closing(sqlite3.connect(demo.path)) as plain:
        plain.execute("VACUUM INTO ?", (str(path),))
    database = Database(path)
    of = Untidy(2)
    with database.read() as connection:
        of.payers = list(payer_files.keys(connection))
        stored = {(e, s): currency for e, s, _, currency, *_ in facts.named_payers(connection)}
    of.known = Known(currencies=dict.fromkeys(of.payers, "TLL") | stored)
    with database.write(facts=False, ledger=True) as connection:
        for table in (t.entry, t.account):
            connection.execute(delete(table))
        for account in of.accounts:
            ledger.add_account(connection, account, "now")
        ledger.add_many(connection, of.entries(ENTRIES), None, "now")
    held = read_holdings(ReviewCache(database), DAY, ReviewCache(database).edition())

    def ours() -> None:
        cache = ReviewCache(database)
        income_of(cache, DAY, cache.edition(), DAY - YEAR, held, after_tax=True)

    def read() -> None:
        with database.read() as connection:
            for table in (t.entry, t.dividend, t.split, t.dividend_notice):
                connection.execute(select(table)).all()

    return medians_ms(ours, read, 3)


def page(client: httpx.Client) -> tuple[float, float]:
    """Holdings as it is opened again and again, and an endpoint that does nothing."""
    client.get("/api/holdings").raise_for_status()
    return medians_ms(
        lambda: client.get("/api/holdings").raise_for_status(),
        lambda: client.get("/bench/empty").raise_for_status(),
        21,
    )


def after_an_entry(client: httpx.Client) -> float:
    """Holdings after an entry was made, in milliseconds: nothing of a payer is read again."""
    account = client.get("/api/holdings").json()["accounts"][0]["id"]
    body = {"account": account, "kind": "deposit", "day": "2026-06-01", "amount": "1"}
    client.post("/api/entries", json=body).raise_for_status()
    start = time.perf_counter()
    client.get("/api/holdings").raise_for_status()
    return 1000 * (time.perf_counter() - start)
