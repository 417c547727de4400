"""House rules are stored in versions, and what was written before the names changed reads on."""

import json
from pathlib import Path

import pytest
from alembic import command
from alembic.config import Config
from sqlalchemy import text

from hearth_yield.actions.set_house_rules import set_house_rules
from hearth_yield.core.errors import InvalidInput
from hearth_yield.core.figures.measure import Limit
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.kinds import Kind
from hearth_yield.store import house_rules
from hearth_yield.store.database import MIGRATIONS, Database, edition

NOW = "2026-06-30T10:00:00+00:00"
RULES = HouseRules(
    built_up=(Kind.PROPERTY_TRUST,),
    built_up_payers={"ELV/TRS": True},
    margin_of_safety=0.25,
    close_under=0.15,
    required_returns={**HouseRules().required_returns, Kind.COMPANY: 0.09},
    limits={Kind.COMPANY: {"payout": Limit(value=0.75, required=True)}},
)


def test_rules_read_back_and_keep_only_what_differs() -> None:
    assert house_rules.to_body(HouseRules()) == {}
    body = json.loads(json.dumps(house_rules.to_body(RULES)))
    assert house_rules.from_body(body) == RULES
    assert set(body) == {
        "margin_of_safety",
        "close_under",
        "required_returns",
        "limits",
        "built_up",
        "built_up_payers",
    }


def test_every_change_is_a_version_and_part_of_the_edition(empty: Database) -> None:
    with empty.read() as connection:
        before = edition(connection)
    assert set_house_rules(empty, RULES, at=NOW) == 1
    assert set_house_rules(empty, HouseRules(), at=NOW) == 2
    with empty.read() as connection:
        after = edition(connection)
        assert house_rules.of_version(connection, 1) == RULES
        assert house_rules.of_version(connection, 2) == HouseRules()
    assert (after.facts, after.rules) == (before.facts, before.rules + 2)


@pytest.mark.parametrize(
    ("rules", "field"),
    [
        (HouseRules(margin_of_safety=1.0), "margin_of_safety"),
        (HouseRules(close_under=-0.1), "close_under"),
        (HouseRules(limits={Kind.COMPANY: {"luck": Limit(value=1, required=True)}}), "limits"),
    ],
)
def test_rules_that_cannot_be_name_their_field(
    empty: Database, rules: HouseRules, field: str
) -> None:
    with pytest.raises(InvalidInput) as caught:
        set_house_rules(empty, rules, at=NOW)
    assert caught.value.field == field


def test_old_names_of_figures_and_states_are_carried_over(tmp_path: Path) -> None:
    database = Database(tmp_path / "old.sqlite")
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    figure = {"label": "x", "unit": "fraction", "value": 0.5, "reason": None}
    frozen = {"price": figure, "record.growth.5": figure, "tests.leading_payout.measure": figure}
    where = {
        "join": "all",
        "parts": [
            {"id": "state", "op": "is", "words": ["covered", "thin"]},
            {"join": "any", "parts": [{"id": "blend", "op": "at_least", "value": 1, "words": []}]},
        ],
    }
    search = {"q": "", "where": where, "sort": "price_against_blend", "descending": False}
    with database.engine.execution_options(immediate=True).begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "0004")
        connection.execute(
            text(
                "INSERT INTO decision (id, symbol, exchange, as_of, recorded_at, verdict, words,"
                " currency, state, frozen, withdrawn) VALUES (1, 'A', 'B', '2026-06-30', 'now',"
                " 'hold', 'w', 'TLL', 'thin', :frozen, 0)"
            ),
            {"frozen": json.dumps(frozen)},
        )
        for id, (kind, body) in enumerate(
            [("search", search), ("columns", {"columns": ["yield", "blend"]})]
        ):
            connection.execute(
                text("INSERT INTO saved_view VALUES (:id, :kind, 'mine', :body)"),
                {"id": id, "kind": kind, "body": json.dumps(body)},
            )
        made = ("left_out", "set_aside:free_cash_flow", "net_income")
        for field in made:
            connection.execute(
                text(
                    "INSERT INTO adjustment (exchange, symbol, table_name, row_key, field, value,"
                    " reason, made_at) VALUES ('B', 'A', 'statements', '{}', :field, 0, 'r', 'now')"
                ),
                {"field": field},
            )
    database.migrate()
    with database.read() as connection:
        fields = connection.scalars(text("SELECT field FROM edit ORDER BY id")).all()
        state, held, question = connection.execute(
            text("SELECT state, frozen, question FROM decision")
        ).one()
        searched, columns = connection.scalars(text("SELECT body FROM saved_view ORDER BY id"))
    assert fields == ["excluded", "excluded:free_cash_flow", "net_income"]
    assert (state, json.loads(question)) == ("close", {})
    assert set(json.loads(held)) == {"payer.price", "record.growth_5", "cover.payout"}
    read = json.loads(searched)
    assert read["sort"] == "price_against_combined"
    assert read["where"]["parts"][0]["words"] == ["within", "close"]
    assert read["where"]["parts"][1]["parts"][0]["id"] == "combined"
    assert json.loads(columns) == {"columns": ["yield", "combined"]}
    database.close()


