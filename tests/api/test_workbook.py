"""The worth of a payer as a workbook: recalculated elsewhere, its figures are the product's."""

import random
import re
import zipfile
from dataclasses import replace
from io import BytesIO
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from hearth_yield.core.worth.inputs import INPUTS
from hearth_yield.exchange.workbook.worth import worth_workbook
from tests.conftest import get, sample
from tests.core.build import payer, review, steady
from tests.recalculated import Sheet, line, recalculated

KINDS = {"company": "ELV/TRS", "trust": "ELV/ORCF", "partnership": "ELV/WPP", "bank": "ELV/STNB"}
CASES = ("low", "middle", "high", "weighted")
pytestmark = pytest.mark.xdist_group("office")


def suiting(client: TestClient, who: str) -> str:
    """Every second opinion that suits a payer, to be switched on."""
    return ",".join(m["id"] for m in get(client, f"/api/payers/{who}/worth/opinions")["models"])


def book(client: TestClient, who: str, **question: Any) -> bytes:
    got = client.get(f"/api/payers/{who}/worth/workbook", params=question)
    assert got.status_code == 200
    assert "spreadsheetml" in got.headers["content-type"]
    return got.content


def held_against(sheet: Sheet, answer: dict[str, Any], asked: str = "") -> int:
    """Compares every model that is on, and what they come to; how many figures were compared."""
    compared = 0
    for model in answer["series"]["models"]:
        if not model["on"]:
            continue
        cells = line(sheet, model["name"])
        for i, case in enumerate(CASES):
            if model[case]["value"] is not None:
                assert cells[i] == pytest.approx(model[case]["value"], rel=1e-9), (
                    asked,
                    model["name"],
                )
                compared += 1
    figures = answer["stage"]["figures"]
    for name, id in (
        ("Combined value", "combined"),
        ("Buy-below price", "buy_below"),
        ("Price vs buy-below (− = under)", "price_against_buy_below"),
    ):
        if figures[id]["value"] is not None:
            assert line(sheet, name)[1] == pytest.approx(figures[id]["value"], rel=1e-9)
            compared += 1
    return compared


def test_a_recalculated_workbook_has_the_figures_of_each_kind_of_payer(
    client: TestClient, tmp_path: Path
) -> None:
    asked = {
        kind: {"on": suiting(client, who), "inputs": "second_margin:0.1,trim_premium:0.3"}
        for kind, who in KINDS.items()
    }
    books = {kind: book(client, who, **asked[kind]) for kind, who in KINDS.items()}
    for kind, sheets in recalculated(books, tmp_path).items():
        answer = get(client, f"/api/payers/{KINDS[kind]}/worth", **asked[kind])
        first = sheets["Worth"]
        assert held_against(first, answer) > 20
        combined = answer["stage"]["figures"]["combined"]["value"]
        assert line(first, "Second buy-below price")[1] == pytest.approx(combined * 0.9)
        assert line(first, "Trim-above price")[1] == pytest.approx(combined * 1.3)


RANGES = {
    "growth": (-0.03, 0.07),
    "later_growth": (-0.02, 0.035),
    "required_return": (0.07, 0.13),
    "mean_yield": (0.02, 0.08),
    "exit_yield": (0.02, 0.08),
    "exit_tax": (0.0, 0.4),
    "credited": (0.0, 1.0),
    "credit_rate": (0.0, 0.4),
    "cash_start": (0.5, 9.0),
    "cash_growth": (-0.04, 0.1),
    "cash_lasting": (-0.02, 0.03),
    "cash_multiple": (5.0, 30.0),
    "cash_payout": (0.2, 1.1),
    "dilution": (-0.03, 0.03),
    "firm_start": (0.5, 9.0),
    "firm_return": (0.06, 0.12),
    "net_margin": (0.04, 0.3),
    "cash_of_income": (0.5, 1.3),
    "graham_base": (6.0, 9.0),
    "earnings_growth": (-0.04, 0.1),
    "aaa_yield": (0.03, 0.07),
    "own_earnings": (6.0, 30.0),
    "funds_start": (0.5, 4.0),
    "funds_growth": (-0.02, 0.08),
    "funds_lasting": (0.0, 0.03),
    "funds_payout": (0.4, 1.0),
    "funds_multiple": (8.0, 25.0),
    "cap_rate": (0.04, 0.1),
    "chance_low": (0.0, 0.5),
    "chance_middle": (0.1, 0.5),
}


