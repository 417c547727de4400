"""A feed over HTTP: tried again when it is slow or broken, checked item by item, whole or not at
all."""

from __future__ import annotations

import json
from collections import Counter
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from datetime import date
from math import ceil
from queue import Empty, Queue
from threading import Thread
from typing import Any, TypeVar, cast

import httpx
from pydantic import ValidationError
from tenacity import RetryCallState, Retrying, retry_if_exception_type, stop_after_attempt
from tenacity.wait import wait_exponential

from hearth_yield.core.errors import Unreachable
from hearth_yield.progress import Progress

from .port import Delivery, Item
from .wire import MOST_ITEMS, AboutOut, ItemOut

PAGE = 4000
MOST_BYTES = 16 * 1024 * 1024
MOST_ROWS = 1_000_000
FIVE_HUNDRED = 500
SHOWN = 80
LOOKS = 0.2
"""Seconds between looks at whether a person has had enough."""
T = TypeVar("T")
FAR = 10 * PAGE
"""So far a row that cannot be read may move the place from which is asked next."""
_Page = tuple[list[ItemOut], list[str], int, bool]
"""Items, what could not be read, up to which number, and whether there is more."""


class Again(Exception):
    """An answer that may be better when it is asked for once more."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Patience:
    """tries: of each page; seconds: for an answer to begin and between its pieces; first_wait:
    seconds before the second try, doubled each time; in_all: seconds that a page may take."""

    tries: int = 5
    seconds: float = 10.0
    first_wait: float = 0.25
    in_all: float = 120.0


@dataclass(slots=True)
class _Reading:
    """What has come so far."""

    last: int
    items: list[Item] = field(default_factory=list)
    hiccups: Counter[str] = field(default_factory=Counter)
    set_aside: list[str] = field(default_factory=list)
    day: date = date.min

    def take(self, item: ItemOut) -> None:
        if item.number <= self.last:
            self.hiccups["rows sent twice"] += 1
            return
        if item.known_on < self.day:
            self.hiccups["rows dated before those that came earlier"] += 1
        self.last, self.day = item.number, max(self.day, item.known_on)
        cells = {k: v for k, v in item.row.items() if v is not None}
        self.items.append(Item(item.number, item.known_on, item.table, cells))


class HttpFeed:
    """url: without a path. token: sent as a bearer token where the service asks for one."""

    def __init__(
        self, url: str, token: str | None = None, patience: Patience | None = None
    ) -> None:
        self._url = url
        self._headers = {"accept-encoding": "identity"}
        if token:
            self._headers["authorization"] = f"Bearer {token}"
        self._patience = patience or Patience()
        self._name: str | None = None

    @property
    def name(self) -> str:
        """Asked for once. Raises Unreachable."""
        if self._name is None:
            with self._client() as client:
                told = self._waited(
                    lambda: self._tried(lambda: self._ask(client, "/v1/about", {}), Counter()),
                    lambda: None,
                )
            try:
                self._name = AboutOut.model_validate(told).name
            except ValidationError:
                raise Unreachable("the feed does not say what it is", field="feed") from None
        return self._name

    def published(self, after: int, until: date, progress: Progress | None = None) -> Delivery:
        """See `port.Feed`."""
        reading = _Reading(last=after)
        with self._client() as client:
            more = True
            while more:
                before = reading.last
                if progress:
                    progress("asking the feed", len(reading.items), 0)
                items, wrong, passed, more = self._waited(
                    lambda: self._asked(client, reading, until),
                    lambda: progress and progress("asking the feed", len(reading.items), 0),
                )
                more = _taken(reading, items, until) and more
                reading.set_aside += wrong
                if more or not items or items[-1].known_on <= until:
                    reading.last = max(reading.last, min(passed, reading.last + FAR))
                if more and reading.last == before:
                    raise Unreachable(
                        "the feed says there is more but sends nothing new; nothing was kept",
                        field="feed",
                    )
                if len(reading.items) > MOST_ROWS:
                    raise Unreachable(
                        "the feed sends more than can be taken in at once",
                        field="feed",
                        value=len(reading.items),
                        rule=f"at most {MOST_ROWS:,} rows; move on by less",
                    )
        return Delivery(reading.items, reading.last, dict(reading.hiccups), reading.set_aside)

    def _client(self) -> httpx.Client:
        return httpx.Client(
            base_url=self._url,
            timeout=self._patience.seconds,
            headers=self._headers,
            follow_redirects=False,
            trust_env=False,
        )

    def _waited(self, ask: Callable[[], T], look: Callable[[], object]) -> T:
        """What an asking gives, in a thread that may be left behind: a feed that keeps a line open
        holds up nothing. look: called all the while; raising from it ends the waiting."""
        answers: Queue[tuple[T, None] | tuple[None, BaseException]] = Queue()

        def run() -> None:
            try:
                answers.put((ask(), None))
            except BaseException as error:  # whatever it is, it is told to who waits
                answers.put((None, error))

        Thread(target=run, daemon=True).start()
        for _ in range(ceil(self._patience.in_all / LOOKS)):
            try:
                found, error = answers.get(timeout=LOOKS)
            except Empty:
                look()
                continue
            if error is not None:
                raise error
            return cast("T", found)
        raise Unreachable(
            "the feed does not come to an end of its answer; nothing was kept, and nothing is "
            "lost: it can be asked again",
            field="feed",
            value=self._url,
            rule=f"an answer within {self._patience.in_all:g} seconds",
        )

    def _asked(self, client: httpx.Client, reading: _Reading, until: date) -> _Page:
        """One page, as often as it takes."""
        asked = {"after": reading.last, "until": until.isoformat(), "limit": PAGE}

        def ask() -> _Page:
            return _read(self._ask(client, "/v1/published", asked), whole=True)

        def ask_at_last() -> _Page:
            return _read(self._ask(client, "/v1/published", asked), whole=False)

        try:
            return self._tried(ask, reading.hiccups)
        except _Wrong:
            return self._tried(ask_at_last, reading.hiccups)

    def _tried(self, ask: Callable[[], T], hiccups: Counter[str]) -> T:
        """Raises Unreachable after the last try, _Wrong where it is the rows that are wrong."""

        def count(state: RetryCallState) -> None:
            error = state.outcome.exception() if state.outcome else None
            hiccups[_why(error)] += 1

        retrying = Retrying(
            stop=stop_after_attempt(self._patience.tries),
            wait=wait_exponential(multiplier=self._patience.first_wait, max=5),
            retry=retry_if_exception_type((httpx.TransportError, Again)),
            before_sleep=count,
            reraise=True,
        )
        try:
            return retrying(ask)
        except _Wrong as error:
            hiccups[_why(error)] += 1
            raise
        except (httpx.TransportError, Again) as error:
            raise Unreachable(
                f"the feed did not answer whole in {self._patience.tries} tries: {_why(error)}; "
                "nothing was kept, and nothing is lost: it can be asked again",
                field="feed",
                value=self._url,
                rule="a feed that answers",
            ) from None

    def _ask(self, client: httpx.Client, path: str, query: dict[str, Any]) -> object:
        with client.stream("GET", path, params=query) as answer:
            if answer.status_code >= FIVE_HUNDRED:
                raise Again("it answers that it failed")
            if answer.status_code != httpx.codes.OK:
                raise Unreachable(
                    f"the feed refuses: status {answer.status_code}; nothing was kept",
                    field="feed",
                    value=self._url,
                    rule="an address and a token that the feed knows",
                )
            if answer.headers.get("content-encoding", "identity") != "identity":
                raise Unreachable(
                    "the feed answers compressed, which was not asked for; nothing was kept",
                    field="feed",
                    value=answer.headers["content-encoding"][:40],
                    rule="answers as they are (accept-encoding: identity)",
                )
            body = bytearray()
            for piece in answer.iter_raw():
                body += piece
                if len(body) > MOST_BYTES:
                    raise Unreachable("the feed sends too much at once", field="feed")
        try:
            return json.loads(body)
        except (ValueError, RecursionError):
            raise Again("an answer that is cut off") from None


def _taken(reading: _Reading, items: Sequence[ItemOut], until: date) -> bool:
    """Takes in a page's rows. Returns False where one is known only later: the rest waits."""
    for item in items:
        if item.known_on > until:
            reading.hiccups["rows sent before their day"] += 1
            return False
        reading.take(item)
    return True


