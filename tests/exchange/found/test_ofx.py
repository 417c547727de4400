"""Statements of accounts in OFX, in the old form and the new, whole and damaged."""

import re
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hearth_yield.core.household.entries import Account
from hearth_yield.exchange.found.ofx import statement_of
from hearth_yield.exchange.found.owned.accounts import KnownAccount
from hearth_yield.exchange.found.reading import FoundFile, read_found

from .files import AsFound
from .test_found import AROUND, read
from .test_owned import entries_of

ISIN = "QS00000PNLM6"
SECURITY = f"<SECID><UNIQUEID>{ISIN}<UNIQUEIDTYPE>ISIN</SECID>"


def about(id: str, day: str) -> str:
    return f"<INVTRAN><FITID>{id}<DTTRADE>{day}</INVTRAN>"


TRANSACTIONS = (
    f"<BUYSTOCK><INVBUY>{about('T1', '20260105233000[-5:EST]')}{SECURITY}<UNITS>100"
    "<UNITPRICE>12.5<COMMISSION>9.9<TOTAL>-1259.9<SUBACCTSEC>CASH<SUBACCTFUND>CASH</INVBUY>"
    "<BUYTYPE>BUY</BUYSTOCK>",
    f"<SELLSTOCK><INVSELL>{about('T2', '20260120')}{SECURITY}<UNITS>-40<UNITPRICE>13.1"
    "<COMMISSION>9.9<TOTAL>514.1</INVSELL><SELLTYPE>SELL</SELLSTOCK>",
    f"<INCOME>{about('T3', '20260326')}{SECURITY}<INCOMETYPE>DIV<TOTAL>8.40</INCOME>",
    f"<REINVEST>{about('T4', '20260326')}{SECURITY}<INCOMETYPE>DIV<TOTAL>-8.40<UNITS>0.672"
    "<UNITPRICE>12.5</REINVEST>",
    f"<RETOFCAP>{about('T5', '20260401')}{SECURITY}<TOTAL>30.00</RETOFCAP>",
    f"<TRANSFER>{about('T6', '20260402')}{SECURITY}<UNITS>5<TFERACTION>IN<AVGCOSTBASIS>11.00"
    "</TRANSFER>",
    f"<INVEXPENSE>{about('T7', '20260630')}<TOTAL>-3.00</INVEXPENSE>",
    f"<MARGININTEREST>{about('T8', '20260630')}<TOTAL>-1.10</MARGININTEREST>",
    "<INVBANKTRAN><STMTTRN><TRNTYPE>CREDIT<DTPOSTED>20260102<TRNAMT>2000.00<FITID>T9"
    "<NAME>Standing order</STMTTRN><SUBACCTFUND>CASH</INVBANKTRAN>",
    f"<SELLOPT><INVSELL>{about('T10', '20260403')}<UNITS>-1<TOTAL>50</INVSELL></SELLOPT>",
    f"<SPLIT>{about('T11', '20260404')}{SECURITY}<OLDUNITS>60<NEWUNITS>120</SPLIT>",
    f"<JRNLFUND>{about('T12', '20260405')}<TOTAL>1</JRNLFUND>",
)
ENTRIES = (
    "buy 2026-01-05 PNL 100 at 12.5 for 1259.90 fee 9.90",
    "sell 2026-01-20 PNL 40 at 13.1 for 514.10 fee 9.90",
    "reinvestment 2026-03-26 PNL 0.672 at 12.5 for 8.40 spent 8.40",
    "return_of_capital 2026-04-01 PNL for 30.00",
    "transfer 2026-04-02 PNL 5 for 55.00",
    "fee 2026-06-30 for 3.00",
    "interest 2026-06-30 for -1.10",
    "deposit 2026-01-02 for 2000.00",
)


def old(*transactions: str, more: str = "") -> str:
    """The form without closing tags for values."""
    return (
        "OFXHEADER:100\nDATA:OFXSGML\nVERSION:102\nENCODING:USASCII\nCHARSET:1252\n\n"
        "<OFX><INVSTMTMSGSRSV1><INVSTMTTRNRS><TRNUID>1<INVSTMTRS><DTASOF>20260630"
        "<CURDEF>TLL<INVACCTFROM><BROKERID>x<ACCTID>4711</INVACCTFROM><INVTRANLIST>"
        f"<DTSTART>20260101<DTEND>20260630{''.join(transactions)}</INVTRANLIST>{more}"
        "</INVSTMTRS></INVSTMTTRNRS></INVSTMTMSGSRSV1><SECLISTMSGSRSV1><SECLIST><STOCKINFO>"
        f"<SECINFO>{SECURITY}<SECNAME>Pennant Lamps<TICKER>PNL</SECINFO></STOCKINFO></SECLIST>"
        "</SECLISTMSGSRSV1></OFX>"
    )


def new(text: str) -> str:
    """The same in XML: every value has its closing tag, and the header is another."""
    body = re.sub(r"<([A-Z0-9]+)>([^<\n]+)", r"<\1>\2</\1>", text[text.index("<OFX>") :])
    return f'<?xml version="1.0"?>\n<?OFX OFXHEADER="200" VERSION="220"?>\n{body}'


HELD = (
    f"<INVPOSLIST><POSSTOCK><INVPOS>{SECURITY}<POSTYPE>LONG<UNITS>65.672<UNITPRICE>13"
    "<DTPRICEASOF>20260630</INVPOS></POSSTOCK></INVPOSLIST><INVBAL><AVAILCASH>7.00</INVBAL>"
)
OLD = old(*TRANSACTIONS, more=HELD)
NEW = new(OLD)
MINE = {"account-4711": "Harbour"}


