"""What Worth costs: a grid, a simulation, and as many valuations as a folder of workbooks."""

from __future__ import annotations

import subprocess
import tempfile
import time
from datetime import date
from itertools import islice, product
from pathlib import Path

import httpx
import numpy as np

from hearth_yield.core.figures.inputs import Input
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.question import Question
from hearth_yield.core.review import Review, review_of, rework
from hearth_yield.core.worth.trials.chance import DRAWS, simulate
from hearth_yield.core.worth.trials.revalue import Valuer
from hearth_yield.exchange.workbook.worth import worth_workbook
from hearth_yield.store import payer_files
from hearth_yield.store.database import Database

from .timing import medians_ms

DAY = date(2026, 6, 30)
VALUATIONS = 200


def grid(client: httpx.Client, symbol: str) -> tuple[float, float]:
    """Seven by seven values over HTTP, and one valuation."""
    turns = iter(range(10_000))

    def asked() -> dict[str, str]:
        return {"inputs": f"margin_of_safety:{0.1 + next(turns) * 1e-5}"}

    return medians_ms(
        lambda: client.get(f"/api/payers/ELV/{symbol}/worth/grid", params=asked()),
        lambda: client.get(f"/api/payers/ELV/{symbol}/worth", params=asked()),
        100,
    )


def draws(database: Database, symbol: str) -> tuple[float, float]:
    """A hundred thousand draws valued, and as many numbers drawn for each input alone."""
    with database.read() as connection:
        file = payer_files.load(connection, "ELV", symbol, payer_files.Shared())
    question = Question(switched={"cash_to_equity": True, "exit": True})
    valuer = review_of(file, DAY, HouseRules(), question).worth.trials.valuer
    rng = np.random.default_rng(1)
    moved = [x for x in valuer.inputs.values() if _moves(x, valuer)]

    def drawn() -> None:
        for x in moved:
            low, high = sorted((x.low.value or 0.0, x.high.value or 0.0))
            rng.triangular(low, x.figure.value or 0.0, high, DRAWS)

    return medians_ms(lambda: simulate(valuer), drawn, 30)


def _moves(held: Input, valuer: Valuer) -> bool:
    taken = {id for spec in valuer.specs for id in spec.takes}
    return held.id in taken and held.low.value != held.high.value


def workbooks(database: Database) -> tuple[float, float]:
    """Two hundred valuations, and LibreOffice recalculating a workbook of each; in milliseconds
    together."""
    with database.read() as connection:
        shared = payer_files.Shared()
        files = [
            payer_files.load(connection, exchange, symbol, shared).cut(DAY)
            for exchange, symbol in payer_files.keys(connection)
        ]
    rules = HouseRules()
    plain = [(file, review_of(file, DAY, rules)) for file in files]
    growths = (0.01, 0.02, 0.03, 0.035)
    asked = list(islice(product(plain, growths), VALUATIONS))
    found: list[Review] = []
    start = time.perf_counter()
    for (file, held), growth in asked:
        found.append(rework(held, file, rules, Question(inputs={"growth": growth})))
    ours = time.perf_counter() - start
    with tempfile.TemporaryDirectory() as made:
        at = Path(made)
        for n, review in enumerate(found):
            (at / f"{n}.xlsx").write_bytes(worth_workbook(review))
        command = ["soffice", "--headless", f"-env:UserInstallation=file://{at}/profile"]
        command += ["--convert-to", "fods", "--outdir", str(at), *map(str, at.glob("*.xlsx"))]
        start = time.perf_counter()
        subprocess.run(command, check=True, capture_output=True)
        theirs = time.perf_counter() - start
    return ours * 1000, theirs * 1000
