"""The Holdings place: what the person owns, cost, worth and pay of it."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from datetime import date
from typing import Literal

from fastapi import APIRouter

from hearth_yield.actions.read_holdings import Holdings, after_outlay, position_of, read_holdings
from hearth_yield.actions.read_journal import read_journal
from hearth_yield.core.figures.figure import Figure
from hearth_yield.core.household.amounts import SHARE, minor_digits
from hearth_yield.core.household.followed import Followed
from hearth_yield.core.household.lots import Lot
from hearth_yield.core.household.measures import Part
from hearth_yield.core.household.positions import Position
from hearth_yield.core.household.stated import Stated
from hearth_yield.core.household.totals import Totals, share_of
from hearth_yield.core.review import Review

from .answer import wire
from .cases import ONE_PAYER
from .context import Here, Reviewed, When
from .figures import FigureOut, figure_out
from .income import KEY, income_figure
from .schemas import Problem, StateName
from .sources import sources_of
from .wire import fill
from .working import WorkingOut, working_out

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})
Grouping = Literal["payer", "account", "sector", "country", "currency", "kind", "state"]
HELD = re.compile(r"held(?:@(\d{1,18}))?\.([a-z_]{1,40})")
"""How a figure of a position is asked for: of all accounts, or of one."""
AFTER = "held.after."
FOLLOWED = re.compile(
    r"held\.followed\.(\d{1,18})\.((?:bought|sold)\.(?:shares|price)|against_buy_below)"
)
TOTALS = ("value", "cost", "income", "gain", "current_yield", "yield_on_cost")


@wire
class LotOut:
    """day: bought; dated: whether that is known, or only that it was held by then. cost: in the
    payer's currency; cost_at_home: at the rate of its day."""

    account: int
    day: date
    dated: bool
    by_dividend: bool
    shares: float
    cost: float | None
    cost_a_share: float | None
    cost_at_home: float | None


@wire
class PositionOut:
    """account: where it is of one alone. figures in the payer's currency where they are not said to
    be at home. unresolved: more went than was held."""

    exchange: str
    symbol: str
    name: str
    currency: str
    stored: bool
    state: StateName | None
    account: int | None
    accounts: list[int]
    unresolved: date | None
    first_bought: date | None
    last_bought: date | None
    shares: FigureOut
    cost: FigureOut
    cost_at_home: FigureOut
    price: FigureOut
    value: FigureOut
    value_at_home: FigureOut
    share_of_value: FigureOut
    income: FigureOut
    income_at_home: FigureOut
    share_of_income: FigureOut
    current_yield: FigureOut
    yield_on_cost: FigureOut
    yield_on_own_money: FigureOut
    gain_held: FigureOut
    gain_by_price: FigureOut
    gain_by_currency: FigureOut
    realised: FigureOut
    received: FigureOut
    gain: FigureOut
    against_buy_below: FigureOut
    against_trim_above: FigureOut
    lots: list[LotOut]


@wire
class TotalsOut:
    """At home; notes of a figure name what it does not hold."""

    value: FigureOut
    cost: FigureOut
    income: FigureOut
    gain: FigureOut
    current_yield: FigureOut
    yield_on_cost: FigureOut


@wire
class HeldGroupOut:
    """name: of the group, null where it is not known; positions: of it, in the order of income."""

    name: str | None
    totals: TotalsOut
    share_of_value: FigureOut
    share_of_income: FigureOut
    positions: list[PositionOut]


@wire
class AccountOut:
    id: int
    name: str
    currency: str
    sheltered: bool
    method: Literal["fifo", "average"]
    keeps_cash: bool
    entered_from: date | None
    closed_on: date | None


@wire
class CashOut:
    account: int
    currency: str
    amount: float


@wire
class StatedOut:
    """What an institution says is there at a day's end, shares of a payer or cash, against what the
    ledger comes to; null: unknown, for the reason. entry: that says so. apart: they differ."""

    entry: int
    account: int
    day: date
    exchange: str
    symbol: str
    name: str
    currency: str
    said: float
    ledger: float | None
    reason: str
    apart: bool


@wire
class HoldingsOut:
    """home: the currency of sums. groups: of positions, one alone where each payer is asked for.
    entries: how many there are. pending: payers held whose measures are not made yet."""

    home: str
    accounts: list[AccountOut]
    totals: TotalsOut
    positions: int
    groups: list[HeldGroupOut]
    ended: list[PositionOut]
    cash: list[CashOut]
    stated: list[StatedOut]
    entries: int
    pending: int


