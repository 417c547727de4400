"""Second opinions: models that ask another question than what its dividends are worth. They stand
beside the others and count once a person switches them on. (docs/method.md, Worth)"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from datetime import date

from ..cover.bases import Basis
from ..cover.cover import BasisCover
from ..estimates.newest import newest_estimate, year_ahead
from ..facts.age import freshness
from ..facts.derived import total_debt
from ..facts.periods import Period, fiscal_years, trailing_period, years_excluded
from ..figures.figure import Figure, Touch, Unit, Unknown, derive, given, percent, touch_of, unknown
from ..figures.inputs import Case, Default, Inputs, InputSpec, Shift
from ..kinds import Kind
from ..range.multiples import AFFO, BOOK, CLAIMS, EARNINGS, MULTIPLES, SUITS, statements_left
from ..range.quantity import Quantity
from ..range.ruler import Ruler, price_at_value, ruler_of
from ..record.payments import manual_edits_between
from .declare import Ground, ModelSpec
from .dividends import dividend_unsuited
from .staged import (
    cash_value,
    cash_value_to_multiple,
    dividends_to_exit,
    funds_path_value,
    graham_growth_value,
    kept_of_dividend,
    next_year_multiple_value,
)

FASTEST, SLOWEST = 0.08, -0.05
"""Bounds of a growth that is read off a trend."""
LEAST_WEEKS = 156
STEEP = 0.15
CAP_RATE = 0.065
GRAHAM_BASE, GRAHAM_K = 8.5, 2.0


def own_ruler(ground: Ground, quantity: Quantity) -> Ruler:
    """A multiple against five years of its weeks; made once for each file."""
    key = f"ruler {quantity.id}"
    if key not in ground.file.made:
        ground.file.made[key] = ruler_of(ground.file, ground.record, "5", quantity)
    found: Ruler = ground.file.made[key]
    return found


def _basis(ground: Ground, wanted: Basis) -> BasisCover | None:
    return next((b for b in ground.cover.bases if b.basis is wanted), None)


def _cash(ground: Ground) -> BasisCover | None:
    return _basis(ground, Basis.FREE_CASH_FLOW)


def _cash_start(ground: Ground, _: Inputs) -> Default:
    """Mean of the last three fiscal years, per share."""
    basis, label = _cash(ground), "free cash flow per share"
    held = [] if basis is None else [y.per_share for y in basis.years if not y.excluded][-3:]
    left = basis.gone if basis else ()
    if len(held) < 3:
        why = "fewer than three fiscal years of free cash flow are held"
        none = unknown(label, Unit.PER_SHARE, why).with_exclusions(left)
        return Default(none, "mean of three years")
    mean = derive(
        label,
        Unit.PER_SHARE,
        "mean of the last three fiscal years",
        held,
        lambda *v: sum(v) / len(v),
        currency=held[-1].currency,
    ).with_exclusions(left)
    return Default(mean, "mean of three years")


def _trend(basis: BasisCover | None, name: str) -> Figure:
    if basis is None:
        return unknown(name, Unit.FRACTION, f"{name} is not read of this kind of payer")
    return derive(
        name,
        Unit.FRACTION,
        f"its trend over five years, between {percent(SLOWEST)} and {percent(FASTEST)}",
        [basis.per_share_trend],
        lambda g: min(max(g, SLOWEST), FASTEST),
    )


def _cash_payout(ground: Ground, _: Inputs) -> Default:
    basis, origin = _cash(ground), "declared rate ÷ free cash flow"
    if basis is None:
        none = unknown("free cash flow payout", Unit.FRACTION, "no free cash flow is read")
        return Default(none, origin)
    return Default(basis.declared, origin)


def _cash_growth(ground: Ground, _: Inputs) -> Default:
    return Default(_trend(_cash(ground), "growth of cash per share"), "trend of five years")


def _lasting(of: str) -> Callable[[Ground, Inputs], Default]:
    """As far as a growth is taken to go on for ever."""

    def default(ground: Ground, chosen: Inputs) -> Default:
        most = ground.rules.highest_growth
        rule = given("house rule", Unit.FRACTION, most, f"at most {percent(most)}")
        figure = derive(
            "growth for ever",
            Unit.FRACTION,
            "the lower of growth and the house rule",
            [chosen[of].figure, rule],
            min,
        )
        return Default(figure, f"growth, at most {percent(most)}")

    return default


def _dilution(ground: Ground, _: Inputs) -> Default:
    """By how much shares grew a year over five; buying them back is none."""
    years = fiscal_years(ground.file)
    held = [y.line("diluted_shares") for y in years][-6:]
    left = years_excluded(ground.file, years)
    label, origin = "dilution a year", "five years of share counts"
    if len(held) < 2:
        none = unknown(label, Unit.FRACTION, "fewer than two share counts")
        return Default(none.with_exclusions(left), origin)
    n = len(held) - 1
    figure = derive(
        label,
        Unit.FRACTION,
        f"(last ÷ first) ^ (1/{n}) − 1, not under 0",
        [held[-1], held[0]],
        lambda last, first: (
            max(0.0, (last / first) ** (1 / n) - 1) if first > 0 else Unknown("no shares")
        ),
    )
    return Default(figure.with_exclusions(left), origin)


def _typical(ground: Ground, quantity: Quantity) -> Default:
    ruler = own_ruler(ground, quantity)
    return Default(ruler.typical, f"5-year {ruler.usual}")


def _exit_yield(ground: Ground, _: Inputs) -> Default:
    return Default(ground.yields.mean.but(label="exit yield"), "5-year mean")


def _cash_multiple(ground: Ground, _: Inputs) -> Default:
    quantity = next(q for q in MULTIPLES if q.id == "free_cash_flow")
    return _typical(ground, quantity)


def _twelve(ground: Ground) -> tuple[Period | None, tuple[str, ...]]:
    """The newest twelve months, and the statements a person left out of them."""
    period = trailing_period(ground.file)
    return period, statements_left(ground.file, period)


def _tax_rate(ground: Ground, _: Inputs) -> Default:
    """tax ÷ (net income + tax) of the newest twelve months."""
    (period, left), label = _twelve(ground), "tax rate"
    if period is None:
        none = unknown(label, Unit.FRACTION, "no statement is held").with_exclusions(left)
        return Default(none, "twelve months")
    rate = derive(
        label,
        Unit.FRACTION,
        "tax ÷ (net income + tax)",
        [period.line("tax"), period.line("net_income")],
        lambda tax, kept: tax / (kept + tax) if kept + tax > 0 else Unknown("nothing was earned"),
    )
    return Default(rate.with_exclusions(left), "twelve months")


def _firm_start(ground: Ground, chosen: Inputs) -> Default:
    """Operating cash flow − capital expenditure + interest × (1 − tax rate), per share."""
    (period, left), label = _twelve(ground), "cash for all capital per share"
    if period is None:
        none = unknown(label, Unit.PER_SHARE, "no statement is held").with_exclusions(left)
        return Default(none, "twelve months")
    lines = ("operating_cash_flow", "capital_expenditure", "interest_expense")
    found = derive(
        label,
        Unit.PER_SHARE,
        "(operating cash flow − capital expenditure + interest × (1 − tax rate)) ÷ diluted shares",
        [*map(period.line, lines), chosen["firm_tax"].figure, period.line("diluted_shares")],
        lambda cash, capex, interest, tax, shares: (
            (cash - capex + interest * (1 - tax)) / shares
            if shares > 0
            else Unknown("no diluted shares")
        ),
        currency=period.statements[-1].currency,
    )
    return Default(found.with_exclusions(left), "twelve months")


def _firm_return(ground: Ground, chosen: Inputs) -> Default:
    """The required return on the shares and the interest after tax on the debt, each by its part of
    what both are worth."""
    (period, left), label = _twelve(ground), "rate for all capital"
    origin = "required return and interest, by weight"
    if period is None:
        none = unknown(label, Unit.FRACTION, "no statement is held").with_exclusions(left)
        return Default(none, origin)

    def compute(
        r: float, price: float, shares: float, debt: float, interest: float, tax: float
    ) -> float | Unknown:
        own = price * shares
        if own + debt <= 0:
            return Unknown("there is no capital")
        return (own * r + interest * (1 - tax)) / (own + debt)

    found = derive(
        label,
        Unit.FRACTION,
        "(price × shares × required return + interest × (1 − tax rate)) ÷ "
        "(price × shares + total debt)",
        [
            chosen["required_return"].figure,
            ground.file.price,
            period.line("diluted_shares"),
            total_debt(period),
            period.line("interest_expense"),
            chosen["firm_tax"].figure,
        ],
        compute,
    )
    return Default(found.with_exclusions(left), origin)


def _margin(ground: Ground, _: Inputs) -> Default:
    (period, left), label = _twelve(ground), "net margin"
    if period is None:
        none = unknown(label, Unit.FRACTION, "no statement is held").with_exclusions(left)
        return Default(none, "twelve months")
    found = derive(
        label,
        Unit.FRACTION,
        "net income ÷ revenue",
        [period.line("net_income"), period.line("revenue")],
        lambda kept, sold: kept / sold if sold > 0 else Unknown("there was no revenue"),
    )
    return Default(found.with_exclusions(left), "twelve months")


def _conversion(ground: Ground, chosen: Inputs) -> Default:
    """Mean free cash flow of three years ÷ what the margin leaves of revenue."""
    (period, left), label = _twelve(ground), "cash of net income"
    if period is None:
        none = unknown(label, Unit.FRACTION, "no statement is held").with_exclusions(left)
        return Default(none, "three years of cash")
    found = derive(
        label,
        Unit.FRACTION,
        "free cash flow per share ÷ (revenue × net margin ÷ diluted shares)",
        [
            chosen["cash_start"].figure,
            period.line("revenue"),
            chosen["net_margin"].figure,
            period.line("diluted_shares"),
        ],
        lambda cash, sold, margin, shares: (
            cash / (sold * margin / shares)
            if margin > 0 and sold > 0
            else Unknown("the margin is not positive")
        ),
    )
    return Default(found.with_exclusions(left), "three years of cash")


def _funds_start(ground: Ground, _: Inputs) -> Default:
    return Default(AFFO.now(ground.file), "twelve months")


def _funds_growth(ground: Ground, _: Inputs) -> Default:
    return Default(_trend(_basis(ground, Basis.AFFO), "growth of AFFO"), "trend of five years")


def _funds_payout(ground: Ground, _: Inputs) -> Default:
    basis = _basis(ground, Basis.AFFO)
    if basis is None:
        return Default(unknown("AFFO payout", Unit.FRACTION, "no AFFO is read"), "declared rate")
    return Default(basis.declared, "declared rate ÷ AFFO")


def _funds_multiple(ground: Ground, _: Inputs) -> Default:
    return _typical(ground, next(q for q in MULTIPLES if q.id == "affo"))


def _cap_rate(_: Ground, __: Inputs) -> Default:
    origin = "a guess of the house"
    return Default(given("cap rate", Unit.YIELD, CAP_RATE, origin), origin)


def _aaa(ground: Ground, _: Inputs) -> Default:
    """The newest yield of AAA bonds in the payer's currency."""
    label, series = "AAA yield", ground.file.aaa_yield
    if series is None or not series.points:
        none = unknown(label, Unit.YIELD, "no AAA yield is held for this currency")
        return Default(none, "newest AAA yield")
    point = series.points[-1]
    found = Figure(
        label=label,
        unit=Unit.YIELD,
        value=point.value,
        period=point.day.isoformat(),
        known_on=point.published_on,
        source=point.source,
        touch=point.touch,
    )
    fresh = freshness("aaa_yield", point.day, ground.file.day, f"the newest {series.name}")
    return Default(fresh.of(found), "newest AAA yield")


