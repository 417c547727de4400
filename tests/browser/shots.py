"""One current picture of each main view, from the demo data: `make shots`."""

from __future__ import annotations

import tempfile
from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import Page, expect, sync_playwright

from hearth_yield.actions.fill_demo import fill_demo
from hearth_yield.store.database import Database
from tests.exchange.found.files import WIDE, workbook

from .conftest import CONTEXT, LAUNCH, serving

TO = Path(__file__).parent.parent.parent / "docs" / "screenshots"


def _drop_a_spreadsheet(page: Page) -> None:
    raw = workbook({"Brass Lanterns": [["Brass Lanterns", "TLL"], *WIDE, ["Goodwill", 5, 5, 5]]})
    file = {"name": "lanterns.xlsx", "mimeType": "application/octet-stream", "buffer": raw}
    page.get_by_label("Drop files here").set_input_files(files=[file])  # type: ignore[list-item]
    page.get_by_text("Whose is it?").wait_for()


def _decide(page: Page) -> None:
    page.get_by_text("wait", exact=True).click()
    page.get_by_label("In your own words").fill(
        "Twenty-nine years of raises and the cash to pay for them, but I would pay for more growth "
        "than the isles have room for. Wait for a harbour strike."
    )
    page.get_by_role("button", name="from Worth").click()
    page.get_by_label("How much").fill("6")
    page.get_by_role("button", name="Add", exact=True).click()
    page.get_by_role("button", name="Record the decision").click()
    page.get_by_text("Recorded.").wait_for()


def _follow(page: Page) -> None:
    """More payers are decided on, so that there is something to tell."""
    said = {"verdict": "hold", "words": "As it is.", "as_of": "2026-06-30"}
    for symbol, price in (("GLNW", "14"), ("PKRC", "17.5"), ("AMLH", "18"), ("GWK", "16")):
        origin = page.url.rstrip("/")
        answer = page.request.post(
            f"{origin}/api/payers/ELV/{symbol}/decisions",
            data=said | {"buy_below": price},
            headers={"origin": origin},
        )
        assert answer.ok, answer.text()
    page.reload()
    page.get_by_text("A year ago").wait_for(timeout=60_000)
    page.get_by_text("Looking …").wait_for(state="detached", timeout=60_000)


def _move_a_limit(page: Page) -> None:
    page.get_by_label("Payout, leading basis, companies", exact=True).fill("50")
    page.wait_for_timeout(500)


View = tuple[str, str, dict[str, object], Callable[[Page], None] | None]
NARROW = {"viewport": {"width": 390, "height": 844}}
VIEWS: tuple[View, ...] = (
    ("payers", "/payers?sort=state", {}, None),
    ("review-record-dark", "/review/ELV/GWK", {"color_scheme": "dark"}, None),
    ("review-cover", "/review/ELV/MRB?stage=cover", {}, None),
    ("review-footing", "/review/ELV/GWK?stage=footing", {}, None),
    ("review-strain", "/review/ELV/STNB?stage=cover&cover=strain", {}, None),
    ("house-rules", "/house-rules", {}, _move_a_limit),
    ("review-range", "/review/ELV/TRS?stage=range&aim=0.034", {}, None),
    ("review-worth", "/review/ELV/TRS?stage=worth", {}, None),
    ("review-decision", "/review/ELV/TRS?stage=decision", {}, _decide),
    ("memo", "/api/decisions/1/memo", {"viewport": {"width": 794, "height": 1123}}, None),
    ("hearth", "/", {}, _follow),
    ("watch", "/watch", {"color_scheme": "dark"}, None),
    ("holdings-income", "/holdings", {}, None),
    ("holdings", "/holdings?tab=positions&lots=RKM/ELDB", {}, None),
    ("review-narrow", "/review/ELV/LRT", NARROW, None),
    ("working", "/review/ELV/LRT?stage=range&open=ELV/LRT/range.count", {}, None),
    ("compare", "/compare?compared=ELV/TRS,ELV/AMLH,ELV/CRF,RKM/ADRP", {}, None),
    ("journal", "/journal", {}, None),
    ("bring-in", "/sources?tab=import", {}, _drop_a_spreadsheet),
)


def main() -> None:
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "shots.sqlite"
        database = Database(path)
        database.migrate()
        fill_demo(database)
        database.close()
        with serving(path) as url, sync_playwright() as playwright:
            browser = playwright.chromium.launch(**LAUNCH)
            for name, address, more, act in VIEWS:
                page = browser.new_page(**(CONTEXT | more))
                page.goto(url + address)
                page.wait_for_load_state("networkidle")
                expect(page.locator("#main [aria-busy=true]")).to_have_count(0)
                page.wait_for_timeout(1000)
                if act:
                    act(page)
                page.screenshot(path=TO / f"{name}.png")
                page.close()
            browser.close()


if __name__ == "__main__":
    main()
