"""What a person owns: positions from many entries, and the page of Holdings."""

from __future__ import annotations

import time
from datetime import date
from pathlib import Path

import httpx

from hearth_yield.core.figures.figure import Unit, given
from hearth_yield.core.household.ledger import walk
from hearth_yield.core.household.positions import Quote, positions
from hearth_yield.core.household.rates import SeriesRates
from hearth_yield.core.household.totals import Totals
from hearth_yield.store import ledger
from hearth_yield.store.database import Database
from tests.core.household.untidy import FIRST, Untidy

from .timing import medians_ms

ENTRIES, PAYERS = 20_000, 60
UNTIL = date(2030, 1, 1)


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