@router.get("/holdings")
def holdings(here: Here, when: When, by: Grouping = "payer") -> HoldingsOut:
    """Positions by payer, or in groups."""
    found = read_holdings(here.cache, when.as_of, when.edition)
    return HoldingsOut(
        home=found.home,
        accounts=[account_out(a) for a in found.accounts],
        totals=_totals(found.totals),
        positions=len(found.held),
        groups=_groups(found, by),
        ended=[_position(found, p) for p in found.ended],
        cash=[
            CashOut(
                account=account, currency=currency, amount=amount / 10 ** minor_digits(currency)
            )
            for (account, currency), amount in sorted(found.cash.items())
        ],
        stated=[_stated(found, s) for s in found.stated],
        entries=found.entries,
        pending=found.pending,
    )


def _stated(found: Holdings, s: Stated) -> StatedOut:
    exchange, symbol = s.payer or ("", "")
    unit = SHARE if s.payer else 10 ** minor_digits(s.currency)
    known = found.payers.get(s.payer) if s.payer else None
    return StatedOut(
        entry=s.entry,
        account=s.account,
        day=s.day,
        exchange=exchange,
        symbol=symbol,
        name=known.name if known else symbol,
        currency=s.currency,
        said=s.said / unit,
        ledger=None if s.ledger is None else s.ledger / unit,
        reason=s.reason,
        apart=s.apart not in (None, 0),
    )


@router.get("/holdings/working")
def working(here: Here, when: When, key: str, path: str = "") -> WorkingOut:
    """How a sum over positions came about."""
    figure: Figure | None
    if key.startswith(f"{KEY}."):
        figure = income_figure(here, when, key)
    else:
        found = read_holdings(here.cache, when.as_of, when.edition)
        name = key.removeprefix("totals.")
        figure = getattr(found.totals, name) if name in TOTALS else None
    return working_out(figure, key, path, {x.id: x for x in sources_of(here)}, ())


@wire
class AfterOut:
    """What a sum would make of a position."""

    shares: FigureOut
    cost: FigureOut
    yield_on_cost: FigureOut
    share_of_value: FigureOut


@wire
class HeldOfPayerOut:
    """What is held of one payer, ended or not; null where nothing ever was. after: with the sum
    that is asked."""

    home: str
    position: PositionOut | None
    after: AfterOut | None


@router.get(ONE_PAYER + "/held")
def held(here: Here, when: When, review: Reviewed) -> HeldOfPayerOut:
    found = read_holdings(here.cache, when.as_of, when.edition)
    key = (review.payer.exchange, review.payer.symbol)
    mine = next((p for p in (*found.held, *found.ended) if p.quote.payer == key), None)
    after = after_outlay(here.cache, review, when.as_of, when.edition)
    return HeldOfPayerOut(
        home=found.home,
        position=None if mine is None else _position(found, mine),
        after=None if after is None else fill(AfterOut, after, "held.after"),
    )


@wire
class HeldShortOut:
    shares: FigureOut
    share_of_value: FigureOut


def held_short(part: Part) -> HeldShortOut:
    return HeldShortOut(
        shares=figure_out(part.position.shares, "held.shares"),
        share_of_value=figure_out(part.share_of_value, "held.share_of_value"),
    )


@wire
class TradedOut:
    """Trades one way, in today's shares; price: the average, with fees."""

    shares: FigureOut
    price: FigureOut
    first: date
    last: date


@wire
class FollowedOut:
    """What was bought and sold after a decision, until the next; null where nothing was."""

    until: date | None
    bought: TradedOut | None
    sold: TradedOut | None
    against_buy_below: FigureOut | None


def followed_out(found: Followed, decision: int) -> FollowedOut:
    at = f"held.followed.{decision}"
    against = found.against_buy_below
    return FollowedOut(
        until=found.until,
        bought=fill(TradedOut, found.bought, f"{at}.bought") if found.bought else None,
        sold=fill(TradedOut, found.sold, f"{at}.sold") if found.sold else None,
        against_buy_below=figure_out(against, f"{at}.against_buy_below") if against else None,
    )


def _followed(here: Here, when: When, decision: int, member: str) -> Figure | None:
    """A figure of what followed a decision."""
    journal = read_journal(here.cache, when.as_of, when.edition)
    found = next((e.followed for e in journal.entries if e.made.id == decision), None)
    figure: object = found
    for name in member.split("."):
        figure = getattr(figure, name, None)
    return figure if isinstance(figure, Figure) else None


