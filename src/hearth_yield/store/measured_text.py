"""How kept measures are written: by id, so that none is ever read for another."""

from __future__ import annotations

import json
import math
from array import array
from collections.abc import Iterable, Mapping
from dataclasses import asdict, replace
from functools import lru_cache
from sys import intern

from hearth_yield.core.figures.figure import Touch
from hearth_yield.core.finding.measured import Cell, Cells, FirstToGive, Measured


def to_text(measured: Measured) -> str:
    """`from_text` reads it back."""
    cells = measured.cells
    return json.dumps(
        {
            "values": {id: c.value for id, c in cells.items()},
            "why": {
                id: [c.reason, c.breach, c.spared] for id, c in cells.items() if c.value is None
            },
            "touched": {id: c.touch for id, c in cells.items() if c.touch},
            "cautions": {id: c.cautions for id, c in cells.items() if c.cautions},
            "words": measured.words,
            "touched_words": measured.word_touches,
            "first": asdict(measured.first) if measured.first else None,
            "dividends": measured.dividends,
            "last_year": measured.last_year,
        },
        separators=(",", ":"),
        ensure_ascii=False,
        allow_nan=False,
    )


def from_text(text: str) -> Measured:
    """Texts repeat from payer to payer and are shared, as thousands are held at once."""
    held = json.loads(text)
    values = held["values"]
    return Measured(
        cells=Cells(
            _places(tuple(values)),
            array("d", (math.nan if v is None else v for v in values.values())),
            {
                intern(i): (_shared(reason), _shared(breach), _shared(spared))
                for i, (reason, breach, spared) in held["why"].items()
            },
            {intern(i): Touch(touch) for i, touch in held["touched"].items()},
            {intern(i): _texts(said) for i, said in held["cautions"].items()},
        ),
        words={intern(c): _shared(w) for c, w in held["words"].items()},
        word_touches={intern(c): Touch(x) for c, x in held["touched_words"].items()},
        first=_first(held["first"]) if held["first"] else None,
        dividends=tuple(held["dividends"]),
        last_year=held["last_year"],
    )


@lru_cache(maxsize=8)
def _places(ids: tuple[str, ...]) -> Mapping[str, int]:
    """One mapping for all payers whose measures were kept in the same order."""
    return {intern(id): place for place, id in enumerate(ids)}


def _first(held: Mapping[str, object]) -> FirstToGive:
    cushion = Cell(**held["cushion"])  # type: ignore[arg-type]
    touch = Touch(cushion.touch) if cushion.touch else None
    cushion = replace(cushion, touch=touch, cautions=tuple(cushion.cautions))
    return FirstToGive(**{**held, "cushion": cushion})  # type: ignore[arg-type]


def _texts(said: Iterable[str]) -> tuple[str, ...]:
    return tuple(map(intern, said))


def _shared(text: str | None) -> str | None:
    return intern(text) if text else None
