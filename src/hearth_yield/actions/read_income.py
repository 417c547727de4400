"""What the household is paid: a year, the next twelve months, what was due, what changed it."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from functools import partial

from hearth_yield.core.errors import NotFound, Uncomputable
from hearth_yield.core.figures.figure import Figure
from hearth_yield.core.household.amounts import minor_digits
from hearth_yield.core.household.entries import PayerKey
from hearth_yield.core.household.income.ahead import Ahead, ahead
from hearth_yield.core.household.income.change import AtHome, Changed, changed
from hearth_yield.core.household.income.due import Due, dues
from hearth_yield.core.household.income.figures import IncomeFigures
from hearth_yield.core.household.income.paying import YEAR, Paying, paying_of
from hearth_yield.core.household.income.tax import TaxRules
from hearth_yield.core.household.ledger import Place
from hearth_yield.core.household.positions import Position
from hearth_yield.core.household.receipts import Receipt
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.record.inflation import price_change
from hearth_yield.core.review import computing
from hearth_yield.faults_log import note_if_ours
from hearth_yield.store import payer_files
from hearth_yield.store.database import Edition
from hearth_yield.store.explained import Payment, explained

from .read_holdings import Ground, Holdings, kept_ground, kept_walk, light_file, read_holdings
from .review_cache import ReviewCache

LOOKED_BACK = timedelta(days=400)
"""So far back what was due is held against what came."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Income:
    """paying: what each payer that is or was held pays. dues: what went ex by the day and comes in
    the past 400 days or later; explained: why one did not come as due, as the person said. came:
    what came in the year before, by day, at home. prices: how the home price index moved since.
    kept: what tax leaves of a dividend in a place."""

    day: date
    since: date
    held: Holdings
    ground: Ground
    rules: TaxRules
    after_tax: bool
    paying: Mapping[PayerKey, Paying]
    ahead: Sequence[Ahead]
    dues: Sequence[Due]
    explained: Mapping[Payment, str]
    came: Sequence[tuple[date, float]]
    changed: Changed
    prices: Figure
    kept: Callable[[Place], float]


def tax_rules(rules: HouseRules) -> TaxRules:
    return TaxRules(
        withheld=rules.withheld, home=rules.dividend_tax, credited=rules.withheld_credited
    )


def read_income(
    cache: ReviewCache,
    as_of: date,
    at: Edition,
    since: date | None = None,
    *,
    after_tax: bool = True,
) -> Income:
    """since: the day that the change is counted from; a year before where it is not said. Made
    once for an edition of facts, rules and ledger."""
    first = since or as_of - YEAR
    held = read_holdings(cache, as_of, at)
    key = ("income", at, as_of, first, after_tax, held.pending)
    make = partial(income_of, cache, as_of, at, first, held, after_tax=after_tax)
    found: Income = cache.followed.get(key, make)
    return found


def income_of(
    cache: ReviewCache, as_of: date, at: Edition, since: date, held: Holdings, *, after_tax: bool
) -> Income:
    """The same, made anew from what is held."""
    ground = kept_ground(cache, as_of, at)
    book, receipts = kept_walk(cache, as_of, at)
    rules = tax_rules(cache.house_rules(at))
    paying = {
        key: of for key in ground.followed if (of := _paying(cache, key, as_of, at)) is not None
    }
    accounts = {a.id: a for a in ground.accounts}
    with cache.database.read() as connection:
        told = explained(connection)

    def kept(place: Place) -> float:
        if not after_tax:
            return 1.0
        of = paying.get(place[1])
        return rules.kept(of.country if of else None, accounts[place[0]].sheltered)

    return Income(
        day=as_of,
        since=since,
        held=held,
        ground=ground,
        rules=rules,
        after_tax=after_tax,
        paying=paying,
        ahead=ahead(book, paying, ground.known, as_of),
        dues=dues(
            book,
            ground.accounts,
            ground.entries,
            paying,
            ground.known,
            ground.rates,
            rules,
            ground.home,
            as_of,
            as_of - LOOKED_BACK,
        ),
        explained=told,
        changed=changed(
            book, ground.entries, paying, ground.known, ground.at_home, kept, since, as_of
        ),
        came=[
            (r.day, left)
            for place, came in receipts.items()
            for r in came
            if as_of - YEAR < r.day <= as_of
            and (left := _left(r, rules, accounts[place[0]].sheltered, after_tax, ground.at_home))
            is not None
        ],
        prices=_prices(cache, ground.home, since, as_of, at),
        kept=kept,
    )


def left_of(found: Income, place: Place, came: Receipt) -> float | None:
    """What is left of a receipt, at home, by the switch of tax; None without a rate."""
    sheltered = {a.id: a.sheltered for a in found.ground.accounts}[place[0]]
    return _left(came, found.rules, sheltered, found.after_tax, found.ground.at_home)


def _left(
    came: Receipt, rules: TaxRules, sheltered: bool, after_tax: bool, at_home: AtHome
) -> float | None:
    """What came, at home; after tax, less what tax at home takes of it."""
    rate = at_home(came.currency, came.day)
    if rate is None:
        return None
    unit: int = 10 ** minor_digits(came.currency)
    gross, net = came.gross / unit * rate, came.net / unit * rate
    if not after_tax:
        return gross
    withheld = 1 - net / gross if gross else 0.0
    return net - gross * rules.at_home(withheld, sheltered)


def figures_of_income(found: Income) -> IncomeFigures:
    """The figures of it that open."""

    def kept(position: Position) -> float:
        return found.kept(position.places[0])

    taxed = found.after_tax and found.rules.takes
    return IncomeFigures(
        home=found.held.home,
        apart=found.held.apart,
        kept=kept if taxed else None,
        changed=found.changed,
        prices=found.prices,
    )


def _paying(cache: ReviewCache, key: PayerKey, as_of: date, at: Edition) -> Paying | None:
    """None for a payer that is not stored, or cannot be computed."""
    make = partial(_read_paying, cache, key, as_of, at)
    found: Paying | None = cache.followed.get(("paying", at.facts, as_of, key), make)
    return found


def _read_paying(cache: ReviewCache, key: PayerKey, as_of: date, at: Edition) -> Paying | None:
    try:
        whole = light_file(cache, key, as_of, at)
        with computing(whole.payer):
            return paying_of(whole.cut(as_of))
    except NotFound:
        return None
    except Uncomputable as error:
        note_if_ours(error)
        return None


def _prices(cache: ReviewCache, home: str, since: date, until: date, at: Edition) -> Figure:
    """How prices at home moved between two days, as known on the second."""
    shared = cache.shared.get(at.facts, payer_files.Shared)
    with cache.database.read() as connection:
        series = shared.of_kind(connection, "price_index", home) if home else None
    return price_change(series, since, until)
