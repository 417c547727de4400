"""Facts by hand: the reader and the checks of files, a source of their own, marked where used."""

from datetime import date

import pytest

from hearth_yield.actions.enter_facts import Typed, enter_facts, preview_typed
from hearth_yield.actions.import_files import import_files, preview_import, undo_import
from hearth_yield.actions.review_cache import ReviewCache
from hearth_yield.core.errors import Conflict, InvalidInput, RejectedImport
from hearth_yield.core.figures.figure import Touch
from hearth_yield.core.question import Question
from hearth_yield.exchange.faults import Fault
from hearth_yield.store import payer_files, sources
from hearth_yield.store.database import Database

DAY = date(2026, 6, 30)
NOW = "2026-06-30T10:00:00+00:00"
TRS = {"exchange": "ELV", "symbol": "TRS"}


def typed(table: str, *rows: dict[str, str], **more: str) -> Typed:
    return Typed(table=table, rows=[TRS | r for r in rows], **more)  # type: ignore[arg-type]


def faults(database: Database, entry: Typed) -> list[Fault]:
    return list(preview_typed(database, entry).faults)


DIVIDEND = {
    "ex_date": "2026-09-10",
    "declared_on": "2026-06-29",
    "amount": "0.60",
    "currency": "TLL",
}


def test_a_typed_dividend_counts_at_once_and_is_marked(demo: Database) -> None:
    source = enter_facts(demo, typed("dividends", DIVIDEND), at=NOW, accepted=())
    found = ReviewCache(demo).review("ELV", "TRS", DAY, Question())
    assert found.record.declared_rate.value == pytest.approx(2.4)
    assert found.record.declared_rate.touch is Touch.ENTERED
    assert found.worth.buy_below.touch is Touch.ENTERED
    assert found.cover.leading.worst_of_ten.touch is None
    undo_import(demo, source, at=NOW)
    after = ReviewCache(demo).review("ELV", "TRS", DAY, Question())
    assert after.record.declared_rate.touch is None


def test_a_typed_price_is_marked_in_the_yield(demo: Database) -> None:
    entry = typed("prices", {"day": "2026-06-30", "close": "60"})
    assert preview_typed(demo, entry).tables["prices"].changed == 1
    enter_facts(demo, entry, at=NOW, accepted=())
    found = ReviewCache(demo).review("ELV", "TRS", DAY, Question())
    assert (found.price.value, found.price.touch) == (60.0, Touch.ENTERED)
    assert found.range.now.touch is Touch.ENTERED


def statement(**lines: str) -> dict[str, str]:
    return {
        "period_end": "2026-06-30",
        "span": "quarter",
        "published_on": "2026-06-30",
        "currency": "TLL",
    } | lines


def test_money_is_read_in_its_unit_and_accountants_minus_is_a_minus(demo: Database) -> None:
    lines = statement(revenue="1.234,5", net_income="(12)", tax="–", diluted_eps="0,5")
    enter_facts(demo, typed("statements", lines, unit="million", decimal=","), at=NOW, accepted=())
    with demo.read() as connection:
        held = payer_files.load(connection, "ELV", "TRS").statements[-1]
    assert held.lines == {"revenue": 1_234_500_000.0, "net_income": -12e6, "diluted_eps": 0.5}
    assert held.entered


@pytest.mark.parametrize(
    ("entry", "column", "part"),
    [
        (typed("prices", {"day": "30 June", "close": "60"}), "day", "YYYY-MM-DD"),
        (typed("prices", {"day": "2026-06-30", "close": "-1"}), "close", "above 0"),
        (typed("prices", {"day": "2026-06-30"}), "close", "above 0"),
        (typed("prices", {"day": "2026-06-30", "close": "1", "colour": "x"}), "colour", "column"),
        (typed("dividends", DIVIDEND | {"pay_date": "2026-09-01"}), "pay_date", "on or after"),
        (
            typed("statements", statement(total_assets="10", total_liabilities="4", equity="5")),
            "total_assets",
            "within 0.5 %",
        ),
    ],
)
def test_every_check_of_a_file_runs_on_what_is_typed(
    demo: Database, entry: Typed, column: str, part: str
) -> None:
    found = [f for f in faults(demo, entry) if f.column == column]
    assert found
    assert part in found[0].expected
    with pytest.raises(RejectedImport):
        enter_facts(demo, entry, at=NOW, accepted="all")


