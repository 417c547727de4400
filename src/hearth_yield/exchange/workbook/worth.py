"""Worth as a workbook: inputs and their cases, the models that are on, and what they come to.

The first sheet holds what may be changed and what follows from it; each model has a sheet of its
own. Every model's formulas come from the function that values it in the product.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from hearth_yield.core.figures.figure import Figure, Unit
from hearth_yield.core.figures.inputs import YOURS, Along, Input, InputSpec
from hearth_yield.core.review import Review
from hearth_yield.core.worth.combined import Answer
from hearth_yield.core.worth.declare import Ground, ModelSpec
from hearth_yield.core.worth.growth import ROOM
from hearth_yield.core.worth.inputs import CHANCES, INPUTS, OWN
from hearth_yield.core.worth.models import CASES, MODELS, Model, cases_of
from hearth_yield.core.worth.trace import COLUMNS, Trace, Value

from .cells import Cell, cell
from .paper import Book, Paper

LABEL, FIRST = 0, 1
"""Columns of the first sheet: what it is, then low, middle, high."""
AFTER = FIRST + len(CASES)
PARTS = 6
"""Rows kept for the parts of a value."""
BLOCK = 6
"""Columns of one case's years."""
ALWAYS = ("margin_of_safety", *OWN, *CHANCES)

Cells = Mapping[str, Cell]
"""Of one line, by case."""


def worth_workbook(review: Review) -> bytes:
    """Of one payer as it was asked for; recalculated it gives the product's figures."""
    return _Writer(review).write()


@dataclass(frozen=True, slots=True)
class _Line:
    """A model, or the answer of a question: its cases and its weight."""

    question: str
    lines: Cells
    weight: Cell


def _mean(held: Sequence[_Line], case: str, told: Figure) -> Cell | None:
    """Σ weight × value ÷ Σ weights of one case, over those that have a middle value and a weight;
    None where the product has none."""
    if told.value is None or any(case not in x.lines for x in held):
        return None
    stands = [f"ISNUMBER({x.lines['middle'].text})" for x in held]
    above, under = (
        "+".join(
            f"IF({there},IF({x.weight.text}>0,{text(x)},0),0)"
            for x, there in zip(held, stands, strict=True)
        )
        for text in (lambda x: f"{x.lines[case].text}*{x.weight.text}", lambda x: x.weight.text)
    )
    return Cell(f"({above})/({under})", told.value, 2)


