"""What the person owns on a day: positions, their sums, cash."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date
from fractions import Fraction
from functools import partial

from hearth_yield.core.errors import NotFound, Uncomputable
from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import DividendKind, Payer
from hearth_yield.core.figures.figure import Figure, Unit, given, unknown
from hearth_yield.core.finding.measured import NOT_MADE, Measured
from hearth_yield.core.household.after import After, after_buying
from hearth_yield.core.household.amounts import exact_rate, exact_ratio
from hearth_yield.core.household.cash import cash_after
from hearth_yield.core.household.entries import Account, Entry, EntryKind, PayerKey
from hearth_yield.core.household.ledger import Book, Known, walk
from hearth_yield.core.household.lots import Lot, together
from hearth_yield.core.household.measures import Part
from hearth_yield.core.household.positions import Position, Quote, positions
from hearth_yield.core.household.rates import SeriesRates
from hearth_yield.core.household.receipts import Paid, Receipt, receipts
from hearth_yield.core.household.stated import Stated, held_against
from hearth_yield.core.household.totals import Totals
from hearth_yield.core.record.declared_rate import declared_rate_figure, read_on
from hearth_yield.core.review import Review, computing
from hearth_yield.faults_log import note_if_ours
from hearth_yield.store import ledger, payer_files
from hearth_yield.store.database import Edition

from .ensure_measures import universe
from .exchange_rates import newest_rate, rates_over_time
from .review_cache import ReviewCache

NOT_STORED = "no such payer is stored"


@dataclass(frozen=True, slots=True, kw_only=True)
class Followed:
    """What is needed of a payer that is held, on a day; its figures stand alone. payer: None where
    it is not stored any more."""

    payer: Payer | None
    price: Figure
    rate: Figure
    splits: Sequence[tuple[date, Fraction]] = ()
    paid: Sequence[Paid] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Holdings:
    """home: the currency of sums. held, ended: in all accounts together; apart: of
    each account by itself. stated: what institutions say, against the ledger.
    words: state, sector and the like by payer. pending: payers that are
    held and not measured yet."""

    home: str
    accounts: Sequence[Account]
    book: Book
    held: tuple[Position, ...]
    ended: tuple[Position, ...]
    apart: tuple[Position, ...]
    totals: Totals
    cash: Mapping[tuple[int, str], int]
    stated: Sequence[Stated]
    payers: Mapping[PayerKey, Payer]
    words: Mapping[PayerKey, Mapping[str, str | None]]
    pending: int
    entries: int

    @property
    def parts(self) -> dict[PayerKey, Part]:
        """What is held, by payer."""
        return {p.quote.payer: Part(position=p, totals=self.totals) for p in self.held}


@dataclass(frozen=True, slots=True, kw_only=True)
class Ground:
    """The ledger by a day, and what was known of its payers then. withheld: by payer, of what the
    record says came."""

    home: str
    accounts: Sequence[Account]
    entries: Sequence[Entry]
    followed: Mapping[PayerKey, Followed]
    known: Known
    rates: SeriesRates
    withheld: Mapping[PayerKey, Fraction] = field(default_factory=dict)

    def at_home(self, currency: str, day: date) -> float | None:
        """What one unit of a currency costs at home: of the day, else the last before."""
        rate = self.rates.rate(currency, day)
        return None if rate is None else float(rate)


def read_holdings(cache: ReviewCache, as_of: date, at: Edition) -> Holdings:
    """Made once for an edition of facts, rules and ledger."""
    here = universe(cache, as_of)
    pending = frozenset(c.symbol for c in here.candidates if c.measured is None or c.stale)
    key = ("holdings", at, as_of, len(pending))
    found: Holdings = cache.followed.get(key, lambda: _holdings(cache, as_of, at))
    return found


def ground_of(
    cache: ReviewCache, as_of: date, at: Edition, instead: Sequence[Entry] | None = None
) -> Ground:
    """instead: of the entries that stand."""
    with cache.database.read() as connection:
        accounts = ledger.accounts(connection)
        home = ledger.home(connection) or (accounts[0].currency if accounts else "")
        entries = ledger.entries(connection, as_of) if instead is None else instead
    keys = sorted({p for e in entries for p in (e.payer, e.into) if p is not None})
    followed = {key: _followed(cache, key, as_of, at) for key in keys}
    currencies = {
        key: f.payer.currency if f.payer else _entered_in(entries, key)
        for key, f in followed.items()
    }
    others = {*currencies.values(), *(a.currency for a in accounts), *(e.currency for e in entries)}
    return Ground(
        home=home,
        accounts=accounts,
        entries=entries,
        followed=followed,
        known=Known(
            currencies=currencies,
            splits={k: f.splits for k, f in followed.items()},
            ex_dates={k: sorted(p.ex_date for p in f.paid) for k, f in followed.items()},
        ),
        rates=rates_over_time(cache, sorted(others - {home, ""}), home, as_of, at),
        withheld=_withheld(cache, followed, at),
    )


def _withheld(
    cache: ReviewCache, followed: Mapping[PayerKey, Followed], at: Edition
) -> dict[PayerKey, Fraction]:
    """What each payer's country withholds, by the house rules."""
    rules = cache.house_rules(at).withheld
    return {
        key: exact_rate(rules[f.payer.country])
        for key, f in followed.items()
        if f.payer is not None and f.payer.country in rules
    }