def brought(text: str) -> FoundFile:
    found = read(AsFound(name="mine.qfx", text=text, facts={}), MINE | {"account_currency": "TLL"})
    assert not [q.asks for t in found.tables for q in t.questions]
    return found


@pytest.mark.parametrize("text", [OLD, NEW, OLD.replace("<", "\r\n<")])
def test_every_transaction_comes_in_and_what_does_not_is_said(text: str) -> None:
    found = brought(text)
    stated = "stated 2026-06-30 PNL 65.672"
    assert sorted(entries_of(found)) == sorted((*ENTRIES, stated))
    left = " ".join(x for m in (found.made or {}).values() for x in m.left_out)
    for words in ("an option or a short sale", "splits come from the payer’s record", "inside the"):
        assert words in left


def test_of_a_statement_of_positions_alone_they_are_what_was_held_at_first() -> None:
    assert entries_of(brought(old(more=HELD))) == ["opening 2026-06-30 PNL 65.672"]


@pytest.mark.parametrize(
    ("broken", "lost"),
    [
        (("DTTRADE>20260120", "DTTRADE>202601xx"), "sell"),
        (("</INVSELL><SELLTYPE>SELL</SELLSTOCK>", ""), ""),
        (("<UNITS>-40", "<UNITS>forty"), "sell"),
        (("<FITID>T2", ""), ""),
        (("</INVTRANLIST>", ""), ""),
        (("<TICKER>PNL", "<TICKER>"), ""),
        (("<CURDEF>TLL", "<CURDEF>"), ""),
    ],
)
def test_what_is_broken_in_one_costs_that_one(broken: tuple[str, str], lost: str) -> None:
    assert broken[0] in OLD
    entries = entries_of(brought(OLD.replace(*broken, 1)))
    kept = [e for e in ENTRIES if not lost or not e.startswith(lost)]
    assert [e for e in kept if e not in entries] == []


def test_one_that_is_taken_back_is_in_neither() -> None:
    back = f"<INCOME><INVTRAN><FITID>T20<DTTRADE>20260327<REVERSALFITID>T3</INVTRAN>{SECURITY}"
    taken = old(*TRANSACTIONS[:3], f"{back}<INCOMETYPE>DIV<TOTAL>-8.40</INCOME>")
    assert entries_of(brought(taken)) == list(ENTRIES[:2])
    elsewhere = old(TRANSACTIONS[0], f"{back}<INCOMETYPE>DIV<TOTAL>-8.40</INCOME>")
    assert any("not in this file" in x for x in brought(elsewhere).left_out)


def test_another_currency_is_settled_at_its_rate() -> None:
    one = TRANSACTIONS[2].replace(
        "</INCOME>", "<CURRENCY><CURRATE>0.80<CURSYM>THK</CURRENCY></INCOME>"
    )
    assert entries_of(brought(old(one))) == ["dividend 2026-03-26 PNL for 8.40 settled 6.72"]


def test_of_a_bank_s_statement_interest_fees_and_the_rest_by_its_sign() -> None:
    lines = "".join(
        f"<STMTTRN><TRNTYPE>{kind}<DTPOSTED>2026033{n}<TRNAMT>{amount}<FITID>B{n}<NAME>{name}</STMTTRN>"
        for n, (kind, amount, name) in enumerate(
            (("INT", "2.10", "Interest"), ("XFER", "-100.00", "To savings"))
        )
    )
    text = (
        "OFXHEADER:100\n\n<OFX><BANKMSGSRSV1><STMTTRNRS><STMTRS><CURDEF>TLL<BANKACCTFROM><ACCTID>4711"
        f"</BANKACCTFROM><BANKTRANLIST>{lines}</BANKTRANLIST></STMTRS></STMTTRNRS></BANKMSGSRSV1></OFX>"
    )
    wanted = ["interest 2026-03-30 for 2.10", "withdrawal 2026-03-31 for 100.00"]
    assert entries_of(brought(text)) == wanted


@given(at=st.integers(0, len(OLD)), length=st.integers(0, 200))
def test_a_piece_that_is_lost_is_never_an_error_nor_another_amount(at: int, length: int) -> None:
    whole = {row for row in statement_of(OLD).transactions if row[2] == "buy"}
    held = statement_of(OLD[:at] + OLD[at + length :])
    for row in held.transactions:
        if row[2] == "buy" and row[-1] == "T1" and row[1] and row[9]:
            same = next(iter(whole))
            assert row[9] in (same[9] or "") or (at < OLD.index("T2") and length)


def test_nothing_of_it_is_looked_up_or_expanded() -> None:
    entity = '<!DOCTYPE x [<!ENTITY a "b"><!ENTITY c SYSTEM "file:///etc/hostname">]>'
    text = entity + NEW.replace("Pennant Lamps", "&a;&c;&lt;Lamps&gt;")
    names = {row[5] for row in statement_of(text).transactions if row[5]}
    assert names == {"&a;&c;<Lamps>"}
    deep = "<A>" * 100_000 + "</A>" * 100_000
    assert statement_of(f"<OFX>{deep}</OFX>").transactions == []


def test_cash_is_stated_where_the_account_keeps_cash() -> None:
    own = Account(id=1, name="Harbour", currency="TLL", keeps_cash=True)
    accounts = replace(AROUND.accounts, known=[KnownAccount(account=own)])
    around = replace(AROUND, accounts=accounts)
    raw = old(TRANSACTIONS[0], more=HELD).encode()
    (found,) = read_found([("mine.ofx", raw)], around, {"0.account-4711": "Harbour"})
    stated = [e for e in entries_of(found) if e.startswith("stated")]
    assert stated == ["stated 2026-06-30 for 7.00", "stated 2026-06-30 PNL 65.672"]
