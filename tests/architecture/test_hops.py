"""How far a dividend travels, counted by following a marked one: the bounds are what it takes
today, and may only fall."""

from datetime import date

from hearth_yield.actions.import_files import import_files, plan_import
from hearth_yield.actions.read_found import Settled, understand_files
from hearth_yield.actions.review_cache import ReviewCache
from hearth_yield.api.answer import written
from hearth_yield.api.record import payments_series
from hearth_yield.core.question import Question
from hearth_yield.exchange.book import write_book
from hearth_yield.exchange.found.reader import Writer, read
from hearth_yield.store.database import Database, edition_and_pinned
from tests.architecture.hops import Follower, Trail

MARK = 0.73519
TODAY = date(2026, 6, 30)
NOW = "2026-06-30T10:00:00+00:00"
OURS = f"exchange,symbol,ex_date,amount,currency\nELV,TRS,2024-02-07,{MARK},TLL\n".encode()
FOREIGN = write_book(
    {
        "Dividends": [
            ["Greywake Kilns"],
            [],
            ["Ex-Date", "Amount (TLL)", "Pay Date"],
            [date(2024, 3, 7), MARK, date(2024, 3, 20)],
            [date(2024, 5, 7), 0.5, date(2024, 5, 20)],
        ]
    }
)


def stored(database: Database, name: str, raw: bytes) -> Trail:
    with Follower(MARK) as trail:
        understood = understand_files(database, [(name, raw)], Settled(), today=TODAY)
        assert understood.upload is not None
        _, planned = plan_import(database, understood.upload, today=TODAY)
        import_files(database, understood.upload, at=NOW, today=TODAY, planned=planned)
    return trail


def read_in_its_process(name: str, raw: bytes) -> Trail:
    """What the reader's own process does, done here."""
    with Follower(MARK) as trail:
        read(raw, name, "", Writer(lambda frame: None))
    return trail


def shown(database: Database) -> Trail:
    with database.read() as connection:
        edition, _ = edition_and_pinned(connection)
    with Follower(MARK) as trail:
        review = ReviewCache(database).review("ELV", "TRS", TODAY, Question(), edition)
        written(payments_series(review.record))
    return trail


def test_a_value_takes_no_detours(twenty: Database) -> None:
    ours = stored(twenty, "dividends.csv", OURS)
    wire = shown(twenty)
    foreign = stored(twenty, "divs.xlsx", FOREIGN)
    apart = read_in_its_process("divs.xlsx", FOREIGN)
    hops = {
        "ours, to the store": len(ours.hops),
        "a person's own file, to the store": len(foreign.hops) + len(apart.hops),
        "from the store to the wire": len(wire.hops),
    }
    bounds = {
        "ours, to the store": 18,
        "a person's own file, to the store": 33,
        "from the store to the wire": 27,
    }
    assert {n: h for n, h in hops.items() if h > bounds[n]} == {}, hops
    assert min(hops.values()) > 5
    assert len(foreign.shapes | apart.shapes) <= 6, foreign.shapes
    assert len(wire.shapes) <= 5, wire.shapes