@dataclass(slots=True)
class _Writer:
    review: Review
    book: Book = field(default_factory=Book)
    first: Paper = field(init=False)
    row: int = 0
    held: dict[str, Cells] = field(default_factory=dict)
    facts: dict[tuple[str, float], Cell] = field(default_factory=dict)

    def __post_init__(self) -> None:
        self.first = self.book.sheet("Worth")

    @property
    def ground(self) -> Ground:
        return self.review.worth.trials.ground

    @property
    def models(self) -> list[Model]:
        return self.review.worth.on

    def write(self) -> bytes:
        self._head()
        self._inputs()
        self._facts()
        self._together(self._questions(self._models()))
        self.first.sheet.set_column(LABEL, LABEL, 42)
        self.first.sheet.set_column(FIRST, AFTER + 1, 14)
        self.first.sheet.set_column(AFTER + 2, AFTER + 2, 60)
        self.first.sheet.freeze_panes(3, 1)
        return self.book.done()

    def _head(self) -> None:
        payer = self.review.payer
        self.first.text(0, 0, f"Worth of {payer.name} ({payer.exchange}/{payer.symbol})", "title")
        self.first.text(
            1,
            0,
            f"As of {self.review.as_of.isoformat()}, in {payer.currency} a share. Marked cells are "
            "yours to change; all else follows from them.",
            "muted",
        )
        self.row = 3

    def _titles(self, name: str, *columns: str) -> None:
        self.first.text(self.row, LABEL, name, "bold")
        for i, column in enumerate(columns):
            self.first.text(self.row, FIRST + i, column, "bold", "right")
        self.row += 1

    def _inputs(self) -> None:
        """Those that the models which are on take; a case that follows from the middle does so
        here too."""
        self._titles("Inputs", *CASES)
        case = cases_of(self.review.worth.inputs)["middle"]
        read = {id(x) for m in self.models for x in MODELS[m.id].reads(self.ground, case)}
        inputs = self.review.worth.inputs
        wanted = {n for n, held in inputs.items() if n in ALWAYS or id(held.figure) in read}
        wanted |= {along.of for n in wanted if (along := INPUTS[n].along)}
        wanted |= {n for x in wanted for n in self._rests_on(x)}
        for name, held in inputs.items():
            if name in wanted and held.figure.value is not None:
                self.held[name] = self._input(name, held)
                self.row += 1
        self.row += 1

    def _input(self, id: str, held: Input) -> Cells:
        spec, row = INPUTS[id], self.row
        self.first.text(row, LABEL, spec.label)
        self.first.text(row, AFTER + 2, held.origin, "muted")
        if spec.along and (held.origin != YOURS or spec.bounds is None):
            return self._followed(spec, spec.along, held)
        worked = self._worked(spec, held)
        if worked is not None:
            middle = self.first.formula(row, FIRST + 1, worked, spec.unit, "yours")
        elif spec.rest_of and held.origin != YOURS:
            left = cell(1 - sum(self.held[id]["middle"] for id in spec.rest_of))
            rest = Cell(f"MAX(0,{left.text})", max(0.0, left.value))
            middle = self.first.formula(row, FIRST + 1, rest, spec.unit, "yours")
        else:
            middle = self.first.number(row, FIRST + 1, held.figure.value or 0.0, spec.unit, "yours")
        if id in ALWAYS:
            return dict.fromkeys(CASES, middle)
        ends = {}
        for case, col, shift in (("low", FIRST, spec.low), ("high", FIRST + 2, spec.high)):
            end: Figure = getattr(held, case)
            follows = bool(end.inputs) and shift is not None
            if follows and shift is not None:
                ends[case] = self.first.formula(row, col, cell(shift[0](middle)), spec.unit)  # type: ignore[arg-type]
            elif end is held.figure:
                ends[case] = self.first.formula(row, col, middle, spec.unit)
            else:
                value = end.value if end.value is not None else middle.value
                ends[case] = self.first.number(row, col, value, spec.unit, "yours")
        return {"low": ends["low"], "middle": middle, "high": ends["high"]}

    def _rests_on(self, name: str) -> list[str]:
        """The inputs that the default of another is worked from."""
        inputs, held = self.review.worth.inputs, self.review.worth.inputs[name]
        if INPUTS[name].worked is None or held.typed:
            return []
        read = {id(x) for x in held.figure.inputs}
        return [n for n, other in inputs.items() if id(other.figure) in read]

    def _worked(self, spec: InputSpec, held: Input) -> Cell | None:
        """A default that rests on other inputs, as a formula on their cells; a number typed over it
        counts as typed."""
        if spec.worked is None or held.typed:
            return None
        inputs = self.review.worth.inputs
        own = {id(inputs[n].figure): cells["middle"] for n, cells in self.held.items()}
        parts = [own.get(id(x)) or cell(x.value or 0.0) for x in held.figure.inputs]
        return cell(spec.worked(*parts))

    def _followed(self, spec: InputSpec, along: Along, own: Input) -> Cells:
        """An input that goes along with another. A number typed over it counts as typed, and so
        does one typed over the other where what is typed stands for both."""
        other, typed = self.held[along.of], self.review.worth.inputs[along.of]
        most = along.most(self.ground)

        def followed(held: Cell, case: str) -> Cell:
            if not along.as_typed:
                return held
            if typed.typed:
                return other[case]
            at, start = other["middle"].text, cell(typed.figure.value or 0.0).text
            return Cell(f"IF({at}={start},{held.text},{other[case].text})", held.value)

        told = followed(other["middle"].lower_of(most), "middle")
        middle = self.first.formula(self.row, FIRST + 1, told, spec.unit, "yours")

        def side(case: str, plain: Cell, *least: Cell) -> Cell:
            end: Figure = getattr(own, case)
            if YOURS in end.notes and end.value is not None:
                col = FIRST + CASES.index(case)
                return self.first.number(self.row, col, end.value, spec.unit, "yours")
            held = other[case]
            for one in least:
                held = held.lower_of(one)
            held = followed(held, case)
            formula = f"IF(_xlfn.ISFORMULA({middle.text}),{held.text},{plain.text})"
            col = FIRST + CASES.index(case)
            return self.first.formula(self.row, col, Cell(formula, held.value), spec.unit)

        less, more = middle - along.apart, middle + along.apart
        return {
            "low": side("low", less, less),
            "middle": middle,
            "high": side("high", more, more, cell(most)),
        }

    def _facts(self) -> None:
        """What the models read besides: once each, with its date."""
        self._titles("What is known", "", "value")
        self._fact(self.review.price)
        case = cases_of(self.review.worth.inputs)["middle"]
        chosen = {id(x) for x in case.values()}
        for model in self.models:
            for figure in MODELS[model.id].reads(self.ground, case):
                if id(figure) not in chosen:
                    self._fact(figure)
        for answer in self.review.worth.answers:
            if answer.id == "dividends" and not answer.typed:
                for figure in answer.weight.inputs:
                    self._fact(figure)
        self.row += 1

    def _fact(self, figure: Figure) -> Cell | None:
        if figure.value is None:
            return None
        key = (figure.label, figure.value)
        if key not in self.facts:
            self.first.text(self.row, LABEL, figure.label)
            self.facts[key] = self.first.number(
                self.row, FIRST + 1, figure.value, figure.unit, "yours"
            )
            told = [figure.period or "", f"known {figure.known_on}" if figure.known_on else ""]
            self.first.text(
                self.row, AFTER + 2, "; ".join(filter(None, (*told, *figure.notes))), "muted"
            )
            self.row += 1
        return self.facts[key]

    def _models(self) -> list[_Line]:
        """A line a model: its cases, by their chances, and its weight within its question."""
        self._titles("Models that are on", *CASES, "by chances", "weight")
        found: list[_Line] = []
        for model in self.models:
            spec, row = MODELS[model.id], self.row
            values = _Sheet(self, spec, self.book.sheet(spec.name)).write()
            self.first.text(row, LABEL, spec.name)
            self.first.text(row, AFTER + 2, spec.question, "muted")
            lines = {
                case: self.first.formula(row, FIRST + i, values[case], Unit.PER_SHARE)
                for i, case in enumerate(CASES)
                if case in values
            }
            for i, case in enumerate(CASES):
                if case not in values:
                    figure: Figure = getattr(model, case)
                    self.first.text(row, FIRST + i, figure.reason or "", "muted")
            if len(lines) == len(CASES):
                chances = self._by_chances(lines)
                lines["weighted"] = self.first.formula(row, AFTER, chances, Unit.PER_SHARE)
            weight = self.first.number(row, AFTER + 1, model.weight, Unit.COUNT, "yours")
            found.append(_Line(model.answers, lines, weight))
            self.row += 1
        self.row += 1
        return found

    def _by_chances(self, lines: Cells) -> Cell:
        chances = [self.held[f"chance_{case}"]["middle"] for case in CASES]
        total = sum(lines[c] * p for c, p in zip(CASES, chances, strict=True))
        return cell(total / sum(chances))

    def _questions(self, held: Sequence[_Line]) -> list[_Line]:
        """The answer of each question, and its weight; a model that no longer stands is left out,
        and a question without one."""
        self._titles("Questions", *CASES, "by chances", "weight")
        found: list[_Line] = []
        rows: dict[str, int] = {a.id: self.row + i for i, a in enumerate(self.review.worth.answers)}
        for answer in self.review.worth.answers:
            row = self.row
            models = [x for x in held if x.question == answer.id]
            self.first.text(row, LABEL, answer.name)
            self.first.text(row, AFTER + 2, answer.why, "muted")
            lines = {
                case: self.first.formula(row, FIRST + i, told, Unit.PER_SHARE)
                for i, case in enumerate((*CASES, "weighted"))
                if (told := _mean(models, case, getattr(answer, case))) is not None
            }
            weight = self._weight(answer, rows)
            found.append(_Line(answer.id, lines, weight))
            self.row += 1
        self.row += 1
        return found

    def _weight(self, answer: Answer, rows: Mapping[str, int]) -> Cell:
        """Of a question: as the method has it, by payout and limit, or the person's own."""
        figure, row, col = answer.weight, self.row, AFTER + 1
        dividends = next((a for a in self.review.worth.answers if a.id == "dividends"), None)
        other = {"dividends": "cash", "cash": "dividends"}.get(answer.id, "")
        if answer.typed or other not in rows or dividends is None or dividends.typed:
            return self.first.number(row, col, figure.value or 0.0, Unit.FRACTION, "yours")
        base, by = cell(dividends.weight.value or 0.0), dividends.weight.inputs
        if by:
            payout, limit = (self._fact_of(x) or cell(x.value or 0.0) for x in by)
            third = limit / 3
            base = Cell(f"MIN(1,MAX(0,{((payout - third) / (third * 2)).text}))", base.value)
        own = base if answer.id == "dividends" else 1 - base
        stands = self.first.at(rows[other], FIRST + 1)
        formula = f"IF(ISNUMBER({stands}),{own.text},1)"
        return self.first.formula(row, col, Cell(formula, figure.value or 0.0), Unit.FRACTION)

    def _together(self, held: Sequence[_Line]) -> None:
        worth = self.review.worth
        self._titles("Together", *CASES)
        if worth.combined.value is None:
            self.first.text(self.row, LABEL, f"Combined value unknown: {worth.combined.reason}")
            return
        ends = {"low": worth.combined_low, "middle": worth.combined, "high": worth.combined_high}
        self.first.text(self.row, LABEL, "Combined value", "bold")
        cells = {
            case: self.first.formula(self.row, FIRST + i, told, Unit.PER_SHARE, "bold")
            for i, (case, figure) in enumerate(ends.items())
            if (told := _mean(held, case, figure)) is not None
        }
        combined = cells["middle"]
        self.row += 1
        if worth.spread.value is not None:
            most, least = (
                ",".join(
                    f"IF(ISNUMBER({m}),IF({x.weight.text}>0,{m},{none}),{none})"
                    for x in held
                    for m in (x.lines["middle"].text,)
                )
                for none in ("-1E+99", "1E+99")
            )
            spread = Cell(f"(MAX({most})-MIN({least}))/{combined.text}", worth.spread.value, 2)
            self._line("Spread of the answers", spread, Unit.FRACTION)
        price = self._fact_of(self.review.price)
        buy = combined * (1 - self.held["margin_of_safety"]["middle"])
        below = self._line("Buy-below price", buy, Unit.PER_SHARE, "bold")
        if "second_margin" in self.held:
            second = combined * (1 - self.held["second_margin"]["middle"])
            self._line("Second buy-below price", second, Unit.PER_SHARE)
        if "trim_premium" in self.held:
            above = combined * (1 + self.held["trim_premium"]["middle"])
            self._line("Trim-above price", above, Unit.PER_SHARE)
        if price:
            self._line("Price vs buy-below (− = under)", price / below - 1, Unit.FRACTION)

    def _fact_of(self, figure: Figure) -> Cell | None:
        return self.facts.get((figure.label, figure.value)) if figure.value is not None else None

    def _line(self, name: str, held: Cell, unit: Unit, *ways: str) -> Cell:
        self.first.text(self.row, LABEL, name, *ways)
        found = self.first.formula(self.row, FIRST + 1, held, unit, *ways)
        self.row += 1
        return found


