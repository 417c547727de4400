"""Everything that is asked of a review, and the one reader of it.

The URL, the API, a decision and a comparison all write a question the same way: names and texts.
"""

from __future__ import annotations

import json
import math
from collections.abc import Collection, Mapping
from dataclasses import dataclass, field
from datetime import date

from .errors import InvalidInput
from .range.multiples import QUANTITIES
from .range.ruler import TYPICAL, WINDOWS
from .range.stage import WORTH_WINDOW
from .strain.inputs import ALL, Strain
from .watching.reach import Aim, check_reach
from .worth.declare import Choices
from .worth.path.measures import PATH_BY, PATH_QUANTITIES

BASES = 2
LONGEST_REASON = 200
FIRST_QUANTITY = next(iter(QUANTITIES))


@dataclass(frozen=True, slots=True, kw_only=True)
class Question:
    """quantity, window: of the ruler; typical: "mean" or "median", what stands for the usual value,
    the quantity's own where it is empty; base_years: to keep pace since, at most two; aim,
    aim_price: the value of the quantity, or the price, aimed at; inputs: of Worth by id, in the
    place of the defaults; switched: models turned on or off; weights: of models in the combined
    value; reasons: why a model was set aside; path_measure, path_by: the measure of the return
    path and what makes it grow; strain: a worse year to make the tests again under; span: two days
    to tell from one to the other what the price did; outlay: a sum to put in, outlay_at: the price
    below which one would, where it is not the house's; reach: a price waited for, and what for."""

    quantity: str = FIRST_QUANTITY
    window: str = WORTH_WINDOW
    typical: str = ""
    base_years: tuple[int, ...] = ()
    aim: float | None = None
    aim_price: float | None = None
    inputs: Mapping[str, float] = field(default_factory=dict)
    switched: Mapping[str, bool] = field(default_factory=dict)
    weights: Mapping[str, float] = field(default_factory=dict)
    reasons: Mapping[str, str] = field(default_factory=dict)
    path_measure: str = ""
    path_by: str = ""
    strain: Strain | None = None
    span: tuple[date, date] | None = None
    outlay: float | None = None
    outlay_at: float | None = None
    reach: tuple[Aim, float] | None = None

    @property
    def place(self) -> tuple[str, str, str, tuple[int, ...]]:
        """What the stages before Worth depend on."""
        return (self.quantity, self.window, self.typical, self.base_years)

    @property
    def plain(self) -> Question:
        """The question whose answer this one's reworks."""
        return Question(
            quantity=self.quantity,
            window=self.window,
            typical=self.typical,
            base_years=self.base_years,
        )

    @property
    def choices(self) -> Choices:
        """What Worth depends on besides."""
        return Choices(
            inputs=self.inputs,
            switched=self.switched,
            weights=self.weights,
            reasons=self.reasons,
            path_measure=self.path_measure,
            path_by=self.path_by,
        )


def read_question(asked: Mapping[str, str]) -> Question:
    """A question from its names and texts; those that are missing or empty leave the default.

    inputs: "growth:0.05,required_return:0.09"; on, off: "two_stage,fading".
    Raises: InvalidInput naming the field, the value and the rule.
    """
    held = {name: text for name, text in asked.items() if text}
    known = {"quantity", "window", "base_years", "aim", "aim_price", "inputs", "on", "off"}
    known |= {"typical", "strain", "strain_part", "span", "weights", "reasons"}
    known |= {"path_measure", "path_by", "outlay", "outlay_at", "reach"}
    for name in held:
        if name not in known:
            raise InvalidInput(
                "no such part of a question",
                field=name,
                value=held[name],
                rule=f"one of {', '.join(sorted(known))}",
            )
    return Question(
        quantity=_one_of("quantity", held.get("quantity", FIRST_QUANTITY), QUANTITIES),
        window=_window(held.get("window", WORTH_WINDOW)),
        typical=_one_of("typical", held["typical"], TYPICAL) if "typical" in held else "",
        base_years=_years(held.get("base_years", "")),
        aim=_number("aim", held.get("aim")),
        aim_price=_number("aim_price", held.get("aim_price")),
        inputs=_inputs(held.get("inputs", "")),
        switched=dict.fromkeys(_ids(held.get("on", "")), True)
        | dict.fromkeys(_ids(held.get("off", "")), False),
        weights=_inputs(held.get("weights", "")),
        reasons=_reasons(held.get("reasons", "")),
        path_measure=_one_of("path_measure", held["path_measure"], PATH_QUANTITIES)
        if "path_measure" in held
        else "",
        path_by=_one_of("path_by", held["path_by"], PATH_BY) if "path_by" in held else "",
        strain=_strain(held),
        span=_span(held.get("span", "")),
        outlay=_number("outlay", held.get("outlay")),
        outlay_at=_number("outlay_at", held.get("outlay_at")),
        reach=_reach(held.get("reach", "")),
    )


