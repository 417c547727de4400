"""Likely slips: figures that are each possible and together are not."""

from collections.abc import Sequence
from datetime import date

import pytest

from hearth_yield.exchange.checks import NothingStored
from hearth_yield.exchange.faults import Fault
from hearth_yield.exchange.package import read_files

HELD = NothingStored({("ELV", "A"): "TLL"})
HEAD = "exchange,symbol,period_end,span,published_on,currency,unit"


def year(n: int, cells: str) -> str:
    return f"ELV,A,{n}-12-31,year,{n + 1}-02-20,TLL,million,{cells}\n"


def warnings(*files: tuple[str, str]) -> Sequence[Fault]:
    reading = read_files([(name, text.encode()) for name, text in files], HELD)
    assert not reading.refused, reading.faults
    return reading.faults


def statements(columns: str, *rows: str) -> tuple[str, str]:
    text = f"{HEAD},{columns}\n" + "".join(year(2023 + n, r) for n, r in enumerate(rows))
    return ("statements.csv", text)


@pytest.mark.parametrize(
    ("line", "value"),
    [
        ("capital_expenditure", "-50"),
        ("dividends_paid", "-1"),
        ("interest_expense", "-3"),
        ("cash", "-2"),
        ("buybacks", "-2"),
    ],
)
def test_a_sign_that_a_line_does_not_allow_is_an_error(line: str, value: str) -> None:
    reading = read_files([(n, t.encode()) for n, t in [statements(line, value)]], HELD)
    (fault,) = reading.faults
    assert (fault.column, fault.value, fault.warning) == (line, value, False)
    assert "0 or more" in fault.expected


def test_lines_that_may_be_negative_are_taken() -> None:
    assert warnings(statements("net_income,tax,equity,operating_cash_flow", "-5,-1,-3,-2")) == []


def test_share_counts_in_thousands_are_seen_against_earnings_a_share() -> None:
    """100 m of net income at 2 a share are 50 m shares; 50,000 is that in thousands."""
    (fault,) = warnings(statements("net_income,diluted_eps,diluted_shares", "100,2,0.05"))
    assert (fault.column, fault.slip, fault.of) == ("diluted_shares", "shares:1000", "ELV/A")
    assert "thousands" in fault.expected
    assert warnings(statements("net_income,diluted_eps,diluted_shares", "100,2,50")) == []


def test_capital_expenditure_above_cash_flow_in_every_year_is_seen() -> None:
    rows = ["50,60", "55,70", "60,80"]
    (fault,) = warnings(statements("operating_cash_flow,capital_expenditure", *rows))
    assert (fault.column, fault.value) == ("capital_expenditure", "80,000,000")
    assert warnings(statements("operating_cash_flow,capital_expenditure", *rows[:2], "90,80")) == []


DIVIDENDS = "exchange,symbol,ex_date,pay_date,amount,currency\n"


def test_dividends_in_pence_are_seen_against_dividends_paid() -> None:
    """10 m paid on 50 m shares is 0.20 a share, not 20."""
    paid = statements("dividends_paid,diluted_shares", "10,50")
    pence = DIVIDENDS + "ELV,A,2023-06-01,2023-06-10,20,TLL\n"
    (fault,) = warnings(paid, ("dividends.csv", pence))
    assert (fault.column, fault.slip) == ("dividends_paid", "per_share:0.01")
    assert "pence" in fault.expected
    right = DIVIDENDS + "ELV,A,2023-06-01,2023-06-10,0.2,TLL\n"
    assert warnings(paid, ("dividends.csv", right)) == []


def test_a_split_since_then_is_no_slip() -> None:
    paid = statements("dividends_paid,diluted_shares", "10,500")
    before = DIVIDENDS + "ELV,A,2023-06-01,2023-06-10,0.2,TLL\n"
    split = "exchange,symbol,effective_on,new_shares,old_shares\nELV,A,2024-05-01,10,1\n"
    assert warnings(paid, ("dividends.csv", before))
    assert warnings(paid, ("dividends.csv", before), ("splits.csv", split)) == []


PRICES = "exchange,symbol,day,close\nELV,A,2023-12-29,{0}\nELV,A,2023-06-01,{0}\n"


