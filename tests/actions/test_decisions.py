from datetime import date
from decimal import Decimal

import pytest

from hearth_yield.actions.decide import decide, past_decisions, withdraw
from hearth_yield.actions.desk import Desk
from hearth_yield.actions.import_files import import_files
from hearth_yield.core.errors import Conflict, InvalidInput
from hearth_yield.core.review import Question
from hearth_yield.core.worth.inputs import WorthInputs
from hearth_yield.store.database import Database

TODAY = date(2026, 6, 30)


def decided(desk: Desk, **more: object) -> int:
    base: dict[str, object] = {
        "today": TODAY,
        "as_of": TODAY,
        "recorded_at": "2026-06-30T10:00:00+00:00",
        "verdict": "wait",
        "words": "Fine payer, dear price.",
        "buy_below": Decimal("55.25"),
        "question": Question(),
    }
    return decide(desk, "ELV", "TRS", **(base | more))  # type: ignore[arg-type]


def test_a_decision_freezes_the_figures_it_rests_on(demo: Database) -> None:
    desk = Desk(demo)
    decided(desk, question=Question(inputs=WorthInputs(growth=0.04)))
    past = past_decisions(desk, "ELV", "TRS", TODAY)[0]
    review = desk.review("ELV", "TRS", TODAY, Question())
    assert past.made.frozen["price"]["value"] == review.price.value
    assert past.made.frozen["worth.growth"]["value"] == 0.04
    assert past.made.buy_below == Decimal("55.25")
    assert past.made.state == "thin"


def test_what_has_changed_since_is_named(demo: Database) -> None:
    desk = Desk(demo)
    decided(desk)
    assert not [c for c in past_decisions(desk, "ELV", "TRS", TODAY)[0].changes if c.moved]
    text = b"exchange,symbol,day,close\nELV,TRS,2026-06-30,80.00\n"
    import_files(demo, [("prices.csv", text)], at="2026-06-30T11:00:00+00:00")
    moved = {c.key for c in past_decisions(desk, "ELV", "TRS", TODAY)[0].changes if c.moved}
    assert {"price", "worth_range.now"} <= moved
    assert "record.declared_rate" not in moved


def test_a_later_split_is_no_change(demo: Database) -> None:
    desk = Desk(demo)
    decided(desk)
    with demo.write() as connection:
        connection.exec_driver_sql("UPDATE household SET pinned_today = '2026-07-20'")
    text = b"exchange,symbol,effective_on,new_shares,old_shares\nELV,TRS,2026-07-10,2,1\n"
    import_files(demo, [("splits.csv", text)], at="2026-07-20T11:00:00+00:00")
    past = past_decisions(desk, "ELV", "TRS", date(2026, 7, 20))[0]
    moved = {c.key for c in past.changes if c.moved}
    assert "price" not in moved
    assert "record.declared_rate" not in moved
    assert past.buy_below == 55.25 / 2
    assert past.made.buy_below == Decimal("55.25")


@pytest.mark.parametrize(
    ("field", "value"),
    [
        ("verdict", "yes"),
        ("words", "  "),
        ("buy_below", Decimal("0")),
        ("buy_below", Decimal("-1")),
    ],
)
def test_refusals_name_the_field(demo: Database, field: str, value: object) -> None:
    with pytest.raises(InvalidInput) as caught:
        decided(Desk(demo), **{field: value})
    assert caught.value.field == field
    assert caught.value.rule


def test_nobody_decides_on_a_past_day(demo: Database) -> None:
    with pytest.raises(Conflict, match="standing on 2019-05-03"):
        decided(Desk(demo), as_of=date(2019, 5, 3))


def test_a_past_view_does_not_know_later_decisions(demo: Database) -> None:
    desk = Desk(demo)
    decided(desk)
    assert past_decisions(desk, "ELV", "TRS", date(2026, 6, 29)) == []


def test_a_decision_can_be_taken_back_and_restored(demo: Database) -> None:
    desk = Desk(demo)
    id = decided(desk)
    withdraw(desk, id, True)
    assert past_decisions(desk, "ELV", "TRS", TODAY) == []
    withdraw(desk, id, False)
    assert len(past_decisions(desk, "ELV", "TRS", TODAY)) == 1
