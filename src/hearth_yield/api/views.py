"""From what the core answers to what crosses the wire."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import asdict
from datetime import date
from typing import Any

from hearth_yield.actions.adjust import Adjustment
from hearth_yield.actions.decide import PastDecision
from hearth_yield.core.cover import BasisCover, CoverPeriod
from hearth_yield.core.errors import NotFound
from hearth_yield.core.facts import Dividend, PayerNote
from hearth_yield.core.figure import Figure, Unit
from hearth_yield.core.ranges import YieldRange
from hearth_yield.core.record import Year
from hearth_yield.core.review import (
    Finding,
    Part,
    Review,
    Size,
    figure_at,
    figures_in,
    named_figures,
)
from hearth_yield.core.rules import Stage, Test
from hearth_yield.core.statements import fiscal_year_of, words
from hearth_yield.core.worth.inputs import BOUNDS

from . import schemas as s

BOUNDS_OUT = {n: s.BoundsOut(low=low, high=high) for n, (low, high) in BOUNDS.items()}


def figure_out(figure: Figure, key: str) -> s.FigureOut:
    return s.FigureOut(
        key,
        figure.label,
        figure.unit.value,
        figure.value,
        figure.reason,
        figure.breach,
        figure.currency,
        figure.period,
        figure.known_on,
        figure.notes,
        figure.touch.value if figure.touch else None,
        figure.cautions,
        figure.was,
    )


def payment_out(dividend: Dividend, amount: float) -> s.PaymentOut:
    return s.PaymentOut(
        ex_date=dividend.ex_date,
        pay_date=dividend.pay_date,
        declared_on=dividend.declared_on,
        amount=amount,
    )


class ReviewView:
    """One review as schemas; each figure under the key its working is asked by.

    only: the one stage that will be asked for; the figures of the others are not named then.
    """

    def __init__(self, review: Review, only: str = "") -> None:
        self.review = review
        self._keys = {id(f): k for k, f in reversed(named_figures(review, only).items())}

    def figure(self, figure: Figure) -> s.FigureOut:
        return figure_out(figure, self._keys.get(id(figure), ""))

    def _all(self, node: Any, *names: str) -> dict[str, Any]:
        return {n: self.figure(getattr(node, n)) for n in names}

    def _figures_of(self, node: Any) -> dict[str, Any]:
        return {n: self.figure(f) for n, f in figures_in(node).items()}

    def whole(self, slumps: Sequence[s.SlumpOut]) -> s.ReviewOut:
        r = self.review
        return s.ReviewOut.model_construct(
            payer=payer_out(r),
            as_of=r.as_of,
            state=r.state.value if r.state else None,
            first_to_give=self.test(r.first_to_give) if r.first_to_give else None,
            price=self.figure(r.price),
            findings=[self.finding(f) for f in r.findings],
            tests=[self.test(t) for t in r.tests],
            record=self.record(),
            cover=self.cover(),
            range=self.range(r.range),
            aim=self.aim(),
            worth=self.worth(),
            slumps=list(slumps),
            left_out=[s.LeftOutOut(table=x.table, note=x.note) for x in r.left_out],
        )

    def part(self, part: Part) -> s.PartOut:
        match part:
            case str():
                return s.PartOut(text=part)
            case date():
                return s.PartOut(day=part)
            case Size():
                return s.PartOut(figure=self.figure(part.figure), size=True)
        return s.PartOut(figure=self.figure(part))

    def finding(self, finding: Finding) -> s.FindingOut:
        return s.FindingOut(
            stage=finding.stage.value,
            state=finding.state.value if finding.state else None,
            parts=[self.part(p) for p in finding.parts],
        )

    def test(self, test: Test) -> s.TestOut:
        return s.TestOut.model_construct(
            id=test.id,
            short=test.short,
            stage=test.stage.value,
            measure=self.figure(test.measure),
            limit=test.limit,
            direction=test.direction.value,
            required=test.required,
            cushion=self.figure(test.cushion),
            state=test.state.value,
            falls=test.falls,
        )

    def record(self) -> s.RecordOut:
        record, inflation = self.review.record, self.review.inflation
        coming = record.next_payment
        return s.RecordOut.model_construct(
            **self._figures_of(record),
            gap_called_out=record.gap_called_out,
            uneven=record.uneven,
            growth=[
                s.GrowthOut(
                    years=n, nominal=self.figure(g), real=self.figure(inflation.real_growth[n])
                )
                for n, g in record.growth.items()
            ],
            years_ahead=self.figure(inflation.years_ahead),
            next_payment=payment_out(coming.fact, coming.amount) if coming else None,
            last_cut=record.last_cut,
            years=[self._year(y, inflation.real_years.get(y.year)) for y in record.years],
            paces=[
                s.PaceOut(base_year=p.base_year, **self._figures_of(p)) for p in inflation.paces
            ],
        )

    def _year(self, year: Year, real: Figure | None) -> s.YearOut:
        return s.YearOut(
            year=year.year,
            outcome=year.outcome.value,
            complete=year.complete,
            total=self.figure(year.total),
            real=self.figure(real) if real else None,
            part=year.part,
            pending=self.figure(year.pending) if year.pending else None,
            special=self.figure(year.special) if year.special else None,
            payments=[payment_out(p.fact, p.amount) for p in year.payments],
        )

    def cover(self) -> s.CoverOut:
        cover = self.review.cover
        return s.CoverOut.model_construct(
            bases=[self._basis(b) for b in cover.bases], trailing_note=cover.trailing_note
        )

    def _basis(self, basis: BasisCover) -> s.BasisOut:
        return s.BasisOut.model_construct(
            basis=basis.basis.value,
            name=words(basis.basis.value),
            years=[self._period(y) for y in basis.years],
            trailing=self._period(basis.trailing) if basis.trailing else None,
            latest=self._period(basis.latest) if basis.latest else None,
            swings=basis.swings,
            **self._figures_of(basis),
        )

    def _period(self, period: CoverPeriod) -> s.CoverPeriodOut:
        return s.CoverPeriodOut(
            label=period.label,
            year=fiscal_year_of(period.end),
            end=period.end,
            freak=period.freak,
            set_aside=period.set_aside,
            **self._figures_of(period),
        )

    def range(self, span: YieldRange) -> s.RangeOut:
        return s.RangeOut.model_construct(
            window=span.window,
            quarters=[s.QuarterEndOut(day=q.day, **self._figures_of(q)) for q in span.quarters],
            price_scale=[s.PriceMarkOut(fraction=y, price=p) for y, p in span.price_scale],
            weeks=s.WeeksOut.model_construct(
                days=span.weeks.days.astype(date).tolist(),
                yields=span.weeks.yields.round(6).tolist(),
            ),
            **self._figures_of(span),
        )

    def aim(self) -> s.AimOut | None:
        aim = self.review.aim
        if aim is None:
            return None
        return s.AimOut.model_construct(
            weeks_in_sample=len(self.review.range.weeks.days),
            last_offered=aim.last_offered,
            **self._figures_of(aim),
        )

    def worth(self) -> s.WorthOut:
        worth = self.review.worth
        return s.WorthOut.model_construct(
            models=[
                s.ModelOut.model_construct(
                    id=m.id.value,
                    name=m.name,
                    on=m.on,
                    suits=m.suits,
                    why_off=m.why_off,
                    **self._all(m, "low", "middle", "high"),
                )
                for m in worth.models
            ],
            spread_called_out=worth.spread_called_out,
            moves_most=worth.moves_most,
            origins=dict(worth.origins),
            bounds=BOUNDS_OUT,
            finding=next(self.finding(f) for f in self.review.findings if f.stage is Stage.WORTH),
            **self._figures_of(worth),
        )


def payer_out(review: Review) -> s.PayerOut:
    p = review.payer
    return s.PayerOut.model_construct(
        symbol=p.symbol,
        exchange=p.exchange,
        name=p.name,
        kind=p.kind.value,
        currency=p.currency,
        country=p.country,
        description=p.description,
        sector=_note_out(review.sector),
        industry=_note_out(review.industry),
        credit_rating=_note_out(review.credit_rating),
        listed_on=p.listed_on,
        delisted_on=p.delisted_on,
        touch=p.touch.value if p.touch else None,
    )


def _note_out(note: PayerNote | None) -> s.NoteOut | None:
    if note is None:
        return None
    return s.NoteOut(
        value=note.value,
        published_on=note.published_on,
        touch=note.touch.value if note.touch else None,
    )


def decision_out(past: PastDecision) -> s.DecisionOut:
    made = past.made
    return s.DecisionOut.model_construct(
        id=made.id or 0,
        as_of=made.as_of,
        recorded_at=made.recorded_at,
        verdict=made.verdict,
        words=made.words,
        buy_below=past.buy_below,
        buy_below_written=None if made.buy_below is None else f"{made.buy_below.normalize():f}",
        currency=made.currency,
        state=made.state,
        first_to_give=made.first_to_give,
        changes=[
            s.ChangeOut.model_construct(
                key=c.key,
                label=c.label,
                unit=c.unit,
                then=c.then,
                then_reason=c.then_reason,
                now=figure_out(c.now, c.key) if c.now else None,
                moved=c.moved,
            )
            for c in past.changes
        ],
        dividends_since=[payment_out(d, d.amount) for d in past.dividends_since],
    )


def working_out(
    review: Review,
    key: str,
    path: str,
    sources: Mapping[int, s.SourceOut],
    standing: Sequence[Adjustment],
) -> s.WorkingOut:
    """The working of the figure under `key`, or of an input of it: path "0.2" is the third input
    of its first. Raises NotFound for a key or path the review does not have."""
    figure = figure_at(review, key)
    if figure is None:
        raise NotFound(
            "this review has no such figure", field="key", value=key, rule="a key of the review"
        )
    trail = [figure.label]
    for step in path.split(".") if path else []:
        if not (step.isascii() and step.isdigit()) or int(step) >= len(figure.inputs):
            raise NotFound(
                "this figure has no such input",
                field="path",
                value=path,
                rule="a path the working names",
            )
        figure = figure.inputs[int(step)]
        trail.append(figure.label)
    return s.WorkingOut(
        figure=figure_out(figure, key),
        path=path,
        trail=trail,
        formula=figure.formula,
        inputs=[
            s.InputOut(
                **asdict(figure_out(i, key)),
                path=f"{path}.{n}" if path else str(n),
                opens=bool(i.inputs or i.source or i.sample or i.formula or i.notes or i.fact),
            )
            for n, i in enumerate(figure.inputs)
        ],
        source=sources.get(figure.source) if figure.source is not None else None,
        sample=_sample_out(figure, sources),
        fact=_fact_out(figure, standing),
    )


def _fact_out(figure: Figure, standing: Sequence[Adjustment]) -> s.FactOut | None:
    """standing: the payer's adjustments that count."""
    fact = figure.fact
    if fact is None:
        return None
    key = fact.row_key()
    mine = [
        a.id
        for a in standing
        if (a.table_name, a.row_key, a.field) == (fact.table, key, fact.field)
    ]
    return s.FactOut(
        table=fact.table,
        key=key,
        field=fact.field,
        raw=fact.raw,
        adjustment=mine[-1] if mine else None,
    )


def _sample_out(figure: Figure, sources: Mapping[int, s.SourceOut]) -> s.SampleOut | None:
    if figure.sample is None:
        return None
    rows = list(figure.sample.rows())
    named = sorted({r.source for r in rows if r.source is not None})
    return s.SampleOut(
        columns=[name for name, _ in figure.sample.columns],
        units=[Unit(u).value for _, u in figure.sample.columns],
        rows=[
            s.SampleRowOut(day=r.day, values=list(r.values), since=r.since) for r in reversed(rows)
        ],
        sources=[sources[i] for i in named if i in sources],
    )
