"""Access for everyone, checked by axe: a table of what there is to see, by theme and width."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any

import httpx
import pytest
from playwright.sync_api import Page, expect

from tests.conftest import SOAK
from tests.databases import PAYERS, new_database
from tests.exchange.found.files import WIDE, workbook
from tests.patience import until

from .conftest import IN_ANOTHER_THEME, ON_A_PHONE, WCAG, copy_served, serious, serving

TRS = "/review/ELV/TRS"
EXPECTED = {
    "measure": "declared_rate",
    "way": "growth",
    "side": "at_least",
    "value": 0.06,
    "until": "2029-12-31",
}
DECIDED: tuple[tuple[str, dict[str, Any]], ...] = (
    ("TRS", {"verdict": "buy", "buy_below": "900", "expectations": [EXPECTED], "pros": "Soap."}),
    ("WKTG", {"verdict": "hold", "trim_above": "1", "next_look": "2026-07-01"}),
    ("CRF", {"verdict": "avoid", "risks": "Fog."}),
)


OWNED: tuple[tuple[str, str, dict[str, Any]], ...] = (
    ("buy", "TRS", {"day": "2023-05-02", "shares": "120", "price": "55", "fee": "9.90"}),
    ("opening", "AMLH", {"day": "2024-01-02", "shares": "300"}),
    ("sell", "GWK", {"day": "2025-03-03", "shares": "10", "price": "22"}),
)
"""Of the first all is known, of the second no cost, of the third nothing."""


def lived_in(url: str) -> None:
    """What a person leaves in each place, so that there is something to look at."""
    with httpx.Client(base_url=url, headers={"origin": url}, timeout=None) as api:
        for symbol, more in DECIDED:
            body = {"words": "As it is.", "as_of": "2026-06-30", **more}
            api.post(f"/api/payers/ELV/{symbol}/decisions", json=body).raise_for_status()
        group = {"note": "Wait for autumn.", "group": "Staples"}
        api.put("/api/watch/ELV/AMLH", json=group).raise_for_status()
        api.put(
            "/api/payers/ELV/TRS/strains", params={"strain": "fall:0.1"}, json={"name": "A bad one"}
        ).raise_for_status()
        told = {"name": "Main", "currency": "TLL", "keeps_cash": True}
        account = api.post("/api/accounts", json=told).raise_for_status().json()["id"]
        for kind, symbol, more in OWNED:
            entry = {"account": account, "kind": kind, "exchange": "ELV", "symbol": symbol, **more}
            api.post("/api/entries", json=entry).raise_for_status()
        edit = {"table": "prices", "key": {"day": "2026-06-29"}, "reason": "a misread close"}
        api.post("/api/payers/ELV/AMLH/exclusions", json=edit).raise_for_status()


@pytest.fixture(scope="module")
def base_url(twenty_file: Path, tmp_path_factory: pytest.TempPathFactory) -> Iterator[str]:
    with copy_served(twenty_file, tmp_path_factory.mktemp("looked-at")) as url:
        lived_in(url)
        yield url


def click(name: str) -> Callable[[Page], None]:
    return lambda page: page.get_by_role("button", name=name).first.click()


def fill(label: str, text: str) -> Callable[[Page], None]:
    return lambda page: page.get_by_label(label, exact=True).first.fill(text)


def drop(name: str, raw: bytes) -> Callable[[Page], None]:
    file: Any = {"name": name, "mimeType": "application/octet-stream", "buffer": raw}
    return lambda page: page.get_by_label("Drop files here").set_input_files(files=[file])


def restore(page: Page) -> None:
    wrong: Any = {"name": "x.json", "mimeType": "application/json", "buffer": b"{}"}
    page.get_by_label("Restore a backup").set_input_files(files=[wrong])
    page.get_by_role("alertdialog").wait_for()


def search(page: Page) -> None:
    page.get_by_placeholder("Search payers, measures and actions").fill("tallow, amberl")
    page.get_by_role("option").first.wait_for()


@dataclass(frozen=True)
class Seen:
    """Something to look at: an address, the part of it to look at, what is done there first.

    always: in every run; else only `make soak` looks, and the page's own tests at what needs no
    layout (`faults` in web/src/testing/page.tsx).
    """

    address: str
    words: str
    within: str = "document"
    acts: tuple[Callable[[Page], None], ...] = ()
    always: bool = True


def seldom(*of: Any) -> Seen:
    return replace(Seen(*of), always=False)


def stage(id: str, address: str, words: str, *, always: bool = False) -> Seen:
    return Seen(f"/review/ELV/{address}", words, f"#{id}", always=always)


HELD = f"{PAYERS - 1} of {PAYERS - 1}"
"""One is delisted."""
CONDITION = json.dumps(
    {"join": "all", "parts": [{"id": "deviation", "op": "at_least", "value": 0.05, "words": []}]}
)
BOOK = workbook({"Brass Lanterns": [["Brass Lanterns", "TLL"], *WIDE, ["Goodwill", 5, 5, 5]]})
FAULTY = b"exchange,symbol,day,close\nELV,TRS,28/06/2026,x\n"
PLACES = (
    Seen("/", "have come within reach"),
    Seen("/payers", HELD),
    seldom(f"/payers?where={CONDITION}", "Add a condition", "document", (click("Conditions"),)),
    seldom("/payers?by=industry", "Household goods", "#main"),
    seldom("/payers?cols=yield", HELD, "#main", (click("Own columns"),)),
    seldom("/payers", HELD, "#main", (click("Saved searches"),)),
    seldom("/payers/breadth", "yield more than their own mean"),
    Seen("/payers/strain?strain=fall:0.1", "With all revenue"),
    Seen("/watch", "Wait for autumn."),
    Seen("/holdings", "The next twelve months"),
    Seen("/holdings?lots=ELV/TRS", "You own 3 positions"),
    Seen("/holdings?tab=entries&entry=new", "3 entries"),
    seldom("/holdings?by=sector", "Consumer goods"),
    Seen("/journal", "As it is."),
    Seen("/compare?compared=ELV/TRS,ELV/AMLH,ELV/CRF,RKM/ADRP", "comes first"),
    Seen("/house-rules", "would change state", acts=(fill("Net debt to EBITDA, companies", "1"),)),
    seldom("/glossary", "Words of our own"),
    Seen("/sources", "Data by payer"),
    seldom("/sources?tab=shared&code=THK-IN-TLL", "One Thornmark krone", "#main"),
    Seen("/sources?tab=import", "Whose is it?", "#main", (drop("lanterns.xlsx", BOOK),)),
    seldom("/sources?tab=import", "a date as YYYY-MM-DD", "#main", (drop("prices.csv", FAULTY),)),
    seldom("/sources?tab=import", "Close of", "#main", (click("a payer, on one sheet"),)),
    seldom("/sources?tab=edits", "a misread close", "#main"),
    Seen("/sources?tab=export", "Replace everything", acts=(restore,)),
    seldom("/sources/ELV/SLTM?period=year", "version of", "#main"),
    Seen("/sources/ELV/TRS?tab=dividends", "Keep it", "#main", (click("Enter by hand"),)),
    seldom("/sources/ELV/TRS?tab=prices", "Why it should not", "body", (click("Exclude: prices"),)),
    seldom("/sources/ELV/TRS?tab=payers", "The payer itself", "#main"),
    Seen(TRS, "Raised 29 years running"),
    seldom("/review/ELV/QLN", "No regular dividend is on record"),
    Seen(f"{TRS}?open=ELV/TRS/range.weeks", "260 weeks", "[role=dialog]"),
    stage("record", "GWK?record=payments", "Every payment"),
    stage("record", "TRS?record=slumps", "The herring slump"),
    stage("cover", "MRB?stage=cover&cover=matrix", "Expected of fiscal", always=True),
    stage("cover", "MRB?stage=cover&cover=lines", "above free cash flow"),
    stage("cover", "MRB?stage=cover&cover=uses", "Everything else"),
    stage("cover", "TRS?stage=cover&cover=strain&strain=fall:0.02", "A bad one"),
    stage("cover", "FND?stage=cover&basis=earnings", "freak year"),
    stage("footing", "GWK?stage=footing", "nothing left to repay with"),
    stage("footing", "GWK?stage=footing&footing=business", "Margins and returns"),
    stage("footing", "GWK?stage=footing&footing=lines", "Growth of every line", always=True),
    stage("footing", "TRS?stage=footing&footing=peers", "peers"),
    stage("footing", "GWK?stage=footing&footing=slumps", "herring slump"),
    stage("footing", "PLG?stage=footing", "Capital ratio"),
    stage("range", "TRS?stage=range&quantity=earnings&aim=16", "you would pay"),
    stage("range", "TRS?stage=range&range=years&quantity=earnings", "would pay today"),
    stage("range", "TRS?stage=range&range=price", "put in on"),
    stage("worth", "TRS?stage=worth", "Its dividends", always=True),
    stage("worth", "TRS?stage=worth&worth=trials", "For today’s price to be fair"),
    stage("worth", "TRS?stage=worth&worth=return", "a year: income"),
    stage("worth", "ORCF?stage=worth&worth=peers", "Median of those left in"),
    stage("worth", "PLG?stage=worth&weights=dividends:1", "Two stages"),
    stage("decision", "TRS?stage=decision", "As it is.", always=True),
    Seen("/api/decisions/1/memo", "As it is.", "document"),
    Seen("/watch", "Compare Tallow", "body", (search,)),
    seldom("/watch", "10 years back", "body", (click("As of"),)),
    seldom("/watch", "rows", "[role=dialog]", (click("Copy or save a table"),)),
)
EMPTY = (
    Seen("/", "your limits"),
    Seen("/payers", "No prices held"),
    Seen("/sources?tab=held", "No payer is held yet"),
    Seen("/sources?tab=shared", "None is held yet", "#main"),
    Seen("/sources?tab=edits", "Nothing is edited or excluded.", "#main"),
)


def looked_at(page: Page, seen: Seen, dark: bool = True, phone: bool = True) -> None:
    """In the light; then what else can go wrong in the dark, and on a phone."""
    page.goto(seen.address)
    if seen.acts:
        page.wait_for_load_state("networkidle")  # what opens over the page finds it drawn
    for act in seen.acts:
        act(page)
    area = page.locator("body" if seen.within == "document" else seen.within)
    expect(area).to_contain_text(seen.words)
    expect(area.locator("[aria-busy=true]")).to_have_count(0)
    assert serious(page, WCAG, seen.within) == []
    if dark:
        page.evaluate("document.documentElement.dataset.theme = 'dark'")
        assert serious(page, IN_ANOTHER_THEME, seen.within) == []
    page.set_viewport_size({"width": 390, "height": 844})
    if phone:
        assert serious(page, ON_A_PHONE, seen.within) == []
    until(lambda: page.evaluate("document.documentElement.scrollWidth") <= 390)


LOOKS = [s for s in PLACES if s.always or SOAK]


@pytest.mark.parametrize("seen", LOOKS, ids=lambda s: f"{s.address} {s.words}")
def test_axe_finds_nothing_serious(page: Page, seen: Seen) -> None:
    """Every other one is looked at in the dark, the rest on a phone; `make soak` does both."""
    odd = LOOKS.index(seen) % 2 == 1
    looked_at(page, seen, dark=SOAK or odd, phone=SOAK or not odd)


def test_axe_finds_nothing_serious_in_an_empty_product(page: Page, tmp_path: Path) -> None:
    path = tmp_path / "empty.sqlite"
    new_database(path).close()
    with serving(path) as url:
        for seen in EMPTY:
            page.set_viewport_size({"width": 1280, "height": 800})
            looked_at(page, Seen(url + seen.address, seen.words, seen.within))
