"""What the world publishes after the demo's day gives a person something to hear."""

from datetime import date
from pathlib import Path

from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.signals.held import HELD
from hearth_yield.core.signals.make import KINDS, signals_of
from hearth_yield.core.signals.signal import Followed, Wait
from hearth_yield.demo.ahead import END
from hearth_yield.demo.cast import CAST
from hearth_yield.demo.script import TODAY
from hearth_yield.demo.world import Extent, stream
from hearth_yield.store import facts, payer_files, sources
from hearth_yield.store.database import Database

FOLLOWED = ("WKTG", "HRWO", "OPT")
UNTIL = date(2028, 6, 30)
OF_THE_PERSON = {"data_old", "step_reached", "expectation"}
"""Kinds that come of what the person set, or of data that stops."""


def test_signals_of_each_kind_come_within_two_years(tmp_path: Path) -> None:
    database = Database(tmp_path / "ahead.sqlite")
    database.migrate()
    some = [s for s in CAST if s.symbol in FOLLOWED]
    with database.write() as connection:
        source = sources.add(
            connection, kind="demo", file_name="x", sha256=None, added_at="2028-12-29T00:00:00Z"
        )
        for records in stream(some, extent=Extent(until=END)):
            facts.apply(connection, facts.plan(connection, records), source)
    found = set()
    with database.read() as connection:
        for exchange, symbol in payer_files.keys(connection):
            file = payer_files.load(connection, exchange, symbol)
            price = float(file.cut(TODAY).prices.closes[-1])
            wait = Wait(
                made=TODAY,
                until=None,
                buy_below=0.92 * price,
                trim_above=1.15 * price,
                next_look=date(2027, 3, 1),
            )
            told = signals_of(file, HouseRules(), TODAY, UNTIL, Followed(waits=[wait]))
            found |= {s.kind.id for s in told}
    database.close()
    assert KINDS.keys() - OF_THE_PERSON - {kind.id for kind in HELD} <= found