def test_any_inputs_recalculate_to_the_products_figures(client: TestClient, tmp_path: Path) -> None:
    """Every model of a company and of a trust, over inputs drawn at random: 200 cases in full."""
    draw = random.Random(20260630)
    asked, books = {}, {}
    on = {who: suiting(client, who) for who in ("ELV/TRS", "ELV/ORCF")}
    for n in range(sample(2, 200)):
        who = ("ELV/TRS", "ELV/ORCF")[n % 2]
        inputs = ",".join(f"{id}:{draw.uniform(*ends):.5f}" for id, ends in RANGES.items())
        asked[f"case{n}"] = (who, {"on": on[who], "inputs": inputs})
        books[f"case{n}"] = book(client, who, **asked[f"case{n}"][1])
    near = {"on": "constant_growth", "inputs": "growth:0.03779,required_return:0.07025"}
    asked["near"] = ("ELV/TRS", near)
    books["near"] = book(client, "ELV/TRS", **near)
    for name, sheets in recalculated(books, tmp_path).items():
        who, question = asked[name]
        assert held_against(sheets["Worth"], get(client, f"/api/payers/{who}/worth", **question))


def test_a_changed_cell_changes_all_that_follows(client: TestClient, tmp_path: Path) -> None:
    """The cell of the required return, changed in the file, against the same typed in the page."""
    who, on = "ELV/TRS", suiting(client, "ELV/TRS")
    plain = book(client, who, on=on, inputs="required_return:0.08125")
    changed = BytesIO()
    with zipfile.ZipFile(BytesIO(plain)) as before, zipfile.ZipFile(changed, "w") as after:
        for name in before.namelist():
            content = before.read(name)
            if name == "xl/worksheets/sheet1.xml":
                content, times = re.subn(rb"<v>0\.08125</v>", b"<v>0.0925</v>", content)
                assert times == 1
            after.writestr(name, content)
    first = recalculated({"changed": changed.getvalue()}, tmp_path)["changed"]["Worth"]
    # The rate for all capital is a default of the product's.
    typed = {m["id"]: m for m in _models(client, who, on, "required_return:0.0925")}
    stays = {m["id"]: m for m in _models(client, who, on, "required_return:0.08125")}
    for id in ("two_stage", "fading", "cash_to_equity", "exit", "cash_paid", "cash_to_multiple"):
        assert typed[id]["middle"]["value"] != pytest.approx(stays[id]["middle"]["value"])
        for i, case in enumerate(CASES):
            found = line(first, typed[id]["name"])[i]
            assert found == pytest.approx(typed[id][case]["value"], rel=1e-9), (id, case)


TYPED = {
    "growth": (0.03, 0.055),
    "later_growth": (0.02, 0.05, 0.07),
    "required_return": (0.065, 0.095),
    "mean_yield": (0.05,),
    "cash_growth": (0.01, 0.06),
    "cash_lasting": (0.025,),
    "cash_start": (3.0,),
    "exit_yield": (0.05,),
    "margin_of_safety": (0.3,),
    "chance_low": (0.4,),
    "firm_tax": (0.4, 0.0),
    "firm_start": (2.5,),
    "firm_return": (0.06,),
    "dilution": (0.02,),
    "net_margin": (0.15, 0.05),
    "cash_of_income": (0.9,),
    "revenue_growth": (0.02, 0.05),
    "cash_multiple": (12.0,),
}
FOLLOWING = "cash_to_equity,cash_to_multiple,cash_to_firm,revenue,revenue_to_multiple,exit"
"""Second opinions of which every input is a number or a formula of the first sheet."""
NINE = ("TRS", "SLTM", "PKRC", "AMLH", "ORVN", "ORCF", "WPP", "STNB", "IVBR")
"""Of every kind; fast and slow, cheap and dear."""


FIRST_SHEET = "xl/worksheets/sheet1.xml"


def cell_of(content: bytes, label: str) -> str | None:
    """The cell of the middle of an input; None where the workbook does not take it."""
    with zipfile.ZipFile(BytesIO(content)) as book:
        shared = book.read("xl/sharedStrings.xml").decode()
        texts = re.findall(r"<si><t[^>]*>(.*?)</t></si>", shared)
        if label not in texts:
            return None
        named = rf'<c r="A(\d+)"[^>]*t="s"><v>{texts.index(label)}</v></c>'
        rows = re.findall(named, book.read(FIRST_SHEET).decode())
    assert len(rows) <= 1, label
    return f"C{rows[0]}" if rows else None