_SLOWER: Shift = (lambda g: g - 0.01, "− 1 point")
_FASTER: Shift = (lambda g: g + 0.01, "+ 1 point")
_TENTH_LESS: Shift = (lambda m: m * 0.9, "− 10 %")
_TENTH_MORE: Shift = (lambda m: m * 1.1, "+ 10 %")


def _growth_spec(id: str, label: str, default: Callable[[Ground, Inputs], Default]) -> InputSpec:
    return InputSpec(
        id=id,
        label=label,
        name=label.lower(),
        unit=Unit.FRACTION,
        default=default,
        bounds=(-0.5, 0.5),
        low=_SLOWER,
        high=_FASTER,
    )


def _multiple_spec(id: str, label: str, default: Callable[[Ground, Inputs], Default]) -> InputSpec:
    return InputSpec(
        id=id,
        label=label,
        name=label.lower(),
        unit=Unit.MULTIPLE,
        default=default,
        bounds=(0.1, 500.0),
        step=0.5,
        low=_TENTH_LESS,
        high=_TENTH_MORE,
    )


def _share_spec(id: str, label: str, origin: str) -> InputSpec:
    """A part that is nil until the person types one."""
    name = label.lower()
    return InputSpec(
        id=id,
        label=label,
        name=name,
        unit=Unit.FRACTION,
        default=lambda *_: Default(given(name, Unit.FRACTION, 0.0, origin), origin),
        bounds=(0.0, 0.95) if id != "credited" else (0.0, 1.0),
        step=0.01,
    )


