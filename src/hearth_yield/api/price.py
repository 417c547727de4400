"""The price and its past: what it did with dividends and without, and the lines drawn on it."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from fastapi import APIRouter, Query, Response
from pydantic import BaseModel, Field

from hearth_yield.actions.draw_lines import draw_line, forget_line, lines_of
from hearth_yield.actions.show_facts import show_volumes
from hearth_yield.core.errors import InvalidInput
from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import Series
from hearth_yield.core.figures.measure import Stage
from hearth_yield.core.range.lines import PriceLine
from hearth_yield.core.range.performance import PUT_IN
from hearth_yield.core.range.price import AVERAGES, Priced, average_line
from hearth_yield.core.range.reinvested import paid_between, put_back
from hearth_yield.core.range.stage import RangeStage

from .answer import wire, written
from .context import Here, Id, Reviewed, When
from .figures import FigureOut, figure_out
from .schemas import Problem
from .wire import each, fill

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})
ONE_PAYER = "/payers/{exchange}/{symbol:path}"
MOST_BESIDE = 5


@wire
class LineOfDays:
    """Parallel lists, oldest first: what is held of each day, and with dividends put back in."""

    name: str
    exchange: str | None = None
    symbol: str | None = None
    days: list[date]
    values: list[float]
    totals: list[float]


@wire
class WentExOut:
    ex_date: date
    amount: float
    kind: str


@wire
class GrownOut:
    """One span. begins, ends: the days of its closes. from_…: what the return a year came from, on
    the measure of the quantity that Range shows."""

    id: str
    begins: date | None
    ends: date | None
    price: FigureOut
    price_a_year: FigureOut
    total: FigureOut
    total_a_year: FigureOut
    received: FigureOut
    market_price: FigureOut
    market_total: FigureOut
    market_total_a_year: FigureOut
    against_market: FigureOut
    worth_put_back: FigureOut
    worth_now: FigureOut
    received_of_it: FigureOut
    market_worth: FigureOut
    yearly: FigureOut
    from_growth: FigureOut
    from_re_rating: FigureOut
    from_income: FigureOut


@wire
class AverageOut:
    """against: how far the price stands from it now. line: by day, as the closes are."""

    days: int
    now: FigureOut
    against: FigureOut
    line: list[float | None]


@wire
class PriceSeries:
    """own: the closes in today's shares; volumes: shares traded on its days, as traded, empty where
    they are told of none. spans: this year, 1, 5, 10 years and all; span: the one
    asked for. put_in: the sum that worth_put_back, worth_now and market_worth tell of. measure:
    what growth in a span is that of."""

    own: LineOfDays
    volumes: list[float | None]
    market: LineOfDays | None
    paid: list[WentExOut]
    averages: list[AverageOut]
    price: FigureOut
    highest: FigureOut
    from_peak: FigureOut
    low_52: FigureOut
    high_52: FigureOut
    beta: FigureOut
    beta_error: FigureOut
    beta_r_squared: FigureOut
    measure: str
    put_in: float
    spans: list[GrownOut]
    span: GrownOut | None


class PriceLineIn(BaseModel):
    """In the shares of the day; id: of one that is moved."""

    id: int = Field(default=0, ge=0, le=2**63 - 1)
    name: str = Field(default="", max_length=200)
    first_day: date
    first_price: float = Field(allow_inf_nan=False)
    last_day: date
    last_price: float = Field(allow_inf_nan=False)


@wire
class PriceLineOut:
    id: int
    name: str
    first_day: date
    first_price: float
    last_day: date
    last_price: float


@wire
class PriceLineMade:
    id: int


@router.get(ONE_PAYER + "/range/price", response_model=PriceSeries)
def price(here: Here, exchange: str, symbol: str, found: Reviewed) -> Response:
    held: RangeStage = found.stages[Stage.RANGE].result
    priced, at = held.price, "range.price"
    file, beta = priced.file, priced.beta

    own = _own(file)
    return written(
        fill(
            PriceSeries,
            priced,
            at,
            own=own,
            volumes=list(show_volumes(here.database, exchange, symbol, own.days)),
            market=_market(file.market_index, file.market_total),
            paid=[
                WentExOut(ex_date=p.ex_date, amount=p.amount, kind=p.fact.kind.value)
                for p in paid_between(file, date.min, file.last_day)
            ],
            averages=_averages(priced),
            price=figure_out(found.price, "payer.price"),
            low_52=figure_out(held.yields.low_52, "range.low_52"),
            high_52=figure_out(held.yields.high_52, "range.high_52"),
            beta=figure_out(beta.beta, f"{at}.beta.beta"),
            beta_error=figure_out(beta.error, f"{at}.beta.error"),
            beta_r_squared=figure_out(beta.r_squared, f"{at}.beta.r_squared"),
            measure=held.shown.quantity.base_name,
            put_in=PUT_IN,
            span=fill(GrownOut, found.span, "span") if found.span else None,
        )
    )


@wire
class GrowthYearOut:
    """What the measure did against the year before; estimated: analysts expect it."""

    year: int
    ends: date
    growth: FigureOut
    estimated: bool


@wire
class DistanceSeries:
    """days, values: week by week, close ÷ the price at the usual value − 1. usual: "mean" or
    "median". years: of the measure. gaps: weeks left out, and why. span: what the one asked for
    did and came from."""

    name: str
    usual: str
    typical: FigureOut
    now: FigureOut
    measure: str
    days: list[date]
    values: list[float | None]
    years: list[GrowthYearOut]
    gaps: list[str]
    put_in: float
    span: GrownOut | None


@router.get(ONE_PAYER + "/range/distance", response_model=DistanceSeries)
def distance(found: Reviewed) -> Response:
    """How far the price stood from what the usual value of the quantity would pay."""
    held: RangeStage = found.stages[Stage.RANGE].result
    away, ruler = held.distance, held.shown
    return written(
        DistanceSeries(
            name=ruler.quantity.name,
            usual=ruler.usual,
            typical=figure_out(ruler.typical, "range.shown.typical"),
            now=figure_out(ruler.premium, "range.shown.premium"),
            measure=ruler.quantity.base_name,
            days=ruler.weeks.days.astype(date).tolist(),
            values=[None if v != v else round(v, 6) for v in away.weeks.tolist()],
            years=each(GrowthYearOut, away.years, "range.distance.years"),
            gaps=list(ruler.count.notes),
            put_in=PUT_IN,
            span=fill(GrownOut, found.span, "span") if found.span else None,
        )
    )


@router.get("/price-courses")
def beside(
    here: Here, when: When, payers: Annotated[list[str], Query(max_length=MOST_BESIDE)]
) -> list[LineOfDays]:
    """The closes of other payers, EXCHANGE/SYMBOL each, to draw beside one's own."""
    found = []
    for text in payers:
        exchange, slash, symbol = text.partition("/")
        if not slash or not symbol:
            raise InvalidInput(
                "a payer is named by exchange and symbol",
                field="payers",
                value=text,
                rule="EXCHANGE/SYMBOL",
            )
        file = here.cache.cut_file(when.edition, exchange, symbol, when.as_of)
        found.append(_own(file))
    return found