class _Wrong(Again):
    """A page with rows of the wrong types."""


def _read(told: object, *, whole: bool) -> _Page:
    """What a page holds. whole: rather ask again than set rows aside."""
    if not isinstance(told, dict) or not isinstance(told.get("items"), list):
        raise Again("an answer of another shape")
    if len(told["items"]) > MOST_ITEMS:
        raise Again(f"an answer of more than {MOST_ITEMS:,} rows")
    items, wrong, passed = [], [], 0
    for one in told["items"]:
        try:
            items.append(ItemOut.model_validate(one))
        except ValidationError as error:
            first = error.errors(include_url=False, include_context=False)[0]
            place = ".".join(str(p) for p in first["loc"])
            wrong.append(f"{place}: {first['msg']}: {json.dumps(one)[:SHOWN]}")
            number = one.get("number") if isinstance(one, dict) else None
            passed = max(passed, number if type(number) is int else 0)
    if wrong and whole:
        raise _Wrong("rows of the wrong types")
    return items, wrong, passed, told.get("more") is True


def _why(error: BaseException | None) -> str:
    match error:
        case httpx.TimeoutException():
            return "it took too long"
        case httpx.ConnectError():
            return "nobody answers there"
        case httpx.TransportError():
            return "an answer that is cut off"
    return str(error)