def test_a_base_year_of_an_old_decision_is_one_of_two(tmp_path: Path) -> None:
    database = Database(tmp_path / "old.sqlite")
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    asked = ('{"base_year": "2010", "window": "10"}', '{"window": "3"}')
    with database.engine.execution_options(immediate=True).begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "0007")
        for id, question in enumerate(asked):
            connection.execute(
                text(
                    "INSERT INTO decision (id, symbol, exchange, as_of, recorded_at, verdict,"
                    " words, currency, frozen, withdrawn, question) VALUES (:id, 'A', 'B',"
                    " '2026-06-30', 'now', 'hold', 'w', 'TLL', '{}', 0, :question)"
                ),
                {"id": id, "question": question},
            )
    database.migrate()
    with database.read() as connection:
        rows = connection.execute(
            text("SELECT question, strains, disagreements FROM decision ORDER BY id")
        ).all()
    assert [json.loads(r.question) for r in rows] == [
        {"base_years": "2010", "window": "10"},
        {"window": "3"},
    ]
    assert [(r.strains, r.disagreements) for r in rows] == [("[]", "{}")] * 2
    database.close()


def test_a_crossed_limit_is_outside_it_in_what_was_kept_before(tmp_path: Path) -> None:
    database = Database(tmp_path / "old.sqlite")
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    kept = {
        "tests": [{"name": "over the hill", "state": "over"}, {"name": "b", "state": "close"}],
        "stages": [{"id": "cover", "state": "over", "said": ["over"]}],
    }
    where = {"join": "all", "parts": [{"id": "state", "op": "is", "words": ["over", "close"]}]}
    with database.engine.execution_options(immediate=True).begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "0020")
        connection.execute(
            text(
                "INSERT INTO decision (id, symbol, exchange, as_of, recorded_at, verdict, words,"
                " currency, state, frozen, withdrawn, strains, kept) VALUES (1, 'A', 'B',"
                " '2026-06-30', 'now', 'hold', 'over', 'TLL', 'over', '{}', 0, :strains, :kept)"
            ),
            {"strains": '[{"name": "x", "state": "over"}]', "kept": json.dumps(kept)},
        )
        connection.execute(
            text("INSERT INTO saved_view VALUES (1, 'search', 'mine', :body)"),
            {"body": json.dumps({"q": "over", "where": where})},
        )
    database.migrate()
    with database.read() as connection:
        row = connection.execute(text("SELECT state, words, strains, kept FROM decision")).one()
        body = json.loads(connection.scalar(text("SELECT body FROM saved_view")) or "")
    held = json.loads(row.kept)
    assert (row.state, row.words) == ("outside", "over")
    assert json.loads(row.strains)[0]["state"] == "outside"
    assert [t["state"] for t in held["tests"]] == ["outside", "close"]
    assert held["tests"][0]["name"] == "over the hill"
    assert held["stages"][0] == {"id": "cover", "state": "outside", "said": ["over"]}
    assert body["where"]["parts"][0]["words"] == ["outside", "close"]
    assert body["q"] == "over"
    database.close()
