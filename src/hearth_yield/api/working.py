"""How a figure came about: its formula, its inputs, and facts with their day and source."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass
from datetime import date

from hearth_yield.actions.edit_facts import Edit
from hearth_yield.core.errors import NotFound
from hearth_yield.core.figures.figure import Figure, Unit

from .answer import wire
from .edits import scale_of
from .figures import FigureOut, figure_out
from .schemas import SourceOut, UnitName


@wire
class SampleRowOut:
    """since: the day from which what the day's own fact was held against was known."""

    day: date
    values: list[float]
    since: date | None


@wire
class SampleOut:
    columns: list[str]
    units: list[UnitName]
    rows: list[SampleRowOut]
    sources: list[SourceOut]


@dataclass(slots=True, kw_only=True)
class InputOut(FigureOut):
    """path: where to ask for this input's own working; opens: whether there is more below."""

    path: str
    opens: bool


@wire
class FactOut:
    """Where a figure is held, so that it can be edited. raw: as held, in single units and the
    shares of its own day, which is how an edit is given too. scale: what it is shown and typed
    in."""

    table: str
    key: dict[str, str]
    field: str
    raw: float | None
    scale: float
    edit: int | None


@wire
class WorkingOut:
    """How a figure came about: the formula in words and what went in."""

    figure: FigureOut
    path: str
    trail: list[str]
    formula: str | None
    inputs: list[InputOut]
    source: SourceOut | None
    sample: SampleOut | None
    fact: FactOut | None


def working_out(
    figure: Figure | None,
    key: str,
    path: str,
    sources: Mapping[int, SourceOut],
    standing: Sequence[Edit],
) -> WorkingOut:
    """The working of a figure, or of an input of it: path "0.2" is the third input of its first.
    standing: the payer's edits that count. Raises NotFound without a figure, or for a path it does
    not have."""
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
    return WorkingOut(
        figure=figure_out(figure, key),
        path=path,
        trail=trail,
        formula=figure.formula,
        inputs=[
            InputOut(
                **asdict(figure_out(i, key)),
                path=f"{path}.{n}" if path else str(n),
                opens=bool(i.inputs or i.source or i.sample or i.formula or i.notes or i.fact),
            )
            for n, i in enumerate(figure.inputs)
        ],
        source=sources.get(figure.source) if figure.source is not None else None,
        sample=_sample(figure, sources),
        fact=_fact(figure, standing),
    )


def _fact(figure: Figure, standing: Sequence[Edit]) -> FactOut | None:
    fact = figure.fact
    if fact is None:
        return None
    key = fact.row_key()
    mine = [
        a.id
        for a in standing
        if (a.table_name, a.row_key, a.field) == (fact.table, key, fact.field)
    ]
    return FactOut(
        table=fact.table,
        key=key,
        field=fact.field,
        raw=fact.raw,
        scale=scale_of(fact.table, fact.field),
        edit=mine[-1] if mine else None,
    )


def _sample(figure: Figure, sources: Mapping[int, SourceOut]) -> SampleOut | None:
    if figure.sample is None:
        return None
    rows = list(figure.sample.rows())
    named = sorted({r.source for r in rows if r.source is not None})
    return SampleOut(
        columns=[name for name, _ in figure.sample.columns],
        units=[Unit(u).value for _, u in figure.sample.columns],
        rows=[
            SampleRowOut(day=r.day, values=list(r.values), since=r.since) for r in reversed(rows)
        ],
        sources=[sources[i] for i in named if i in sources],
    )
