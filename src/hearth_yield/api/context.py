"""What every route needs: the desk, today, the as-of day and the question in the URL."""

from __future__ import annotations

import secrets
from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import UTC, date, datetime
from typing import Annotated

from fastapi import Depends, Query, Request

from hearth_yield.actions.desk import Desk
from hearth_yield.core.errors import InvalidInput, NotFound
from hearth_yield.core.review import Question
from hearth_yield.core.worth.blend import WorthInputs
from hearth_yield.store.database import Database, pinned_today

from .jobs import Jobs
from .schemas import WindowName

MAX_PENDING = 3
Files = Sequence[tuple[str, bytes]]


class Pending:
    """Uploads that were previewed and wait to be committed: the newest three."""

    def __init__(self) -> None:
        self._held: OrderedDict[str, Files] = OrderedDict()

    def keep(self, files: Files) -> str:
        token = secrets.token_urlsafe(16)
        self._held[token] = files
        while len(self._held) > MAX_PENDING:
            self._held.popitem(last=False)
        return token

    def take(self, token: str) -> Files:
        if token not in self._held:
            raise NotFound(
                "this preview is no longer kept; drop the file again", field="token", value=token,
                rule="one of the three newest previews",
            )  # fmt: skip
        return self._held.pop(token)


@dataclass(slots=True)
class Context:
    """One per application. The clock is read here and nowhere below."""

    desk: Desk
    jobs: Jobs = field(default_factory=Jobs)
    pending: Pending = field(default_factory=Pending)

    @property
    def database(self) -> Database:
        return self.desk.database

    def today(self) -> tuple[date, bool]:
        """The day the product stands on, and whether a demo pins it."""
        with self.database.read() as connection:
            pinned = pinned_today(connection)
        return (pinned, True) if pinned else (datetime.now().astimezone().date(), False)

    def now(self) -> str:
        return datetime.now(UTC).isoformat(timespec="seconds")


def context_of(request: Request) -> Context:
    context: Context = request.app.state.context
    return context


Here = Annotated[Context, Depends(context_of)]


def as_of_day(here: Here, as_of: Annotated[date | None, Query()] = None) -> date:
    """The asked day, today when none is asked. Raises InvalidInput for a day to come."""
    today, _ = here.today()
    if as_of is not None and as_of > today:
        raise InvalidInput(
            f"{as_of.isoformat()} is still to come",
            field="as_of",
            value=as_of.isoformat(),
            rule=f"today ({today.isoformat()}) or earlier",
        )
    return as_of or today


AsOf = Annotated[date, Depends(as_of_day)]


def _ids(names: str) -> list[str]:
    return [n for n in names.split(",") if n]


def question_of(
    window: WindowName,
    base_year: int | None,
    aim: float | None,
    aim_price: float | None,
    growth: float | None,
    required_return: float | None,
    mean_yield: float | None,
    margin_of_safety: float | None,
    on: str,
    off: str,
) -> Question:
    """The question a view asks. on, off: model ids, comma-separated."""
    return Question(
        window=window,
        base_year=base_year,
        aim=aim,
        aim_price=aim_price,
        inputs=WorthInputs(
            growth=growth,
            required_return=required_return,
            mean_yield=mean_yield,
            margin_of_safety=margin_of_safety,
            switched=dict.fromkeys(_ids(on), True) | dict.fromkeys(_ids(off), False),
        ),
    )


def asked(
    window: WindowName = "5",
    base_year: int | None = None,
    aim: Annotated[float | None, Query(allow_inf_nan=False)] = None,
    aim_price: Annotated[float | None, Query(allow_inf_nan=False)] = None,
    growth: Annotated[float | None, Query(allow_inf_nan=False)] = None,
    required_return: Annotated[float | None, Query(allow_inf_nan=False)] = None,
    mean_yield: Annotated[float | None, Query(allow_inf_nan=False)] = None,
    margin_of_safety: Annotated[float | None, Query(allow_inf_nan=False)] = None,
    on: str = "",
    off: str = "",
) -> Question:
    return question_of(
        window,
        base_year,
        aim,
        aim_price,
        growth,
        required_return,
        mean_yield,
        margin_of_safety,
        on,
        off,
    )


Asked = Annotated[Question, Depends(asked)]