@pytest.mark.parametrize(
    ("entry", "column"),
    [
        (typed("dividends", DIVIDEND | {"amount": "5.00"}), "amount"),
        (typed("dividends", DIVIDEND | {"currency": "XXX"}), "currency"),
        (typed("dividends", DIVIDEND | {"declared_on": "2026-09-20"}), "ex_date"),
        (typed("prices", {"day": "2026-06-28", "close": "20"}), "close"),
        (
            typed(
                "statements",
                statement(revenue="999") | {"period_end": "2025-12-31", "span": "year"},
                unit="million",
            ),
            "revenue",
        ),
        (
            typed(
                "statements", statement(revenue="9") | {"period_end": "2025-03-31"}, unit="million"
            ),
            "revenue",
        ),
    ],
)
def test_what_is_typed_is_held_against_what_is_stored(
    demo: Database, entry: Typed, column: str
) -> None:
    (found,) = faults(demo, entry)
    assert (found.warning, found.column) == (True, column)


def test_warnings_are_accepted_one_by_one_and_remembered(demo: Database) -> None:
    entry = typed(
        "prices", {"day": "2026-06-21", "close": "20"}, {"day": "2026-06-28", "close": "20"}
    )
    warned = faults(demo, entry)
    assert len(warned) >= 2
    places = list(range(len(warned)))
    with pytest.raises(RejectedImport) as caught:
        enter_facts(demo, entry, at=NOW, accepted=places[:1])
    assert len(caught.value.faults) == len(warned) - 1
    source = enter_facts(demo, entry, at=NOW, accepted=places)
    with demo.read() as connection:
        report = sources.report(connection, source)
    assert [w["column"] for w in report.warnings] == ["close"] * len(warned)
    assert report.rows == {"prices": 2}


def test_a_files_warnings_must_be_accepted_too(demo: Database) -> None:
    files = [("prices.csv", b"exchange,symbol,day,close\nELV,TRS,2026-06-28,20\n")]
    assert [f.warning for f in preview_import(demo, files).faults] == [True]
    with pytest.raises(RejectedImport, match="not accepted"):
        import_files(demo, files, at=NOW, accepted=())
    assert import_files(demo, files, at=NOW, accepted=(0,)) > 1


def test_a_split_that_is_held_explains_a_jump(demo: Database) -> None:
    with demo.read() as connection:
        file = payer_files.load(connection, "ELV", "OPT")
    closes = dict(zip(file.prices.days.astype(date), file.prices.closes, strict=True))
    before, after = closes[date(2012, 5, 11)], closes[date(2012, 5, 18)]
    assert before > 2.5 * after  # three for one on the 14th

    def on(day: str) -> list[Fault]:
        row = {"exchange": "ELV", "symbol": "OPT", "day": day, "close": f"{after:.2f}"}
        return faults(demo, Typed(table="prices", rows=[row]))

    assert on("2012-05-15") == []
    assert [f.column for f in on("2012-05-12")] == ["close"]


@pytest.mark.parametrize(
    ("entry", "error"),
    [
        (typed("recipes", {"day": "x"}), InvalidInput),
        (typed("prices", {"day": "x"}, decimal=";"), InvalidInput),
        (typed("statements", {"span": "x"}, unit="dozen"), InvalidInput),
    ],
)
def test_what_cannot_be_meant_is_refused(
    demo: Database, entry: Typed, error: type[Exception]
) -> None:
    with pytest.raises(error):
        enter_facts(demo, entry, at=NOW, accepted="all")


def test_what_is_held_already_is_refused(demo: Database) -> None:
    with demo.read() as connection:
        close = payer_files.load(connection, "ELV", "TRS").prices.closes[-1]
    entry = typed("prices", {"day": "2026-06-30", "close": str(close)})
    with pytest.raises(Conflict):
        enter_facts(demo, entry, at=NOW, accepted="all")