def _own_spec(quantity: Quantity) -> InputSpec:
    return _multiple_spec(
        f"own_{quantity.id}",
        f"Typical {quantity.name}",
        lambda ground, _: _typical(ground, quantity),
    )


INPUTS: tuple[InputSpec, ...] = (
    InputSpec(
        id="exit_yield",
        label="Exit yield",
        name="exit yield",
        unit=Unit.YIELD,
        default=_exit_yield,
        bounds=(0.0001, 1.0),
        step=0.0005,
        low=_TENTH_MORE,
        high=_TENTH_LESS,
    ),
    _share_spec("exit_tax", "Tax on dividends to the exit", "before tax, as the others"),
    _share_spec("credited", "Part that carries a tax credit", "none"),
    _share_spec("credit_rate", "Tax rate behind the credit", "none"),
    InputSpec(
        id="cash_payout",
        label="Payout of free cash flow",
        name="payout of free cash flow",
        unit=Unit.FRACTION,
        default=_cash_payout,
        bounds=(0.0, 3.0),
        step=0.01,
    ),
    InputSpec(
        id="cash_start",
        label="Free cash flow per share",
        name="free cash flow per share",
        unit=Unit.PER_SHARE,
        default=_cash_start,
        bounds=(-1e6, 1e6),
        step=0.01,
    ),
    _growth_spec("cash_growth", "Growth of cash per share", _cash_growth),
    _growth_spec("cash_lasting", "Growth of cash for ever", _lasting("cash_growth")),
    InputSpec(
        id="dilution",
        label="Dilution a year",
        name="dilution",
        unit=Unit.FRACTION,
        default=_dilution,
        bounds=(-0.2, 0.5),
    ),
    _multiple_spec("cash_multiple", "Exit price to free cash flow", _cash_multiple),
    InputSpec(
        id="firm_tax",
        label="Tax rate",
        name="tax rate",
        unit=Unit.FRACTION,
        default=_tax_rate,
        bounds=(-1.0, 1.0),
        step=0.01,
    ),
    InputSpec(
        id="firm_start",
        label="Cash for all capital, per share",
        name="cash for all capital",
        unit=Unit.PER_SHARE,
        default=_firm_start,
        bounds=(-1e6, 1e6),
        step=0.01,
    ),
    InputSpec(
        id="firm_return",
        label="Rate for all capital",
        name="rate for all capital",
        unit=Unit.FRACTION,
        default=_firm_return,
        bounds=(0.001, 0.5),
        low=(lambda r: r + 0.005, "+ ½ point"),
        high=(lambda r: r - 0.005, "− ½ point"),
    ),
    InputSpec(
        id="net_margin",
        label="Net margin",
        name="net margin",
        unit=Unit.FRACTION,
        default=_margin,
        bounds=(-1.0, 1.0),
        low=(lambda m: m - 0.01, "− 1 point"),
        high=(lambda m: m + 0.01, "+ 1 point"),
    ),
    InputSpec(
        id="cash_of_income",
        label="Cash of net income",
        name="cash of net income",
        unit=Unit.FRACTION,
        default=_conversion,
        bounds=(-5.0, 5.0),
        step=0.01,
    ),
    InputSpec(
        id="funds_start",
        label="AFFO per unit",
        name="AFFO per unit",
        unit=Unit.PER_SHARE,
        default=_funds_start,
        bounds=(-1e6, 1e6),
        step=0.01,
    ),
    _growth_spec("funds_growth", "Growth of AFFO", _funds_growth),
    _growth_spec("funds_lasting", "Later growth of AFFO", _lasting("funds_growth")),
    InputSpec(
        id="funds_payout",
        label="Payout of AFFO",
        name="payout of AFFO",
        unit=Unit.FRACTION,
        default=_funds_payout,
        bounds=(0.0, 3.0),
        step=0.01,
    ),
    _multiple_spec("funds_multiple", "Exit price to AFFO", _funds_multiple),
    InputSpec(
        id="cap_rate",
        label="Cap rate",
        name="cap rate",
        unit=Unit.YIELD,
        default=_cap_rate,
        bounds=(0.005, 0.5),
        step=0.0005,
        low=(lambda r: r + 0.005, "+ ½ point"),
        high=(lambda r: r - 0.005, "− ½ point"),
    ),
    InputSpec(
        id="aaa_yield",
        label="AAA yield",
        name="AAA yield",
        unit=Unit.YIELD,
        default=_aaa,
        bounds=(0.001, 0.5),
        step=0.0005,
    ),
    *(_own_spec(q) for q in MULTIPLES),
)


