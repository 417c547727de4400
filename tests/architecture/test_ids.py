"""The page knows kinds of things (a measure, a model, an input), never which there are."""

from __future__ import annotations

import re
from collections import defaultdict
from pathlib import Path

from hearth_yield.core.range.multiples import QUANTITIES
from hearth_yield.core.signals.make import KINDS
from hearth_yield.core.stages import MEASURES
from hearth_yield.core.strain.inputs import INPUTS as STRAINED
from hearth_yield.core.worth.inputs import INPUTS
from hearth_yield.core.worth.models import MODELS

PAGE = Path(__file__).parent.parent.parent / "web" / "src"
IDS = {*MEASURES, *MODELS, *INPUTS, *STRAINED, *QUANTITIES, *KINDS}
LITERAL = re.compile(r'"(\w+)"|\.figures\??\.(\w+)')

UNIT = "a unit"
WAY = "a way in which something is expected, as the API has it"
VIEW = "a view of a stage, or a course of its chart"
ALLOWED = {
    "api/price.ts": {"price": "an answer that is kept"},
    "charts/DividendYears.tsx": dict.fromkeys(("cut", "resumed"), "what became of a dividend"),
    "format/format.ts": {"yield": UNIT, "weeks": UNIT},
    "places/holdings/EntryForm.tsx": {"price": "a field of an entry"},
    "places/holdings/Positions.tsx": {"yield": UNIT},
    "places/journal/JournalPage.tsx": {"price": VIEW},
    "places/payers/Conditions.tsx": {"weeks": UNIT},
    "places/payers/cells.tsx": {"deviation": "a way to draw a cell, as the measure declares it"},
    "places/payers/columns.ts": {"weeks": UNIT},
    "places/holdings/Income.tsx": dict.fromkeys(("cut", "raised", "raises"), "why income changed"),
    "places/hearth/ThisWeek.tsx": {"declared": "how sure a payment is"},
    "places/holdings/Payments.tsx": {"declared": "how sure a payment is"},
    "places/review/Rail.tsx": {"buy_below": "the price that a decision is about"},
    "places/sources/QuickEntry.tsx": {"price": "a fact that is typed"},
    "stages/DecisionStage.tsx": {
        "buy_below": "the price that a decision is about",
        "trim_above": "the price that a decision is about",
    },
    "stages/RangeStage.tsx": {"price": VIEW},
    "stages/cover/UsesOfCash.tsx": {"operating_cash_flow": "a use of cash"},
    "stages/decision/Expectations.tsx": {"growth": WAY},
    "stages/decision/Outlay.tsx": {"price": "a line of what a sum buys"},
    "stages/footing/LinesView.tsx": {
        f"growth_{n}": "a column of the lines of a statement" for n in (3, 5, 10)
    },
    "stages/range/PriceTold.tsx": {"price": VIEW},
    "stages/range/PriceView.tsx": {"price": VIEW},
    "stages/worth/TrialsView.tsx": {"combined": "a part of what moves it"},
    "ui/CushionList.tsx": {"cushion": "a word of the glossary"},
    "ui/JudgedList.tsx": {"growth": WAY},
}
"""Words that are ids too and mean something else there; two say what the page is about."""


def named() -> dict[str, set[str]]:
    """The ids that each file of the page names."""
    found = defaultdict(set)
    for path in PAGE.rglob("*.ts*"):
        if ".test." in path.name or ".d.ts" in path.name or "testing" in path.parts:
            continue
        words = {a or b for a, b in LITERAL.findall(path.read_text())}
        if words & IDS:
            found[path.relative_to(PAGE).as_posix()] = words & IDS
    return found


def test_the_page_names_no_measure_model_input_or_signal() -> None:
    assert named() == {file: set(words) for file, words in ALLOWED.items()}