def write_question(question: Question) -> dict[str, str]:
    """The names and texts that `read_question` reads back; what is as by default is left out."""
    switched = question.switched
    texts = {
        "quantity": "" if question.quantity == FIRST_QUANTITY else question.quantity,
        "typical": question.typical,
        "window": "" if question.window == WORTH_WINDOW else question.window,
        "base_years": ",".join(map(str, question.base_years)),
        "aim": _text(question.aim),
        "aim_price": _text(question.aim_price),
        "inputs": ",".join(f"{id}:{value!r}" for id, value in sorted(question.inputs.items())),
        "on": ",".join(sorted(id for id, on in switched.items() if on)),
        "off": ",".join(sorted(id for id, on in switched.items() if not on)),
        "weights": ",".join(f"{id}:{value!r}" for id, value in sorted(question.weights.items())),
        "reasons": json.dumps(dict(sorted(question.reasons.items())), ensure_ascii=False)
        if question.reasons
        else "",
        "path_measure": question.path_measure,
        "path_by": question.path_by,
        **write_strain(question.strain),
        "span": "..".join(d.isoformat() for d in question.span or ()),
        "outlay": _text(question.outlay),
        "outlay_at": _text(question.outlay_at),
        "reach": write_reach(*question.reach) if question.reach else "",
    }
    return {name: text for name, text in texts.items() if text}


def write_strain(strain: Strain | None) -> dict[str, str]:
    """A strain as the question has it; one that is all defaults says that it is one of all
    revenue."""
    if strain is None:
        return {}
    inputs = ",".join(f"{id}:{value!r}" for id, value in sorted(strain.inputs.items()))
    return {"strain": inputs, "strain_part": strain.part or ALL}


def _strain(held: Mapping[str, str]) -> Strain | None:
    if "strain" not in held and "strain_part" not in held:
        return None
    part = held.get("strain_part", ALL)
    return Strain(part=None if part == ALL else part, inputs=_inputs(held.get("strain", "")))


def _reasons(text: str) -> dict[str, str]:
    """Of models by id, as a JSON object of texts."""
    if not text:
        return {}
    try:
        held = json.loads(text)
    except (ValueError, RecursionError):
        held = None
    if not isinstance(held, dict) or not all(
        isinstance(x, str) and len(x) <= LONGEST_REASON for x in held.values()
    ):
        raise InvalidInput(
            "reasons must be texts by model",
            field="reasons",
            value=text[:200],
            rule=f'such as {{"two_stage":"too hopeful"}}, each up to {LONGEST_REASON} characters',
        )
    return {id: x.strip() for id, x in held.items() if x.strip()}


def write_reach(aim: Aim, target: float) -> str:
    """A price waited for, as the question has it: "buy_below:30.0"."""
    return f"{aim.value}:{target!r}"


def _reach(text: str) -> tuple[Aim, float] | None:
    if not text:
        return None
    aim, _, price = text.partition(":")
    target = _number("reach", price) or 0.0
    check_reach(target)
    return Aim(_one_of("reach", aim, [a.value for a in Aim])), target


def _window(text: str) -> str:
    """So many years, or two days."""
    if ".." not in text:
        return _one_of("window", text, WINDOWS)
    first, last = _days("window", text)
    return f"{first.isoformat()}..{last.isoformat()}"


def _span(text: str) -> tuple[date, date] | None:
    return _days("span", text) if text else None


def _days(field: str, text: str) -> tuple[date, date]:
    try:
        first, last = (date.fromisoformat(part) for part in text.split(".."))
    except ValueError:
        first = last = date.max
    if first >= last:
        raise InvalidInput(
            f"a {field} must be two days, the earlier first",
            field=field,
            value=text,
            rule="such as 2019-02-04..2020-03-31",
        )
    return first, last


def _text(value: float | None) -> str:
    return "" if value is None else repr(value)


def _ids(text: str) -> list[str]:
    return [id for id in text.split(",") if id]


def _one_of(name: str, value: str, known: Collection[str]) -> str:
    if value not in known:
        raise InvalidInput(
            f"no such {name}", field=name, value=value, rule=f"one of {', '.join(known)}"
        )
    return value


def _number(name: str, text: str | None, field: str = "") -> float | None:
    if text is None:
        return None
    try:
        value = float(text)
    except ValueError:
        value = math.nan
    if not math.isfinite(value):
        called = name.replace("_", " ")
        raise InvalidInput(
            f"{called} must be a number",
            field=field or name,
            value=text,
            rule="a number such as 0.05",
        )
    return value


def _years(text: str) -> tuple[int, ...]:
    parts = _ids(text)
    if len(parts) > BASES or not all(p.isascii() and p.isdigit() and len(p) <= 4 for p in parts):
        raise InvalidInput(
            "base years must be years",
            field="base_years",
            value=text,
            rule=f"at most {BASES} years, such as 1997,2016",
        )
    return tuple(int(p) for p in parts)


def _inputs(text: str) -> dict[str, float]:
    found: dict[str, float] = {}
    for pair in _ids(text):
        id, separator, value = pair.partition(":")
        number = _number(id, value if separator else "", field=id or "inputs")
        found[id] = number or 0.0
    return found