@dataclass(slots=True)
class _Sheet:
    """One model: what it reads in each case, its value, and the years it comes from."""

    writer: _Writer
    spec: ModelSpec
    paper: Paper

    def write(self) -> Cells:
        """The value of each case that has one."""
        ground, inputs = self.writer.ground, self.writer.review.worth.inputs
        cases = cases_of(inputs)
        read = {case: self.spec.reads(ground, cases[case]) for case in CASES}
        self.paper.text(0, 0, self.spec.name, "title")
        self.paper.text(1, 0, self.spec.question, "muted")
        self.paper.text(2, 0, f"Value = {self.spec.formula}", "muted")
        for i, case in enumerate(CASES):
            self.paper.text(3, 1 + i, case, "bold", "right")
        count = len(read["middle"])
        value_row = 5 + count
        self.paper.text(value_row, 0, "Value per share", "bold", "top")
        found = {}
        for i, case in enumerate(CASES):
            linked = [
                self._link(4 + n, 1 + i, figure, case, cases[case])
                for n, figure in enumerate(read[case])
            ]
            values = [x.value for x in read[case]]
            if None in values or self.spec.refused(values, cases[case]) is not None:
                self.paper.text(value_row, 1 + i, "no value", "muted", "top", "right")
                continue
            trace = _SheetTrace(self.paper, value_row + 2, i * BLOCK, case, self.spec.amount)
            told = cell(self.spec.worth(trace, *linked))
            held = self._guarded(told, case)
            found[case] = self.paper.formula(value_row, 1 + i, held, Unit.PER_SHARE, "bold", "top")
        self.paper.sheet.set_column(0, 0, 34)
        self.paper.sheet.set_column(1, len(CASES) * BLOCK, 13)
        return found

    def _link(
        self, row: int, col: int, figure: Figure, case: str, held: Mapping[str, Figure]
    ) -> Cell | None:
        """A line of what is read, taken from the first sheet."""
        name = next((n for n, x in held.items() if x is figure), None)
        on_first = (
            self.writer.held[name][case]
            if name in self.writer.held
            else self.writer._fact_of(figure)
        )
        self.paper.text(row, 0, INPUTS[name].label if name else figure.label)
        if on_first is None:
            self.paper.text(row, col, figure.reason or "unknown", "muted")
            return None
        return self.paper.formula(row, col, on_first, figure.unit)

    def _guarded(self, told: Cell, case: str) -> Cell:
        """Growth for ever that is typed too near the return has no value."""
        if self.spec.lasting is None:
            return told
        growth, asked = (self.writer.held[id][case] for id in self.spec.lasting)
        near = f"{growth.text}>{asked.text}-{ROOM:g}+1E-12"
        typed = self._typed(self.spec.lasting[0], case)
        return Cell(f"IF(AND({typed},{near}),NA(),{told.text})", told.value)

    def _typed(self, id: str, case: str) -> str:
        """Whether a growth for ever was typed: its cell, or that of the growth it stands for."""
        along, held = INPUTS[id].along, self.writer.held
        if along is None or not along.as_typed:
            return f"NOT(_xlfn.ISFORMULA({held[id][case].text}))"
        other, cells = self.writer.review.worth.inputs[along.of], held[along.of]
        if case == "middle":
            start = cell(other.figure.value or 0.0).text
            return "TRUE" if other.typed else f"{cells[case].text}<>{start}"
        end: Figure = getattr(other, case)
        own = YOURS in end.notes
        return "TRUE" if own else f"NOT(_xlfn.ISFORMULA({cells[case].text}))"