def test_a_yield_above_half_the_price_is_seen() -> None:
    pence = DIVIDENDS + "ELV,A,2023-06-01,2023-06-10,20,TLL\n"
    (fault,) = warnings(("dividends.csv", pence), ("prices.csv", PRICES.format(30)))
    assert (fault.column, fault.slip) == ("amount", "per_share:0.01")
    assert warnings(("dividends.csv", pence), ("prices.csv", PRICES.format(600))) == []


def test_a_price_far_from_equity_is_seen_where_earnings_do_not_say() -> None:
    book = statements("equity,shares_outstanding", "500,0.05")
    (fault,) = warnings(book, ("prices.csv", PRICES.format(12)))
    assert (fault.column, fault.slip) == ("shares_outstanding", "shares:1000")
    right = statements("equity,shares_outstanding", "500,50")
    assert warnings(right, ("prices.csv", PRICES.format(12))) == []


def test_what_is_stored_counts_as_what_comes_in() -> None:
    class Stored(NothingStored):
        def regular_dividends(
            self, payers: object
        ) -> dict[tuple[str, str], list[tuple[date, float]]]:
            return {("ELV", "A"): [(date(2023, 6, 1), 20.0)]}

    name, text = statements("dividends_paid,diluted_shares", "10,50")
    reading = read_files([(name, text.encode())], Stored({("ELV", "A"): "TLL"}))
    assert [f.slip for f in reading.faults] == ["per_share:0.01"]


def test_what_a_year_paid_beside_its_payments_is_said() -> None:
    head = "exchange,symbol,ex_date,amount,currency,payments_per_year,assumed\n"
    paid = "".join(f"ELV,A,2023-{m:02}-10,0.6,TLL,,\n" for m in (1, 4, 7, 10))
    both = f"{head}ELV,A,2022-12-31,2.2,TLL,1,ex_date\nELV,A,2023-12-31,2.4,TLL,1,ex_date\n{paid}"
    (fault,) = warnings(("dividends.csv", both))
    assert (fault.line, fault.value) == (3, "2.4 for the year to 2023-12-31")
    assert "its payments alone" in fault.expected


def test_a_years_sum_that_is_held_gives_way_at_the_import_of_its_payments() -> None:
    class Stored(NothingStored):
        def sums_of_years(self, payers: object) -> dict[tuple[str, str], list[tuple[date, float]]]:
            return {("ELV", "A"): [(date(2022, 12, 31), 2.2), (date(2023, 12, 31), 2.4)]}

        def regular_dividends(
            self, payers: object
        ) -> dict[tuple[str, str], list[tuple[date, float]]]:
            return self.sums_of_years(payers)

    head = "exchange,symbol,ex_date,amount,currency,payments_per_year,assumed\n"
    paid = "".join(f"ELV,A,2023-{m:02}-10,0.6,TLL,,\n" for m in (1, 4, 7, 10))
    held = Stored({("ELV", "A"): "TLL"})
    (fault,) = read_files([("dividends.csv", (head + paid).encode())], held).faults
    assert (fault.line, fault.value) == (2, "2.4 for the year to 2023-12-31")
    assert "the sum is held" in fault.expected
    sums = f"{head}ELV,A,2023-12-31,2.5,TLL,1,ex_date\n"
    assert read_files([("dividends.csv", sums.encode())], held).faults == []


def test_revenue_many_times_all_that_a_payer_has_is_answered_by_itself() -> None:
    """455 billion of revenue on 1 billion of assets: thousands beside millions."""
    (fault,) = warnings(statements("revenue,total_assets", "455000,1000"))
    assert (fault.column, fault.grave) == ("revenue", True)
    assert "455 times as much" in fault.expected
    assert warnings(statements("revenue,total_assets", "9000,1000")) == []


def test_a_slip_is_answered_by_itself_and_what_is_only_odd_is_not() -> None:
    far = DIVIDENDS + "ELV,A,2023-06-01,2023-06-10,20,TLL\n"
    (slip,) = warnings(("dividends.csv", far), ("prices.csv", PRICES.format(30)))
    assert slip.grave
    years = statements("capital_expenditure,operating_cash_flow", "20,10", "20,10", "20,10")
    assert [f.grave for f in warnings(years)] == [False]
