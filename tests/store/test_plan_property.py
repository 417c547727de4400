"""What an import would do, held against a plain dictionary that does the same."""

from datetime import date, timedelta
from pathlib import Path
from tempfile import TemporaryDirectory

from hypothesis import given, settings
from hypothesis import strategies as st

from hearth_yield.store import facts, sources
from hearth_yield.store.database import Database
from hearth_yield.store.stored import StoredFacts
from tests.conftest import sample
from tests.databases import new_database

PAYERS = [("E", "A"), ("E", "B")]
FIRST = date(2026, 1, 1)
closes = st.dictionaries(
    st.tuples(st.sampled_from(PAYERS), st.integers(0, 40)), st.integers(1, 5), max_size=12
)
Closes = dict[tuple[tuple[str, str], int], int]


def payer(exchange: str, symbol: str) -> dict[str, object]:
    return {
        "exchange": exchange,
        "symbol": symbol,
        "name": symbol,
        "kind": "company",
        "country": "S",
        "currency": "TLL",
        "fiscal_year_end_month": 12,
        "rhythm": None,
        "evenness": None,
        "description": "",
        "listed_on": None,
        "delisted_on": None,
    }


def records(found: Closes) -> list[dict[str, object]]:
    return [
        {"exchange": e, "symbol": s, "day": FIRST + timedelta(n), "close": float(c), "volume": None}
        for ((e, s), n), c in found.items()
    ]


def write(database: Database, **tables: list[dict[str, object]]) -> tuple[int, int]:
    with database.write() as connection:
        source = sources.add(connection, kind="import", file_name="f", sha256=None, added_at="now")
        return facts.apply(connection, facts.plan(connection, tables), source)


@settings(max_examples=sample(20, 400), deadline=None)
@given(held=closes, comes=closes)
def test_added_changed_and_same_are_what_a_dictionary_says(held: Closes, comes: Closes) -> None:
    with TemporaryDirectory() as folder:
        database = new_database(Path(folder) / "x.sqlite")
        write(database, payers=[payer(*p) for p in PAYERS])
        write(database, prices=records(held))
        with database.read() as connection:
            plan = facts.plan(connection, {"prices": records(comes)}).get("prices")
        same = sum(held.get(k) == v for k, v in comes.items())
        changed = sum(k in held and held[k] != v for k, v in comes.items())
        if comes:
            assert plan is not None
            assert (len(plan.added), len(plan.changed), plan.same) == (
                len(comes) - same - changed,
                changed,
                same,
            )
        write(database, prices=records(comes))
        with database.read() as connection:
            stored = facts.records_of(connection)["prices"]
        assert {
            ((r["exchange"], r["symbol"]), (r["day"] - FIRST).days): r["close"] for r in stored
        } == {**held, **comes}
        database.close()


def test_what_is_held_answers_for_a_payer_and_for_a_stranger(demo: Database) -> None:
    with demo.read() as connection:
        held = StoredFacts(connection)
        trs, stranger = ("ELV", "TRS"), ("ELV", "NOBODY")
        paid = held.regular_dividends({trs, stranger})
        assert set(paid) == {trs}
        assert paid[trs] == sorted(paid[trs])
        assert len(paid[trs]) > 100
        days = (date(2026, 6, 24), date(2026, 6, 24))
        near = held.closes_near({trs: days, stranger: days})
        assert set(near) == {trs}
        assert {d for d, _ in near[trs]} <= {date(2026, 6, 16) + timedelta(n) for n in range(17)}
        assert len(near[trs]) > 8
        orvn = ("ELV", "ORVN")
        assert held.splits({orvn, stranger}) == {orvn: [date(2005, 6, 13), date(2017, 9, 4)]}
        assert set(held.statements({trs, stranger})) == {trs}
