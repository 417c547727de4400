"""What reading what a person owns costs, against reading the file's cells alone."""

from __future__ import annotations

import csv
import io
import random
from datetime import date, timedelta

from hearth_yield.exchange.found import dates
from hearth_yield.exchange.found.owned.accounts import Accounts
from hearth_yield.exchange.found.payers import Known, Payers
from hearth_yield.exchange.found.reader import Writer, read
from hearth_yield.exchange.found.reading import Around, made_tables, read_found

from .timing import medians_ms

ROWS = 20_000
KINDS = ("Buy", "Sell", "Dividend", "Custody fee")
PAYERS = [Known("ELV", f"X{n:03d}", f"Payer {n}", "TLL", 12) for n in range(60)]


def _lines() -> list[tuple[date, str, str, int, float, float]]:
    chance = random.Random("owned")
    first = date(2010, 1, 4)
    return [
        (
            first + timedelta(days=n * 6000 // ROWS),
            KINDS[n % 4],
            "" if n % 4 == 3 else f"X{chance.randrange(60):03d}",
            chance.randint(1, 400),
            round(chance.uniform(5, 90), 2),
            9.9,
        )
        for n in range(ROWS)
    ]


def _csv() -> bytes:
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(
        ("Date", "Type", "Symbol", "Quantity", "Price", "Net amount", "Commission", "Ref")
    )
    for n, (day, kind, symbol, shares, price, fee) in enumerate(_lines()):
        sign = -1 if kind in ("Buy", "Custody fee") else 1
        counted = (shares, price) if kind in ("Buy", "Sell") else ("", "")
        net = f"{sign * (shares * price + 9.9):.2f}"
        writer.writerow((f"{day:%d/%m/%Y}", kind, symbol, *counted, net, fee, f"R{n}"))
    return out.getvalue().encode()


def _ofx() -> bytes:
    parts = []
    for n, (day, kind, symbol, shares, price, _) in enumerate(_lines()):
        about = f"<INVTRAN><FITID>R{n}<DTTRADE>{day:%Y%m%d}</INVTRAN>"
        of = f"<SECID><UNIQUEID>{symbol}<UNIQUEIDTYPE>OTHER</SECID>"
        total = f"{shares * price:.2f}"
        parts.append(
            {
                "Buy": f"<BUYSTOCK><INVBUY>{about}{of}<UNITS>{shares}<UNITPRICE>{price}"
                f"<TOTAL>-{total}</INVBUY></BUYSTOCK>",
                "Sell": f"<SELLSTOCK><INVSELL>{about}{of}<UNITS>-{shares}<UNITPRICE>{price}"
                f"<TOTAL>{total}</INVSELL></SELLSTOCK>",
                "Dividend": f"<INCOME>{about}{of}<INCOMETYPE>DIV<TOTAL>{total}</INCOME>",
                "Custody fee": f"<INVEXPENSE>{about}<TOTAL>-{total}</INVEXPENSE>",
            }[kind]
        )
    return (
        "OFXHEADER:100\n\n<OFX><INVSTMTMSGSRSV1><INVSTMTTRNRS><INVSTMTRS><CURDEF>TLL<INVACCTFROM>"
        f"<ACCTID>4711</INVACCTFROM><INVTRANLIST>{''.join(parts)}</INVTRANLIST></INVSTMTRS>"
        "</INVSTMTTRNRS></INVSTMTMSGSRSV1></OFX>"
    ).encode()


def _cells(raw: bytes, name: str) -> None:
    """The file's cells alone, as its reader sends them."""
    frames: list[bytes] = []
    read(raw, name, "", Writer(frames.append))


def _compared(raw: bytes, name: str) -> tuple[float, float]:
    told = {"account": "Mine", "account-4711": "Mine", "account_currency": "TLL"}

    def ours() -> None:
        for remembered in (dates.date_of, dates._order_mark):
            remembered.cache_clear()  # a file is dropped once
        around = Around(payers=Payers(PAYERS), accounts=Accounts(today=date(2026, 6, 30)))
        found = read_found([(name, raw)], around, told)
        rows = sum(len(t.rows) for t in made_tables(found) if t.name == "entries")
        assert rows == ROWS, rows

    def started() -> None:
        around = Around(payers=Payers(PAYERS), accounts=Accounts(today=date(2026, 6, 30)))
        read_found(
            [("one.csv", b"Date,Type,Symbol,Quantity,Price\n2026-01-05,Buy,X001,1,2\n")],
            around,
            told,
        )

    start, _ = medians_ms(started, lambda: None, 5)
    whole, cells = medians_ms(ours, lambda: _cells(raw, name), 7)
    return whole - start, cells


def trades() -> tuple[float, float]:
    """20,000 rows of trades made into entries, and their cells alone; what starts the reader's
    process is taken off."""
    return _compared(_csv(), "trades.csv")


def statement() -> tuple[float, float]:
    """The same of a statement in OFX."""
    return _compared(_ofx(), "mine.ofx")
