"""How far a dividend travels, counted by following a marked one: the bounds are what it takes
today, and may only fall."""

from datetime import date

import pytest

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
from tests.conftest import example

MARK = 0.73519
TODAY = date(2026, 6, 30)
NOW = "2026-06-30T10:00:00+00:00"
OURS = f"exchange,symbol,ex_date,amount,currency\nELV,PNL,2021-08-07,{MARK},TLL\n".encode()
FOREIGN = write_book(
    {
        "Dividends": [
            ["Pennant Lamps"],
            [],
            ["Ex-Date", "Amount (TLL)", "Pay Date"],
            [date(2026, 4, 7), MARK, date(2026, 4, 20)],
            [date(2026, 6, 7), 0.5, date(2026, 6, 20)],
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
        review = ReviewCache(database).review("ELV", "PNL", TODAY, Question(), edition)
        written(payments_series(review.record))
    return trail


@pytest.fixture
def lamps(empty: Database) -> Database:
    import_files(empty, example("pennant-lamps"), at=NOW)
    return empty


def test_a_value_takes_no_detours_from_a_file_of_ours_to_the_wire(lamps: Database) -> None:
    ours, wire = stored(lamps, "dividends.csv", OURS), shown(lamps)
    assert 5 < len(ours.hops) <= 18, list(ours.hops)
    assert len(ours.shapes) <= 3, ours.shapes
    assert 5 < len(wire.hops) <= 29, list(wire.hops)
    assert len(wire.shapes) <= 5, wire.shapes


def test_a_value_takes_no_detours_from_a_persons_own_file(lamps: Database) -> None:
    foreign = stored(lamps, "divs.xlsx", FOREIGN)
    apart = read_in_its_process("divs.xlsx", FOREIGN)
    hops = foreign.hops | apart.hops
    assert 5 < len(hops) <= 33, list(hops)
    assert len(foreign.shapes | apart.shapes) <= 3, foreign.shapes