def _valued(
    label: str, formula: str, inputs: Sequence[Figure], value: Callable[..., float | Unknown]
) -> Figure:
    currency = next((x.currency for x in inputs if x.currency), None)
    return derive(label, Unit.PER_SHARE, formula, inputs, value, currency=currency)


def _limitless(growth: float, r: float) -> Unknown | None:
    if growth < r:
        return None
    return Unknown(
        f"growth {percent(growth, 1)} is not below the required return {percent(r, 1)}; the sum "
        "has no limit"
    )


EXIT = (
    "growth",
    "later_growth",
    "exit_yield",
    "required_return",
    "exit_tax",
    "credited",
    "credit_rate",
)
CASH_PAID = ("cash_start", "cash_payout", "growth", "later_growth", "exit_yield", "required_return")


def _exit(ground: Ground, case: Case, label: str) -> Figure:
    early = ground.rules.early_years

    def value(
        d: float, g: float, later: float, y: float, r: float, tax: float, q: float, c: float
    ) -> float | Unknown:
        if d <= 0:
            return Unknown("nothing is being paid")
        kept = kept_of_dividend(tax, q, c)
        return dividends_to_exit(d, [(early, g), (early, later)], y, r, kept)

    return _valued(
        label,
        f"present value of {2 * early} years of dividends, after tax and with their credits, then "
        "sold at the exit yield",
        [ground.record.declared_rate, *(case[i] for i in EXIT)],
        value,
    )


