"""A throw-away measure and a throw-away model, declared in one place as any other would be."""

from __future__ import annotations

from collections.abc import Iterator

import pytest

from hearth_yield.core.figures.figure import Figure, Unit, given
from hearth_yield.core.figures.inputs import Default, InputSpec
from hearth_yield.core.figures.measure import (
    AmongPeers,
    Direction,
    Key,
    Stage,
    every_kind,
    measure,
    required,
)
from hearth_yield.core.figures.measure import TestSpec as Tested
from hearth_yield.core.signals import make as signals
from hearth_yield.core.signals.make import KINDS, MAKERS
from hearth_yield.core.signals.signal import Signal, SignalGround, SignalKind, SignalMaker, Whose
from hearth_yield.core.stages import MEASURES
from hearth_yield.core.worth.declare import EVERY_KIND, ModelSpec
from hearth_yield.core.worth.inputs import INPUTS
from hearth_yield.core.worth.models import MODELS


@pytest.fixture
def throw_away_measure(monkeypatch: pytest.MonkeyPatch) -> None:
    """Payments on record, of which no kind of payer should have fewer than 100."""
    declared = measure(
        Stage.RECORD,
        "payments_held",
        "Payments on record",
        Unit.COUNT,
        lambda stage: Figure(
            label="payments on record",
            unit=Unit.COUNT,
            value=float(sum(len(y.payments) for y in stage.record.years)),
            formula="payments, counted",
        ),
        "{} payments on record",
        test=Tested(
            direction=Direction.FLOOR,
            limits=every_kind(required(100)),
            short=lambda _: "payments held",
            falls=lambda _: "the count",
        ),
        key=Key(name="Payments on record", note=lambda _: ("counted one by one",)),
        columns={"record": 5},
        compared={"record": 5},
        peers=AmongPeers(place=1, words="more payments"),
        frozen=True,
    )
    monkeypatch.setitem(MEASURES, declared.id, declared)


@pytest.fixture
def throw_away_model(monkeypatch: pytest.MonkeyPatch) -> None:
    """So many years of the declared rate, weighted."""
    inputs = (
        InputSpec(
            id="years_of_it",
            label="Years of it",
            name="years of it",
            unit=Unit.YEARS,
            default=lambda *_: Default(
                given("years of it", Unit.YEARS, 20.0, "a guess"), "a guess"
            ),
            bounds=(1, 40),
            step=1.0,
            digits=0,
            low=(lambda n: n - 5, "− 5"),
            high=(lambda n: n + 5, "+ 5"),
            spread="years ± 5",
        ),
        InputSpec(
            id="weight",
            label="Weight",
            name="weight",
            unit=Unit.MULTIPLE,
            default=lambda *_: Default(given("weight", Unit.MULTIPLE, 1.0, "plain"), "plain"),
            bounds=(0.1, 10),
        ),
    )
    for spec in inputs:
        monkeypatch.setitem(INPUTS, spec.id, spec)
    model = ModelSpec(
        id="years_of_dividends",
        name="Years of dividends",
        question="What are so many years of it worth?",
        answers="dividends",
        leads=EVERY_KIND,
        takes=("years_of_it", "weight"),
        reads=lambda ground, case: [
            ground.record.declared_rate,
            case["years_of_it"],
            case["weight"],
        ],
        worth=lambda _, rate, years, weight: rate * years * weight,
        formula="declared rate × years × weight",
        unsuited=lambda *_: None,
        touch=lambda _: None,
    )
    monkeypatch.setitem(MODELS, model.id, model)


@pytest.fixture
def throw_away_signal(monkeypatch: pytest.MonkeyPatch) -> SignalKind:
    """A split, told on its day."""
    kind = SignalKind(
        id="share_split",
        name="Shares split",
        means="A share became several, or several became one.",
        whose=Whose.ALL,
        asks=True,
    )

    def make(ground: SignalGround) -> Iterator[Signal]:
        for split in ground.file.splits:
            yield Signal(
                kind=kind,
                day=split.effective_on,
                event=split.effective_on.isoformat(),
                stage=Stage.RECORD,
                said=("its shares were split",),
            )

    monkeypatch.setattr(signals, "MAKERS", (*MAKERS, SignalMaker(kinds=(kind,), make=make)))
    monkeypatch.setitem(KINDS, kind.id, kind)
    return kind