def with_cell(content: bytes, label: str, value: float) -> bytes:
    """The workbook with the middle of one of its inputs typed over."""
    changed, at = BytesIO(), cell_of(content, label)
    with zipfile.ZipFile(BytesIO(content)) as before, zipfile.ZipFile(changed, "w") as after:
        for name in before.namelist():
            part = before.read(name)
            if name == FIRST_SHEET:
                cell = rf'<c r="{at}"( s="\d+")?[^>]*>.*?</c>'
                typed = rf'<c r="{at}"\1><v>{value!r}</v></c>'
                text, times = re.subn(cell, typed, part.decode())
                assert times == 1
                part = text.encode()
            after.writestr(name, part)
    return changed.getvalue()


def test_a_number_typed_into_a_cell_is_as_if_it_were_typed_in_the_page(
    client: TestClient, tmp_path: Path
) -> None:
    """A cell of a workbook as it was saved, its models staying as they are: what follows the cell
    follows there too, and a model that no longer stands is left out of what all come to. Then two
    cells at a time, at random."""
    books, asked, pairs = {}, {}, random.Random(20261130)
    for who in [f"ELV/{symbol}" for symbol in NINE[: sample(1, 9)]]:
        models = get(client, f"/api/payers/{who}/worth", on=FOLLOWING)["series"]["models"]
        chosen = {
            "on": ",".join(m["id"] for m in models if m["on"]),
            "off": ",".join(m["id"] for m in models if not m["on"]),
        }
        plain = book(client, who, **chosen)
        held = {id: values for id, values in TYPED.items() if cell_of(plain, INPUTS[id].label)}
        typed = [{id: x} for id, values in held.items() for x in values]
        typed = pairs.sample(typed, sample(5, len(typed)))
        typed += [
            {id: pairs.choice(held[id]) for id in pairs.sample(sorted(held), 2)}
            for _ in range(sample(2, 20))
        ]
        for inputs in typed:
            text = ",".join(f"{id}:{value}" for id, value in inputs.items())
            name = f"{who}-{text}".replace("/", "-").replace(":", "-")
            books[name] = plain
            for id, value in inputs.items():
                books[name] = with_cell(books[name], INPUTS[id].label, value)
            asked[name] = (who, chosen | {"inputs": text})
    slow = {"on": "constant_growth", "inputs": "growth:0.04"}
    nearer = with_cell(book(client, "ELV/TRS", **slow), "Required return", 0.055)
    books["near"] = nearer
    asked["near"] = ("ELV/TRS", slow | {"inputs": "growth:0.04,required_return:0.055"})
    for name, sheets in recalculated(books, tmp_path).items():
        who, question = asked[name]
        answer = get(client, f"/api/payers/{who}/worth", **question)
        assert held_against(sheets["Worth"], answer, name) > 8
        if name == "near":
            assert line(sheets["Worth"], "Constant growth")[1] == "#N/A"


def _models(client: TestClient, who: str, on: str, inputs: str) -> list[dict[str, Any]]:
    found = get(client, f"/api/payers/{who}/worth", on=on, inputs=inputs)
    models: list[dict[str, Any]] = found["series"]["models"]
    return models


def test_a_name_that_looks_like_a_formula_stays_a_name(tmp_path: Path) -> None:
    named = steady(payer=replace(payer(), name='=HYPERLINK("x","y")', symbol="=1+1"))
    content = worth_workbook(review(named))
    with zipfile.ZipFile(BytesIO(content)) as held:
        sheets = [n for n in held.namelist() if n.startswith("xl/worksheets/")]
        formulas = [f for n in sheets for f in re.findall(rb"<f>(.*?)</f>", held.read(n))]
    assert formulas
    assert not any(b"HYPERLINK" in f or b"1+1" in f for f in formulas)
    title = recalculated({"named": content}, tmp_path)["named"]["Worth"][0][0]
    assert "=HYPERLINK" in str(title)


def test_a_payer_without_a_model_says_why(tmp_path: Path) -> None:
    first = recalculated(
        {"none": worth_workbook(review(steady(dividends=(), statements=())))}, tmp_path
    )
    told = [str(row[0]) for row in first["none"]["Worth"] if row]
    assert any(text.startswith("Combined value unknown: no model is on") for text in told)