def _cash_paid(ground: Ground, case: Case, label: str) -> Figure:
    early = ground.rules.early_years

    def value(
        x: float, payout: float, g: float, later: float, y: float, r: float
    ) -> float | Unknown:
        if x <= 0 or payout <= 0:
            return Unknown("free cash flow pays no dividend")
        return dividends_to_exit(x * payout, [(early, g), (early, later)], y, r)

    return _valued(
        label,
        f"as dividends to an exit, the first one free cash flow × payout: {2 * early} years",
        [case[i] for i in CASH_PAID],
        value,
    )


def _equity(ground: Ground, case: Case, label: str) -> Figure:
    n = ground.rules.early_years

    def value(x: float, g: float, lasting: float, b: float, r: float) -> float | Unknown:
        if x <= 0:
            return Unknown("free cash flow per share is not positive")
        return _limitless(lasting, r) or cash_value(
            x, [(n, g), (n, (g + lasting) / 2)], lasting, r, b
        )

    taken = ("cash_start", "cash_growth", "cash_lasting", "dilution", "required_return")
    return _valued(
        label,
        f"present value of {n} years at the growth, {n} half way to the growth for ever, and all "
        "after; no debt is taken off, as interest is paid already",
        [case[i] for i in taken],
        value,
    )


def _equity_sold(ground: Ground, case: Case, label: str) -> Figure:
    n = ground.rules.early_years

    def value(x: float, g: float, m: float, b: float, r: float) -> float | Unknown:
        if x <= 0:
            return Unknown("free cash flow per share is not positive")
        return cash_value_to_multiple(x, [(n, g)], m, r, b)

    taken = ("cash_start", "cash_growth", "cash_multiple", "dilution", "required_return")
    return _valued(
        label,
        f"present value of {n} years of cash, then sold at the exit multiple of the last",
        [case[i] for i in taken],
        value,
    )


