"""What Holdings reads of a payer is what its review says."""

from datetime import date

import pytest

from hearth_yield.actions.edit_facts import edit_value, exclude
from hearth_yield.actions.read_holdings import figures_of
from hearth_yield.actions.review_cache import ReviewCache
from hearth_yield.core.figures.figure import Figure
from hearth_yield.core.question import Question
from hearth_yield.store import payer_files
from hearth_yield.store.database import Database

DAY = date(2026, 6, 30)
AT = "2026-06-30T10:00:00+00:00"


def light(database: Database, exchange: str, symbol: str, day: date) -> tuple[Figure, Figure]:
    with database.read() as connection:
        shared = payer_files.Shared()
        file = payer_files.load_newest(connection, exchange, symbol, day, shared)
    return figures_of(file.cut(day))


def whole(database: Database, exchange: str, symbol: str, day: date) -> tuple[Figure, Figure]:
    review = ReviewCache(database).review(exchange, symbol, day, Question())
    return review.price, review.record.declared_rate


@pytest.mark.parametrize("day", [DAY, date(2020, 5, 5), date(2003, 3, 3), date(1990, 1, 1)])
def test_price_and_rate_are_those_of_the_review(twenty: Database, day: date) -> None:
    with twenty.read() as connection:
        keys = payer_files.keys(connection)
    for key in keys:
        assert light(twenty, *key, day) == whole(twenty, *key, day), key


def test_an_edited_or_excluded_close_counts_as_in_the_review(twenty: Database) -> None:
    seen = set()
    for _ in range(3):
        newest = light(twenty, "ELV", "TRS", DAY)[0].known_on
        assert newest is not None
        assert newest not in seen
        seen.add(newest)
        key = {"day": newest.isoformat()}
        exclude(twenty, "ELV", "TRS", table="prices", key=key, reason="a slip", at=AT)
    price, _ = light(twenty, "ELV", "TRS", DAY)
    assert price == whole(twenty, "ELV", "TRS", DAY)[0]
    assert price.known_on is not None
    assert price.known_on < min(seen)
    edit_value(
        twenty,
        "ELV",
        "TRS",
        table="prices",
        key={"day": price.known_on.isoformat()},
        field="close",
        value=12.5,
        reason="a slip",
        at=AT,
    )
    assert light(twenty, "ELV", "TRS", DAY)[0].value == 12.5
    assert light(twenty, "ELV", "TRS", DAY)[0] == whole(twenty, "ELV", "TRS", DAY)[0]