def held_figure(here: Here, review: Review, when: When, key: str) -> Figure | None:
    """A figure of a position, with its working; None for a name it does not have."""
    if key.startswith(AFTER):
        after = after_outlay(here.cache, review, when.as_of, when.edition)
        return getattr(after, key.removeprefix(AFTER), None)
    after_decision = FOLLOWED.fullmatch(key)
    if after_decision is not None:
        id, member = after_decision.groups()
        return _followed(here, when, int(id), member)
    named = HELD.fullmatch(key)
    if named is None:
        return None
    account, name = named.groups()
    position = position_of(
        here.cache,
        (review.payer.exchange, review.payer.symbol),
        int(account) if account else None,
        when.as_of,
        when.edition,
    )
    if position is None:
        return None
    if name == "price":
        return position.quote.price
    found = read_holdings(here.cache, when.as_of, when.edition)
    if name == "share_of_value":
        return share_of(position.value_at_home, found.totals.value, "share of value")
    if name == "share_of_income":
        return share_of(position.income_at_home, found.totals.income, "share of income")
    figure = getattr(position, name, None)
    return figure if isinstance(figure, Figure) else None


def account_out(account: object) -> AccountOut:
    return fill(AccountOut, account, method=account.method.value)  # type: ignore[attr-defined]


def _totals(totals: Totals, key: str = "totals") -> TotalsOut:
    return fill(TotalsOut, totals, key) if key else _plain(fill(TotalsOut, totals, "group"))


def _plain(totals: TotalsOut) -> TotalsOut:
    """Without keys: sums of a group open by the rows under them."""
    for name in TOTALS:
        getattr(totals, name).key = ""
    return totals


def _position(found: Holdings, p: Position, apart: bool = False) -> PositionOut:
    account = p.places[0][0] if apart else None
    at = "held" if account is None else f"held@{account}"
    exchange, symbol = p.quote.payer
    first, last = p.bought or (None, None)
    words = found.words.get(p.quote.payer, {})
    return fill(
        PositionOut,
        p,
        at,
        exchange=exchange,
        symbol=symbol,
        name=p.quote.name,
        currency=p.quote.currency,
        stored=p.quote.payer in found.payers,
        state=words.get("state"),
        account=account,
        accounts=sorted({a for a, _ in p.places}),
        unresolved=p.unresolved.since if p.unresolved else None,
        first_bought=first,
        last_bought=last,
        price=figure_out(p.quote.price, f"{at}.price"),
        share_of_value=figure_out(
            share_of(p.value_at_home, found.totals.value, "share of value"), f"{at}.share_of_value"
        ),
        share_of_income=figure_out(
            share_of(p.income_at_home, found.totals.income, "share of income"),
            f"{at}.share_of_income",
        ),
        lots=[
            _lot(found, lot, a, p.quote.currency)
            for a, payer in p.places
            for lot in found.book.held[a, payer].lots
        ],
    )


def _lot(found: Holdings, lot: Lot, account: int, currency: str) -> LotOut:
    return LotOut(
        account=account,
        day=lot.day,
        dated=lot.dated,
        by_dividend=lot.by_dividend,
        shares=lot.shares / SHARE,
        cost=None if lot.cost is None else lot.cost / 10 ** minor_digits(currency),
        cost_a_share=lot.cost_a_share(minor_digits(currency)),
        cost_at_home=None if lot.home is None else lot.home / 10 ** minor_digits(found.home),
    )


def _groups(found: Holdings, by: Grouping) -> list[HeldGroupOut]:
    """The group with the most income first."""
    apart = by == "account"
    rows = found.apart if apart else found.held
    name_of = _names(found, by)
    grouped: dict[str | None, list[Position]] = {}
    for position in rows:
        grouped.setdefault(name_of(position), []).append(position)
    made = [_group(found, name, held, apart) for name, held in grouped.items()]
    return sorted(made, key=lambda g: -(g.totals.income.value or 0.0))


def _names(found: Holdings, by: Grouping) -> Callable[[Position], str | None]:
    if by == "payer":
        return lambda p: ""
    if by == "account":
        accounts = {a.id: a.name for a in found.accounts}
        return lambda p: accounts[p.places[0][0]]
    if by == "currency":
        return lambda p: p.quote.currency
    return lambda p: found.words.get(p.quote.payer, {}).get(by)


def _group(
    found: Holdings, name: str | None, held: Sequence[Position], apart: bool
) -> HeldGroupOut:
    totals = Totals(positions=tuple(held), home=found.home)
    rows = sorted(held, key=lambda p: (-(p.income_at_home.value or 0.0), p.quote.name))
    return HeldGroupOut(
        name=name,
        totals=_totals(totals, ""),
        share_of_value=figure_out(share_of(totals.value, found.totals.value, "share of value"), ""),
        share_of_income=figure_out(
            share_of(totals.income, found.totals.income, "share of income"), ""
        ),
        positions=[_position(found, p, apart) for p in rows],
    )