def _firm(ground: Ground, case: Case, label: str) -> Figure:
    n = ground.rules.early_years

    def value(
        x: float, g: float, lasting: float, b: float, r: float, claims: float
    ) -> float | Unknown:
        if x <= 0:
            return Unknown("cash for all capital is not positive")
        stages = [(n, g), (n, (g + lasting) / 2)]
        return _limitless(lasting, r) or cash_value(x, stages, lasting, r, b) - claims

    taken = ("firm_start", "cash_growth", "cash_lasting", "dilution", "firm_return")
    return _valued(
        label,
        "present value of cash for all capital, for ever, − net debt, minority and preferred per "
        "share",
        [*(case[i] for i in taken), CLAIMS.now(ground.file)],
        value,
    )


def _revenue(ground: Ground, case: Case, label: str) -> Figure:
    n = ground.rules.early_years
    period, left = _twelve(ground)
    if period is None:
        return unknown(label, Unit.PER_SHARE, "no statement is held").with_exclusions(left)

    def value(
        sold: float,
        margin: float,
        kept: float,
        shares: float,
        g: float,
        lasting: float,
        b: float,
        r: float,
    ) -> float | Unknown:
        start = sold * margin * kept / shares if shares > 0 else 0.0
        if start <= 0:
            return Unknown("revenue leaves no cash")
        stages = [(n, g), (n, (g + lasting) / 2)]
        return _limitless(lasting, r) or cash_value(start, stages, lasting, r, b)

    taken = ("cash_growth", "cash_lasting", "dilution", "required_return")
    return _valued(
        label,
        "revenue × net margin × cash of net income ÷ shares, by stages and for ever",
        [
            period.line("revenue"),
            case["net_margin"],
            case["cash_of_income"],
            period.line("diluted_shares"),
            *(case[i] for i in taken),
        ],
        value,
    ).with_exclusions(left)


def _funds(_: Ground, case: Case, label: str) -> Figure:
    def value(
        a: float, g: float, later: float, b: float, payout: float, m: float, r: float
    ) -> float | Unknown:
        if a <= 0:
            return Unknown("AFFO per unit is not positive")
        stages = [(3, g), (3, (g + later) / 2), (4, later)]
        return funds_path_value(a, stages, b, payout, m, r)

    taken = ("funds_start", "funds_growth", "funds_lasting", "dilution", "funds_payout")
    return _valued(
        label,
        "present value of what is paid out of ten years of AFFO, then sold at the exit multiple",
        [case[i] for i in (*taken, "funds_multiple", "required_return")],
        value,
    )


def _assets(ground: Ground, _: Case, label: str) -> Figure:
    return BOOK.now(ground.file).but(label=label)


def _income_assets(ground: Ground, case: Case, label: str) -> Figure:
    period, left = _twelve(ground)
    if period is None:
        return unknown(label, Unit.PER_SHARE, "no statement is held").with_exclusions(left)
    inputs = [period.line("net_operating_income"), CLAIMS.total(period), case["cap_rate"]]
    return derive(
        label,
        Unit.PER_SHARE,
        "(net operating income ÷ cap rate − net debt − minority − preferred) ÷ units",
        [*inputs, period.at_end("diluted_shares")],
        lambda noi, owed, rate, units: (noi / rate - owed) / units,
        currency=inputs[0].currency,
    ).with_exclusions(left)


def _graham(ground: Ground, case: Case, label: str) -> Figure:
    return _valued(
        label,
        f"earnings per share × ({GRAHAM_BASE} + {GRAHAM_K:g} × growth in percent) × 4.4 ÷ "
        "AAA yield in percent",
        [EARNINGS.now(ground.file), case["growth"], case["aaa_yield"]],
        lambda e, g, y: graham_growth_value(e, g, GRAHAM_BASE, GRAHAM_K, y),
    )


def _own_value(quantity: Quantity) -> Callable[[Ground, Case, str], Figure]:
    def value(ground: Ground, case: Case, label: str) -> Figure:
        ruler = own_ruler(ground, quantity)
        beside = [ruler.beside] if ruler.beside else []
        return price_at_value(label, quantity, ruler.base, case[f"own_{quantity.id}"], beside)

    return value


ESTIMATED = {"earnings": "eps", "ffo": "ffo", "affo": "affo"}
"""What analysts estimate per share, by the multiple that is paid for it."""


