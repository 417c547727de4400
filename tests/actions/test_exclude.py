"""Leaving a fact out: it counts on no day, what rests on its absence says so, and it comes back."""

from datetime import date

import pytest

from hearth_yield.actions.back_up import back_up, restore
from hearth_yield.actions.edit_facts import exclude, withdraw
from hearth_yield.actions.ensure_measures import ensure_measures, universe
from hearth_yield.actions.enter_facts import Typed, enter_facts
from hearth_yield.actions.import_files import ALL
from hearth_yield.actions.review_cache import ReviewCache
from hearth_yield.core.errors import InvalidInput, NotFound
from hearth_yield.core.figures.figure import Figure, Touch
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.names import named_figures
from hearth_yield.core.question import Question
from hearth_yield.core.review import Review
from hearth_yield.store.database import Database

DAY = date(2026, 6, 30)
NOW = "2026-06-30T10:00:00+00:00"


def review(database: Database, symbol: str, day: date = DAY) -> Review:
    return ReviewCache(database).review("ELV", symbol, day, Question())


def out(database: Database, symbol: str, table: str, **key: str) -> int:
    return exclude(
        database, "ELV", symbol, table=table, key=key, reason="stood twice in the file", at=NOW
    )


def typed(database: Database, table: str, *rows: dict[str, str]) -> int:
    whole = [{"exchange": "ELV", **row} for row in rows]
    return enter_facts(database, Typed(table=table, rows=whole), at=NOW, accepted=ALL)


def touch_of(found: Review, name: str) -> Touch | None:
    figure = named_figures(found)[name]
    assert isinstance(figure, Figure)
    return figure.touch


def test_a_dividend_excluded_counts_nowhere_and_comes_back(twenty: Database) -> None:
    before = review(twenty, "TRS")
    newest = before.record.years[-1].payments[-1].fact
    id = out(twenty, "TRS", "dividends", ex_date=newest.ex_date.isoformat(), kind="regular")
    after = review(twenty, "TRS")
    year = after.record.years[-1]
    assert len(year.payments) == len(before.record.years[-1].payments) - 1
    assert year.total.touch is Touch.EDITED
    assert "stood twice in the file" in year.total.notes[-1]
    assert touch_of(after, "record.declared_rate") is Touch.EDITED
    assert touch_of(after, "range.mean_yield") is Touch.EDITED
    assert touch_of(after, "cover.bases.free_cash_flow.latest.payout") is None
    assert [x.day for x in after.exclusions] == [newest.ex_date]
    withdraw(twenty, id, at=NOW)
    back = named_figures(review(twenty, "TRS"))
    assert {k: f.value for k, f in back.items()} == {
        k: f.value for k, f in named_figures(before).items()
    }
    assert not any(f.touch for f in back.values())


def test_an_earlier_year_is_not_marked_by_it(twenty: Database) -> None:
    payment = review(twenty, "TRS").record.years[-6].payments[0].fact
    out(twenty, "TRS", "dividends", ex_date=payment.ex_date.isoformat(), kind="regular")
    after = review(twenty, "TRS").record
    assert [y.total.touch for y in after.years[-7:-4]] == [None, Touch.EDITED, None]
    assert after.declared_rate.touch is None


def test_it_does_not_count_on_a_day_before_it_was_known(twenty: Database) -> None:
    payment = review(twenty, "TRS").record.years[-2].payments[-1].fact
    out(twenty, "TRS", "dividends", ex_date=payment.ex_date.isoformat(), kind="regular")
    assert review(twenty, "TRS", date(2024, 6, 28)).exclusions == ()


def test_a_close_excluded_gives_way_to_the_one_before(twenty: Database) -> None:
    before = review(twenty, "TRS").price
    out(twenty, "TRS", "prices", day="2026-06-30")
    after = review(twenty, "TRS").price
    assert before.known_on == DAY
    assert after.known_on == date(2026, 6, 29)
    assert after.touch is Touch.EDITED
    assert "close of 2026-06-30 excluded by you" in after.notes[-1]


def test_a_restatement_excluded_lets_the_first_version_stand_and_says_so(twenty: Database) -> None:
    def fiscal_2022(found: Review) -> Figure:
        return named_figures(found)["cover.bases.earnings.years.2022-12-31.payout"]

    restated = fiscal_2022(review(twenty, "SLTM"))
    first = fiscal_2022(review(twenty, "SLTM", date(2023, 6, 30)))
    assert restated.value != first.value
    out(
        twenty,
        "SLTM",
        "statements",
        period_end="2022-12-31",
        span="year",
        published_on=str(restated.inputs[0].known_on),
    )
    stands = fiscal_2022(review(twenty, "SLTM"))
    assert stands.value == first.value
    assert stands.touch is Touch.EDITED
    assert fiscal_2022(review(twenty, "SLTM", date(2023, 6, 30))).touch is None


def test_a_fiscal_year_excluded_marks_what_spans_it(twenty: Database) -> None:
    year = named_figures(review(twenty, "TRS"))["cover.bases.earnings.years.2023-12-31.payout"]
    out(
        twenty,
        "TRS",
        "statements",
        period_end="2023-12-31",
        span="year",
        published_on=str(year.inputs[0].known_on),
    )
    after = review(twenty, "TRS")
    assert "cover.bases.earnings.years.2023-12-31.payout" not in named_figures(after)
    assert touch_of(after, "cover.bases.earnings.through_cycle") is Touch.EDITED
    assert touch_of(after, "cover.bases.earnings.years.2022-12-31.payout") is None