def kept_ground(cache: ReviewCache, as_of: date, at: Edition) -> Ground:
    """Made once for an edition of facts, rules and ledger."""
    key = ("ground", at, as_of)
    found: Ground = cache.followed.get(key, lambda: ground_of(cache, as_of, at))
    return found


def _entered_in(entries: Sequence[Entry], key: PayerKey) -> str:
    """The currency in which a payer that is not stored was entered first."""
    return next((e.currency for e in entries if e.payer == key), "")


def _followed(cache: ReviewCache, key: PayerKey, as_of: date, at: Edition) -> Followed:
    make = partial(_follow, cache, key, as_of, at)
    found: Followed = cache.followed.get(("held", at.facts, as_of, key), make)
    return found


def _follow(cache: ReviewCache, key: PayerKey, as_of: date, at: Edition) -> Followed:
    try:
        whole = light_file(cache, key, as_of, at)
        payer = whole.payer
        with computing(payer):
            file = whole.cut(as_of)
            price, rate = figures_of(file)
    except NotFound:
        return Followed(
            payer=None,
            price=unknown("price", Unit.PER_SHARE, NOT_STORED),
            rate=unknown("declared rate", Unit.PER_SHARE, NOT_STORED),
        )
    except Uncomputable as error:
        note_if_ours(error)
        return Followed(
            payer=payer,
            price=unknown("price", Unit.PER_SHARE, error.message),
            rate=unknown("declared rate", Unit.PER_SHARE, error.message),
        )
    return Followed(
        payer=payer,
        price=price.alone(),
        rate=rate.alone(),
        splits=[
            (s.effective_on, exact_ratio(s.new_shares) / exact_ratio(s.old_shares))
            for s in file.splits
            if s.effective_on <= as_of
        ],
        paid=[
            Paid(ex_date=d.ex_date, pay_date=d.pay_date, amount=d.amount, currency=d.currency)
            for d in file.dividends
            if d.kind is not DividendKind.RETURN_OF_CAPITAL and d.ex_date <= as_of
        ],
    )


def light_file(cache: ReviewCache, key: PayerKey, as_of: date, at: Edition) -> PayerFile:
    """What a payer pays and its newest close, uncut; read once. Raises NotFound."""

    def load() -> PayerFile:
        shared = cache.shared.get(at.facts, payer_files.Shared)
        with cache.database.read() as connection:
            return payer_files.load_newest(connection, *key, as_of, shared)

    return cache.followed.get(("light", at.facts, as_of, key), load)


def figures_of(file: PayerFile) -> tuple[Figure, Figure]:
    """A payer's price and declared rate, with their working."""
    return file.price, declared_rate_figure(file, read_on(file, file.day))


def _holdings(cache: ReviewCache, as_of: date, at: Edition) -> Holdings:
    ground = kept_ground(cache, as_of, at)
    book, came = kept_walk(cache, as_of, at)
    quotes, words, pending = _quotes(cache, ground, as_of, at)
    every = positions(book, quotes, came, ground.home)
    held = tuple(p for p in every if not p.ended)
    kept = {a.id: a.currency for a in ground.accounts if a.keeps_cash}
    return Holdings(
        home=ground.home,
        accounts=ground.accounts,
        book=book,
        held=held,
        ended=tuple(p for p in every if p.ended),
        apart=tuple(
            p for p in positions(book, quotes, came, ground.home, by_account=True) if not p.ended
        ),
        totals=Totals(positions=held, home=ground.home),
        cash=cash_after(ground.entries, book.converted, kept, as_of),
        stated=held_against(book, ground.accounts, ground.entries, as_of),
        payers={k: f.payer for k, f in ground.followed.items() if f.payer is not None},
        words=words,
        pending=pending,
        entries=len(ground.entries),
    )


def lots_to_choose(
    cache: ReviewCache,
    place: tuple[int, PayerKey],
    day: date,
    as_of: date,
    at: Edition,
    without: int | None = None,
) -> tuple[Lot, ...]:
    """What a sale or a transfer of a day can take, in shares of that day, a lot a day, as lots are
    chosen by their days; without: of an entry that is changed. Raises NotFound for an account that
    is not there."""
    ground = kept_ground(cache, as_of, at)
    if place[0] not in {a.id for a in ground.accounts}:
        raise NotFound("no such account", field="account", value=place[0])
    stays = (EntryKind.SELL, EntryKind.TRANSFER)
    entries = [
        e
        for e in ground.entries
        if e.id != without and (e.day < day or (e.day == day and e.kind not in stays))
    ]
    book = walk(ground.accounts, entries, ground.known, ground.rates, ground.home, day)
    held = book.held.get(place)
    if held is None or held.unresolved is not None:
        return ()
    by_day: dict[date, list[Lot]] = {}
    for lot in held.lots:
        by_day.setdefault(lot.day, []).append(lot)
    return tuple(together(lots) for lots in by_day.values())