def _expected(ground: Ground, quantity: Quantity) -> Figure:
    file = ground.file
    return newest_estimate(file, ESTIMATED[quantity.id], year_ahead(file))


def _next_value(quantity: Quantity) -> Callable[[Ground, Case, str], Figure]:
    def value(ground: Ground, case: Case, label: str) -> Figure:
        def compute(m: float, x: float, d: float, r: float) -> float | Unknown:
            if x <= 0:
                return Unknown(f"the estimate of {quantity.short} is not positive")
            return next_year_multiple_value(m, x, max(d, 0.0), r)

        return _valued(
            label,
            "(typical multiple × estimate of the year ahead + declared rate) ÷ "
            "(1 + required return)",
            [
                case[f"own_{quantity.id}"],
                _expected(ground, quantity),
                ground.record.declared_rate,
                case["required_return"],
            ],
            compute,
        )

    return value


def _next_unsuited(quantity: Quantity) -> Callable[[Ground, Inputs], str | None]:
    def unsuited(ground: Ground, inputs: Inputs) -> str | None:
        expected = _expected(ground, quantity)
        return _own_unsuited(quantity)(ground, inputs) or expected.reason

    return unsuited


def _only(kinds: Sequence[Kind], why: str) -> Callable[[Ground], str | None]:
    return lambda ground: None if ground.file.payer.kind in kinds else why


def _cash_unsuited(ground: Ground, _: Inputs) -> str | None:
    basis = _cash(ground)
    if basis is None:
        return f"free cash flow says little of a {ground.file.payer.kind.words}"
    five = [y.per_share.value for y in basis.years][-5:]
    positive = sum(v is not None and v > 0 for v in five)
    if positive < 3:
        return f"free cash flow was positive in {positive} of the last {len(five)} years"
    return None


def _trusts_only(ground: Ground, _: Inputs) -> str | None:
    return _only((Kind.PROPERTY_TRUST,), "only a property trust reports AFFO")(ground)


def _assets_unsuited(ground: Ground, _: Inputs) -> str | None:
    why = "its worth lies in what it earns, not in what it owns"
    return _only((Kind.PROPERTY_TRUST, Kind.FINANCIAL), why)(ground)


def _income_unsuited(ground: Ground, _: Inputs) -> str | None:
    return _only((Kind.PROPERTY_TRUST,), "it has no rent to capitalise")(ground)


def _graham_unsuited(ground: Ground, inputs: Inputs) -> str | None:
    kind = ground.file.payer.kind
    if kind not in (Kind.COMPANY, Kind.FINANCIAL):
        return f"earnings say little of a {kind.words}"
    earned, growth = EARNINGS.now(ground.file), inputs["growth"].figure.value
    if earned.value is None:
        return f"earnings per share unknown: {earned.reason}"
    if earned.value <= 0:
        return "earnings per share are not positive"
    if growth is not None and abs(growth) > STEEP:
        return f"growth is beyond ± {percent(STEEP)}"
    return None


def _own_unsuited(quantity: Quantity) -> Callable[[Ground, Inputs], str | None]:
    def unsuited(ground: Ground, _: Inputs) -> str | None:
        kind = ground.file.payer.kind
        if quantity not in SUITS[kind]:
            return f"not used for a {kind.words}"
        weeks = len(own_ruler(ground, quantity).weeks.values)
        if weeks < LEAST_WEEKS:
            return f"{weeks} weeks with a known {quantity.name}; {LEAST_WEEKS} are needed"
        return None

    return unsuited


def _touch(ground: Ground) -> Touch | None:
    """Whether a person had a hand in what decides whether it suits."""
    statements = [
        Touch.EDITED if s.edited else Touch.ENTERED for s in ground.file.versions if s.by_hand
    ]
    left = Touch.EDITED if ground.file.exclusions else None
    return touch_of([*statements, left, manual_edits_between(ground.file, date.min)])