def test_a_notice_a_split_and_a_note_are_excluded_too(demo: Database) -> None:
    with demo.read() as connection:
        held = connection.exec_driver_sql(
            "SELECT declared_on FROM dividend_notice JOIN payer ON payer.id = payer_id "
            "WHERE symbol = 'CLFN' AND dividend_notice.kind = 'suspended'"
        ).scalar_one()
        split = connection.exec_driver_sql(
            "SELECT effective_on FROM split JOIN payer ON payer.id = payer_id WHERE symbol = 'OPT'"
        ).scalar_one()
    out(demo, "CLFN", "dividend_notices", declared_on=held)
    assert [x.table for x in review(demo, "CLFN").exclusions] == ["dividend_notices"]
    before = review(demo, "OPT").record.years[0].total.value
    out(demo, "OPT", "splits", effective_on=split)
    assert review(demo, "OPT").record.years[0].total.value != before
    sector = review(demo, "OPT").sector
    assert sector is not None
    out(demo, "OPT", "payer_notes", field="sector", published_on=sector.published_on.isoformat())
    left = review(demo, "OPT").sector
    assert left is None or left.published_on < sector.published_on


def test_the_table_of_payers_is_made_again_without_it(twenty: Database) -> None:
    out(twenty, "TRS", "prices", day="2026-06-30")
    assert ensure_measures(twenty, HouseRules(), DAY) == 1
    held = next(
        e.measured for e in universe(ReviewCache(twenty), DAY).candidates if e.symbol == "TRS"
    )
    assert held is not None
    assert held.cells["price"].touch is Touch.EDITED


@pytest.mark.parametrize(
    ("table", "key", "error"),
    [
        ("dividends", {"ex_date": "1900-01-01", "kind": "regular"}, NotFound),
        ("dividends", {"ex_date": "1900-01-01"}, InvalidInput),
        ("dividends", {"ex_date": "tomorrow", "kind": "regular"}, InvalidInput),
        ("slumps", {"name": "The herring slump"}, InvalidInput),
        ("prices", {"day": "2026-06-28"}, NotFound),
    ],
)
def test_what_is_not_held_cannot_be_excluded(
    twenty: Database, table: str, key: dict[str, str], error: type[Exception]
) -> None:
    with pytest.raises(error):
        out(twenty, "TRS", table, **key)


def test_it_wants_a_reason(twenty: Database) -> None:
    with pytest.raises(InvalidInput, match="reason"):
        exclude(
            twenty, "ELV", "TRS", table="prices", key={"day": "2026-06-30"}, reason="  ", at=NOW
        )


def test_it_goes_out_with_a_backup_and_comes_back(twenty: Database, empty: Database) -> None:
    out(twenty, "TRS", "prices", day="2026-06-30")
    restore(empty, back_up(twenty, at=NOW), at=NOW)
    assert [x.name for x in review(empty, "TRS").exclusions] == ["close of 2026-06-30"]


def test_a_split_by_hand_marks_all_that_is_adjusted_by_it(twenty: Database) -> None:
    typed(
        twenty,
        "splits",
        {"symbol": "TRS", "effective_on": "2024-05-13", "new_shares": "2", "old_shares": "1"},
    )
    after = review(twenty, "TRS")
    totals = {y.year: y.total for y in after.record.years}
    assert totals[2023].touch is Touch.ENTERED
    assert totals[2025].touch is None
    assert after.price.touch is None
    assert after.range.mean.touch is Touch.ENTERED
    per_share = named_figures(after)["cover.bases.earnings.years.2022-12-31.per_share"]
    assert per_share.touch is Touch.ENTERED


def test_a_note_by_hand_is_marked_in_the_review_and_the_table(twenty: Database) -> None:
    typed(
        twenty,
        "payer_notes",
        {"symbol": "TRS", "field": "sector", "published_on": "2026-06-29", "value": "Soap"},
    )
    sector = review(twenty, "TRS").sector
    assert sector is not None
    assert (sector.value, sector.touch) == ("Soap", Touch.ENTERED)
    ensure_measures(twenty, HouseRules(), DAY)
    held = next(
        e.measured for e in universe(ReviewCache(twenty), DAY).candidates if e.symbol == "TRS"
    )
    assert held is not None
    assert held.word_touches == {"sector": Touch.ENTERED}


def test_a_rhythm_recorded_by_hand_marks_the_rate_read_from_it(twenty: Database) -> None:
    typed(
        twenty,
        "payers",
        {
            "symbol": "TRS",
            "name": "Tallow & Reed Soapworks",
            "kind": "company",
            "country": "Sundrey Isles",
            "currency": "TLL",
            "fiscal_year_end_month": "12",
            "rhythm": "4",
        },
    )
    after = review(twenty, "TRS")
    assert after.payer.touch is Touch.ENTERED
    assert after.record.rhythm.touch is Touch.ENTERED
