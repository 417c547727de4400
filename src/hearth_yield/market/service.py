"""The market's routes: what is published, what it is, and how it is to misbehave."""

from __future__ import annotations

import json
import threading
import time
from bisect import bisect_right
from collections.abc import AsyncIterator, Iterator, Mapping, Sequence
from contextlib import asynccontextmanager
from dataclasses import dataclass, field
from datetime import date, timedelta
from itertools import groupby
from typing import Annotated, Any, NamedTuple

from fastapi import FastAPI, HTTPException, Query
from fastapi.responses import Response, StreamingResponse
from pydantic import BaseModel, Field
from starlette.middleware.trustedhost import TrustedHostMiddleware

from hearth_yield.demo.ahead import END, Told, tell_ahead
from hearth_yield.demo.script import TODAY
from hearth_yield.demo.world import SEED, shared_series
from hearth_yield.exchange.columns import FORMATS
from hearth_yield.exchange.writing import of_format
from hearth_yield.feed.wire import MOST_ITEMS, AboutOut, Cell, PageOut

NAME = "the Sundrey market"
A_DAY = 100_000
"""Numbers of one day: its rows, and from PUT_RIGHT on what is corrected."""
PUT_RIGHT = 90_000


class Published(NamedTuple):
    number: int
    known_on: date
    table: str
    row: Mapping[str, Any]


class FaultsIn(BaseModel):
    """How it misbehaves from now on. slow: seconds before each answer. The counts are of answers
    still to come: fail answers 500, half breaks off, wrong has a row of wrong types, twice repeats
    rows, back dates its rows before those that came, early adds a row of a day to come."""

    slow: Annotated[float, Field(ge=0, le=60)] = 0.0
    fail: Annotated[int, Field(ge=0)] = 0
    half: Annotated[int, Field(ge=0)] = 0
    wrong: Annotated[int, Field(ge=0)] = 0
    twice: Annotated[int, Field(ge=0)] = 0
    back: Annotated[int, Field(ge=0)] = 0
    early: Annotated[int, Field(ge=0)] = 0


class CorrectionIn(BaseModel):
    """A row that is put right, published on a day."""

    known_on: date
    table: str
    row: dict[str, Cell]


@dataclass(slots=True)
class Market:
    """What is published, by number; made once."""

    seed: int = SEED
    faults: FaultsIn = field(default_factory=FaultsIn)
    _rows: list[Published] | None = None
    _gate: threading.RLock = field(default_factory=threading.RLock)

    def rows(self) -> list[Published]:
        with self._gate:
            if self._rows is None:
                self._rows = list(published(tell_ahead(self.seed)))
            return self._rows

    def correct(self, correction: CorrectionIn) -> int:
        """Returns its number."""
        with self._gate:
            rows, day = self.rows(), correction.known_on
            taken = {r.number for r in rows}
            number = day.toordinal() * A_DAY + PUT_RIGHT
            while number in taken:
                number += 1
            rows.append(Published(number, day, correction.table, correction.row))
            rows.sort(key=lambda r: r.number)
            return number

    def page(self, after: int, until: date, limit: int) -> tuple[Sequence[Published], bool]:
        """Rows above a number that are known by a day, and whether there are more."""
        rows = self.rows()
        first = bisect_right(rows, after, key=lambda r: r.number)
        last = bisect_right(rows, (until.toordinal() + 1) * A_DAY - 1, key=lambda r: r.number)
        return rows[first : min(last, first + limit)], first + limit < last

    def takes(self, fault: str) -> bool:
        """Whether this answer has the fault; it is counted down."""
        with self._gate:
            left = int(getattr(self.faults, fault))
            if left:
                self.faults = self.faults.model_copy(update={fault: left - 1})
            return left > 0


def published(told: Sequence[Told]) -> Iterator[Published]:
    """Rows in order of days, in the columns of a file, each with its number."""
    series = shared_series()
    for day, of_day in groupby(told, key=lambda t: t.known_on):
        for n, one in enumerate(of_day, 1):
            table = "series" if one.table == "series_points" else one.table
            (row,) = of_format(table, {"series": series, one.table: [one.row]})
            yield Published(day.toordinal() * A_DAY + n, day, table, _cells(table, row))


def _cells(table: str, row: Mapping[str, Any]) -> dict[str, Any]:
    columns = FORMATS[table].by_name
    return {
        name: value.isoformat() if isinstance(value, date) else value
        for name, value in row.items()
        if name in columns and value is not None
    }


def create_market(seed: int = SEED, faults: FaultsIn | None = None) -> FastAPI:
    """The service; its world is made once it runs."""
    market = Market(seed, faults or FaultsIn())

    @asynccontextmanager
    async def made_beside(_: FastAPI) -> AsyncIterator[None]:
        threading.Thread(target=market.rows, daemon=True).start()
        yield

    app = FastAPI(
        title="A market-data feed", version="1", docs_url=None, redoc_url=None, lifespan=made_beside
    )
    app.add_middleware(TrustedHostMiddleware, allowed_hosts=["127.0.0.1", "localhost"])

    @app.get("/v1/about")
    def about() -> AboutOut:
        """What the feed is, and the days it covers."""
        return AboutOut(name=NAME, first_day=TODAY, last_day=END)

    @app.get("/v1/published", response_model=PageOut)
    def page(
        until: Annotated[date, Query(description="nothing that is known later")],
        after: Annotated[int, Query(ge=0, description="the number of the last row held")] = 0,
        limit: Annotated[int, Query(ge=1, le=MOST_ITEMS)] = MOST_ITEMS,
    ) -> Response:
        """Rows under higher numbers, in their order. The same numbers are the same rows for ever;
        what is put right comes again under a later number."""
        time.sleep(market.faults.slow)
        if market.takes("fail"):
            raise HTTPException(500, "told to fail")
        return _answer(market, after, until, limit)

    @app.put("/faults", status_code=204, include_in_schema=False)
    def misbehave(faults: FaultsIn) -> None:
        market.faults = faults

    @app.post("/corrections", include_in_schema=False)
    def correct(correction: CorrectionIn) -> int:
        return market.correct(correction)

    return app


def _answer(market: Market, after: int, until: date, limit: int) -> Response:
    """A page, with what is wrong with it."""
    rows, more = market.page(after, until, limit)
    items: list[dict[str, Any]] = [
        {"number": r.number, "known_on": r.known_on.isoformat(), "table": r.table, "row": r.row}
        for r in rows
    ]
    if items and market.takes("wrong"):
        items[0] = items[0] | {"row": {"close": [1, 2]}, "number": str(items[0]["number"])}
    if items and market.takes("twice"):
        items = [*items, *items[:3]]
    if items and market.takes("back"):
        items[-1] = items[-1] | {"known_on": (rows[0].known_on - timedelta(days=9)).isoformat()}
    if items and market.takes("early"):
        early = {"number": items[-1]["number"] + 1, "known_on": END.isoformat()}
        items = [*items, items[-1] | early]
    body = json.dumps({"items": items, "more": more}).encode()
    if market.takes("half"):
        headers = {"content-length": str(len(body)), "content-type": "application/json"}
        return StreamingResponse(iter([body[: len(body) // 2]]), headers=headers)
    return Response(body, media_type="application/json")