MODELS: tuple[ModelSpec, ...] = (
    ModelSpec(
        id="exit",
        name="Dividends to an exit",
        question="What are its dividends worth if it is sold after some years at its usual yield?",
        answers="dividends",
        lead=False,
        takes=EXIT,
        value=_exit,
        unsuited=lambda ground, _: dividend_unsuited(ground),
        touch=_touch,
    ),
    ModelSpec(
        id="cash_paid",
        name="Dividends out of cash",
        question="What would dividends be worth that follow its cash and not what is declared?",
        answers="dividends",
        lead=False,
        takes=CASH_PAID,
        value=_cash_paid,
        unsuited=lambda ground, inputs: dividend_unsuited(ground) or _cash_unsuited(ground, inputs),
        touch=_touch,
    ),
    ModelSpec(
        id="cash_to_equity",
        name="Cash flow to equity",
        question="What is the cash worth that is left for shareholders, for ever?",
        answers="cash",
        lead=False,
        takes=("cash_start", "cash_growth", "cash_lasting", "dilution", "required_return"),
        value=_equity,
        unsuited=_cash_unsuited,
        touch=_touch,
    ),
    ModelSpec(
        id="cash_to_multiple",
        name="Cash flow, sold at a multiple",
        question="What is that cash worth if it is sold after some years at its usual multiple?",
        answers="cash",
        lead=False,
        takes=("cash_start", "cash_growth", "cash_multiple", "dilution", "required_return"),
        value=_equity_sold,
        unsuited=_cash_unsuited,
        touch=_touch,
    ),
    ModelSpec(
        id="cash_to_firm",
        name="Cash flow to the firm",
        question="What is the cash worth that all capital shares, less what is owed?",
        answers="cash",
        lead=False,
        takes=(
            "firm_tax",
            "firm_start",
            "cash_growth",
            "cash_lasting",
            "dilution",
            "required_return",
            "firm_return",
        ),
        value=_firm,
        unsuited=_cash_unsuited,
        touch=_touch,
    ),
    ModelSpec(
        id="revenue",
        name="Revenue-driven cash flow",
        question="What is it worth by its sales, its margin and the cash they leave?",
        answers="cash",
        lead=False,
        takes=(
            "cash_start",
            "net_margin",
            "cash_of_income",
            "cash_growth",
            "cash_lasting",
            "dilution",
            "required_return",
        ),
        value=_revenue,
        unsuited=_cash_unsuited,
        touch=_touch,
    ),
    ModelSpec(
        id="funds",
        name="AFFO, sold at a multiple",
        question="What is a unit worth by what its rents leave, sold after ten years?",
        answers="cash",
        lead=False,
        takes=(
            "funds_start",
            "funds_growth",
            "funds_lasting",
            "dilution",
            "funds_payout",
            "funds_multiple",
            "required_return",
        ),
        value=_funds,
        unsuited=_trusts_only,
        touch=_touch,
    ),
    ModelSpec(
        id="graham",
        name="Graham’s growth formula",
        question="What would a growing earner be worth beside the best bonds?",
        answers="cash",
        lead=False,
        takes=("growth", "aaa_yield"),
        value=_graham,
        unsuited=_graham_unsuited,
        touch=_touch,
    ),
    ModelSpec(
        id="net_assets",
        name="Net asset value",
        question="What would be left of what it owns after what it owes?",
        answers="assets",
        lead=False,
        takes=(),
        value=_assets,
        unsuited=_assets_unsuited,
        touch=_touch,
    ),
    ModelSpec(
        id="income_assets",
        name="Net asset value from income",
        question="What would its buildings fetch by the rent they bring?",
        answers="assets",
        lead=False,
        takes=("cap_rate",),
        value=_income_assets,
        unsuited=_income_unsuited,
        touch=_touch,
    ),
    *(
        ModelSpec(
            id=f"own_{q.id}",
            name=f"Its usual {q.name}",
            question=f"What would it cost at the {q.name} others have usually paid for it?",
            answers="others",
            lead=False,
            takes=(f"own_{q.id}",),
            value=_own_value(q),
            unsuited=_own_unsuited(q),
            touch=_touch,
        )
        for q in MULTIPLES
    ),
    *(
        ModelSpec(
            id=f"next_{q.id}",
            name=f"Its usual {q.name}, next year",
            question=f"What is it worth now if next year’s {q.short} fetch the usual multiple?",
            answers="others",
            lead=False,
            takes=(f"own_{q.id}", "required_return"),
            value=_next_value(q),
            unsuited=_next_unsuited(q),
            touch=_touch,
        )
        for q in MULTIPLES
        if q.id in ESTIMATED
    ),
)