@router.get(ONE_PAYER + "/range/lines")
def lines(here: Here, exchange: str, symbol: str, when: When) -> list[PriceLineOut]:
    """The levels and lines drawn on the price, in the shares of the day."""
    held = lines_of(here.cache, exchange, symbol, when.as_of, when.edition)
    return each(PriceLineOut, held)


@router.put(ONE_PAYER + "/range/lines", status_code=201)
def draw(here: Here, exchange: str, symbol: str, when: When, line: PriceLineIn) -> PriceLineMade:
    asked = PriceLine(**line.model_dump(), drawn_on=when.as_of)
    return PriceLineMade(
        id=draw_line(here.cache, exchange, symbol, when.as_of, when.edition, asked)
    )


@router.delete("/price-lines/{id}", status_code=204)
def forget(here: Here, id: Id) -> None:
    forget_line(here.cache, id)


def _own(file: PayerFile) -> LineOfDays:
    closes = file.adjusted_closes
    return LineOfDays(
        name=file.payer.name,
        exchange=file.payer.exchange,
        symbol=file.payer.symbol,
        days=file.prices.days.astype(date).tolist(),
        values=closes.round(6).tolist(),
        totals=(closes * put_back(file)).round(6).tolist(),
    )


def _market(plain: Series | None, total: Series | None) -> LineOfDays | None:
    """On the days for which both are held."""
    if plain is None:
        return None
    held = {p.day: p.value for p in (total or plain).points}
    points = [p for p in plain.points if p.day in held]
    return LineOfDays(
        name=plain.name,
        days=[p.day for p in points],
        values=[p.value for p in points],
        totals=[held[p.day] for p in points],
    )


def _averages(priced: Priced) -> list[AverageOut]:
    file = priced.file
    return [
        AverageOut(
            days=n,
            now=figure_out(priced.averages[str(n)], f"range.price.averages.{n}"),
            against=figure_out(
                priced.against_averages[str(n)], f"range.price.against_averages.{n}"
            ),
            line=average_line(file.prices.days, file.adjusted_closes, n),
        )
        for n in AVERAGES
    ]
