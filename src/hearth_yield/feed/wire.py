"""What goes over the wire (docs/feed.openapi.json): one shape for the simulated market and for any
service in its place."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

MOST_ITEMS = 5000
MOST_COLUMNS = 100
Table = Annotated[str, Field(max_length=40, description="a table of docs/data-formats.md")]
Cell = Annotated[str, Field(max_length=4000)] | int | float | None
Number = Annotated[int, Field(ge=1, le=2**62)]


class ItemOut(BaseModel):
    """A row of a table, by column: dates as ISO text, amounts in single units. Its number says its
    place; a row that puts an earlier one right has the same key and a later number."""

    model_config = ConfigDict(strict=True)

    number: Number
    known_on: Annotated[date, Field(strict=False)]
    table: Table
    row: Annotated[dict[str, Cell], Field(max_length=MOST_COLUMNS)]


class PageOut(BaseModel):
    """more: there is more after the last item of this page."""

    items: Annotated[list[ItemOut], Field(max_length=MOST_ITEMS)]
    more: bool


class AboutOut(BaseModel):
    """The feed as a person knows it, and the days it covers."""

    name: Annotated[str, Field(max_length=80)]
    first_day: date
    last_day: date