def kept_walk(
    cache: ReviewCache, as_of: date, at: Edition
) -> tuple[Book, dict[tuple[int, PayerKey], list[Receipt]]]:
    """The walk through the ground that is kept, made once with it."""
    ground = kept_ground(cache, as_of, at)
    found: tuple[Book, dict[tuple[int, PayerKey], list[Receipt]]] = cache.followed.get(
        ("walk", at, as_of), lambda: walked(ground, as_of)
    )
    return found


def walked(ground: Ground, as_of: date) -> tuple[Book, dict[tuple[int, PayerKey], list[Receipt]]]:
    g = ground
    book = walk(g.accounts, g.entries, g.known, g.rates, g.home, as_of)
    paid = {key: f.paid for key, f in g.followed.items()}
    came = receipts(book, g.accounts, g.entries, paid, g.known, g.rates, g.home, as_of, g.withheld)
    return book, came


def _quotes(
    cache: ReviewCache, ground: Ground, as_of: date, at: Edition
) -> tuple[dict[PayerKey, Quote], dict[PayerKey, Mapping[str, str | None]], int]:
    here = universe(cache, as_of)
    measured = {(c.exchange, c.symbol): c for c in here.candidates}
    at_home: dict[str, Figure] = {}
    quotes, words, pending = {}, {}, 0
    for key, followed in ground.followed.items():
        currency = ground.known.currencies[key]
        if currency not in at_home:
            at_home[currency] = rate_of(cache, currency, ground.home, as_of, at)
        candidate = measured.get(key)
        ready = candidate.measured if candidate and not candidate.stale else None
        pending += ready is None and followed.payer is not None
        quotes[key] = Quote(
            payer=key,
            name=followed.payer.name if followed.payer else key[1],
            currency=currency,
            price=followed.price,
            rate=followed.rate,
            at_home=at_home[currency],
            buy_below=_own_price(ready, "buy_below", "buy-below price", currency),
            trim_above=_own_price(ready, "trim_above", "trim-above price", currency),
        )
        words[key] = ready.words if ready else {}
    return quotes, words, pending


def _own_price(ready: Measured | None, id: str, label: str, currency: str) -> Figure:
    """A price that follows from the person's own terms, as it is kept."""
    cell = ready.cell(id) if ready else NOT_MADE
    return Figure(
        label=label, unit=Unit.PER_SHARE, value=cell.value, reason=cell.reason, currency=currency
    )


def rate_of(cache: ReviewCache, currency: str, home: str, as_of: date, at: Edition) -> Figure:
    if currency == home:
        return given(f"{home} for one {currency}", Unit.INDEX, 1.0, "the same currency")
    return newest_rate(cache, currency, home, as_of, at)


def position_of(
    cache: ReviewCache, key: PayerKey, account: int | None, as_of: date, at: Edition
) -> Position | None:
    """One position with figures that open down to the facts; None where nothing was ever held."""
    found = read_holdings(cache, as_of, at)
    among = (*found.held, *found.ended) if account is None else found.apart
    for position in among:
        places = {a for a, _ in position.places}
        if position.quote.payer == key and (account is None or places == {account}):
            price, rate = _opened(cache, key, as_of, at)
            return replace(position, quote=replace(position.quote, price=price, rate=rate))
    return None


def _opened(cache: ReviewCache, key: PayerKey, as_of: date, at: Edition) -> tuple[Figure, Figure]:
    file = cache.cut_file(at, *key, as_of)
    with computing(file.payer):
        return figures_of(file)


def after_outlay(cache: ReviewCache, review: Review, as_of: date, at: Edition) -> After | None:
    """What the sum that is asked of a review would make of the position; None without one."""
    if review.outlay is None:
        return None
    found = read_holdings(cache, as_of, at)
    key = (review.payer.exchange, review.payer.symbol)
    position = position_of(cache, key, None, as_of, at)
    price, rate = _opened(cache, key, as_of, at)
    home = found.home or review.payer.currency
    quote = Quote(
        payer=key,
        name=review.payer.name,
        currency=review.payer.currency,
        price=price,
        rate=rate,
        at_home=rate_of(cache, review.payer.currency, home, as_of, at),
        buy_below=review.worth.buy_below,
        trim_above=review.worth.trim_above,
    )
    nothing = given("value", Unit.INDEX, 0.0, "nothing is held", currency=home)
    total = found.totals.value if found.held else nothing
    return after_buying(quote, position, total, review.outlay.now, home)
