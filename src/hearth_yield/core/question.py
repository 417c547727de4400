"""Everything that is asked of a review, each part declared once.

The address, the API, a decision and a comparison all write a question the same way: names and
texts. What they know of it comes from here: the names, what they mean, and what each changes.
"""

from __future__ import annotations

from collections.abc import Hashable, Mapping
from dataclasses import dataclass, fields
from datetime import date
from typing import Any

from .errors import InvalidInput
from .question_parts import (
    Of,
    Part,
    asked,
    asked_in_parts,
    days,
    number,
    one_of,
    reach,
    reasons,
    strain_of,
    switches,
    values,
    window_of,
    write_days,
    write_reach,
    write_reasons,
    write_strain,
    write_switches,
    write_values,
    write_years,
    years,
)
from .range.multiples import QUANTITIES
from .range.ruler import TYPICAL, WINDOWS
from .range.stage import WORTH_WINDOW
from .strain.inputs import Strain
from .watching.reach import Aim
from .worth.declare import Choices
from .worth.path.measures import PATH_BY, PATH_QUANTITIES

BASES = 2
FIRST_QUANTITY = next(iter(QUANTITIES))


@dataclass(frozen=True, slots=True, kw_only=True)
class Question:
    """What is asked of a review. What is as by default is not written."""

    window: str = asked(
        WORTH_WINDOW,
        window_of(WINDOWS),
        str,
        of=Of.REVIEW,
        window="of the ruler: years, all, or two days such as 2019-02-04..2020-03-31",
    )
    base_years: tuple[int, ...] = asked(
        (),
        years(BASES),
        write_years,
        of=Of.REVIEW,
        base_years="years to keep pace since, at most two: 1997,2016",
    )
    quantity: str = asked(
        FIRST_QUANTITY, one_of(QUANTITIES), str, of=Of.RULER, quantity="what the ruler shows"
    )
    typical: str = asked(
        "",
        one_of(TYPICAL),
        str,
        of=Of.RULER,
        typical="what stands for the usual value, mean or median; else the quantity's own",
    )
    inputs: Mapping[str, float] = asked(
        {},
        values,
        write_values,
        of=Of.WORTH,
        inputs="of Worth by id, in place of the defaults: growth:0.05,required_return:0.09",
    )
    switched: Mapping[str, bool] = asked_in_parts(
        {},
        switches,
        write_switches,
        of=Of.WORTH,
        on="ids of models switched on, comma-separated",
        off="ids of models switched off",
    )
    weights: Mapping[str, float] = asked(
        {}, values, write_values, of=Of.WORTH, weights="of models: two_stage:2,fading:1"
    )
    reasons: Mapping[str, str] = asked(
        {},
        reasons,
        write_reasons,
        of=Of.WORTH,
        reasons="why models were set aside, a JSON object by id",
    )
    path_measure: str = asked(
        "",
        one_of(PATH_QUANTITIES),
        str,
        of=Of.WORTH,
        path_measure="measure of the return path, such as earnings",
    )
    path_by: str = asked(
        "", one_of(PATH_BY), str, of=Of.WORTH, path_by=f"what makes it grow: {', '.join(PATH_BY)}"
    )
    strain: Strain | None = asked_in_parts(  # noqa: RUF009  # it is a dataclass's field()
        None,
        strain_of,
        write_strain,
        of=Of.STRAIN,
        strain="a worse year to make the tests again under: fall:0.2,months:6",
        strain_part="the part of revenue that falls: all, or basis/name such as tenant/Name",
    )
    span: tuple[date, date] | None = asked(
        None,
        days,
        write_days,
        of=Of.SPAN,
        span="two days to tell from one to the other what the price did: 2019-02-04..2020-03-31",
    )
    aim: float | None = asked(
        None, number, repr, of=Of.AIM, aim="the value of the quantity aimed at"
    )
    aim_price: float | None = asked(
        None, number, repr, of=Of.AIM, aim_price="the price aimed at, in its place"
    )
    outlay: float | None = asked(
        None, number, repr, of=Of.OUTLAY, outlay="a sum to put in, in the payer's currency"
    )
    outlay_at: float | None = asked(
        None,
        number,
        repr,
        of=Of.OUTLAY,
        outlay_at="the price below which one would; else the house's",
    )
    reach: tuple[Aim, float] | None = asked(
        None,
        reach,
        write_reach,
        of=Of.REACH,
        reach="a price waited for: buy_below:30, step:30, trim_above:90",
    )

    @property
    def place(self) -> tuple[Hashable, ...]:
        """What the stages before Worth depend on."""
        return tuple(self._values(Of.REVIEW, Of.RULER).values())

    @property
    def plain(self) -> Question:
        """The question whose answer this one's reworks."""
        return self.only(Of.REVIEW, Of.RULER)

    @property
    def choices(self) -> Choices:
        """What Worth depends on besides."""
        return Choices(**self._values(Of.WORTH))

    def only(self, *of: Of) -> Question:
        """The parts that change these; the others as by default."""
        return Question(**self._values(*of))

    def _values(self, *of: Of) -> dict[str, Any]:
        return {name: getattr(self, name) for name, part in PARTS.items() if part.of in of}


PARTS: Mapping[str, Part] = {f.name: f.metadata["part"] for f in fields(Question)}
"""The parts of a question by its field."""
NAMES: Mapping[str, tuple[Of, str]] = {
    name: (part.of, means) for part in PARTS.values() for name, means in part.names.items()
}
"""What each name in an address changes, and what it means."""


def read_question(texts: Mapping[str, str]) -> Question:
    """A question from its names and texts; those that are missing or empty leave the default.

    Raises: InvalidInput naming the field, the value and the rule.
    """
    held = {name: text for name, text in texts.items() if text}
    for name in held.keys() - NAMES.keys():
        raise InvalidInput(
            "no such part of a question",
            field=name,
            value=held[name],
            rule=f"one of {', '.join(sorted(NAMES))}",
        )
    found = {}
    for name, part in PARTS.items():
        given = {n: held[n] for n in part.names if n in held}
        if given:
            found[name] = part.read(given)
    return Question(**found)


def write_question(question: Question) -> dict[str, str]:
    """The names and texts that `read_question` reads back; what is as by default is left out."""
    plain, texts = Question(), dict[str, str]()
    for name, part in PARTS.items():
        value = getattr(question, name)
        if value != getattr(plain, name):
            texts |= part.texts(value)
    return texts