class _SheetTrace(Trace):
    """Writes each step where it belongs, and hands back the cell it stands in."""

    def __init__(self, paper: Paper, row: int, col: int, case: str, amount: str) -> None:
        self.paper, self.row, self.col = paper, row, col
        self.parts, self.titled = 0, False
        self.case, self.amount = case, amount

    def hold(self, year: int, column: str, value: Value) -> Value:
        top = self.row + PARTS + 1
        if not self.titled:
            self.titled = True
            for i, name in enumerate(("Year", "Growth", self.amount, "Discount", "Worth today")):
                self.paper.text(top, self.col + i, name, "bold", *(["right"] if i else []))
        if column == COLUMNS[0]:
            self.paper.number(top + year, self.col, year, Unit.YEARS)
        unit = {"growth": Unit.FRACTION, "factor": Unit.INDEX}.get(column, Unit.PER_SHARE)
        col = self.col + 1 + COLUMNS.index(column)
        return self.paper.formula(top + year, col, cell(value), unit)

    def part(self, name: str, value: Value) -> Value:
        if self.parts == 0:
            self.paper.text(self.row, self.col, f"Where it comes from, {self.case}", "bold")
        self.parts += 1
        self.paper.text(self.row + self.parts, self.col, name)
        return self.paper.formula(self.row + self.parts, self.col + 1, cell(value), Unit.PER_SHARE)
