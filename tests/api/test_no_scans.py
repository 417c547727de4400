"""What a person does is sought: nothing goes over all prices, dividends, statements or points.
(What is read is seen through in test_every_answer.)"""

from __future__ import annotations

from typing import Any

from hearth_yield.store.database import Database
from tests.databases import client_of
from tests.patience import ended
from tests.scans import LARGE, scans, statements

DAY = {"exchange": "ELV", "symbol": "TRS", "day": "2026-06-29", "close": "61.50"}
ROWS = {"table": "prices", "rows": [DAY], "accepted": [0]}
KEY = {"table": "prices", "key": {"day": "2026-06-30"}, "reason": "as seen"}
FILES = {
    "prices.csv": "exchange,symbol,day,close\nELV,TRS,2026-06-30,70.00\n",
    "dividends.csv": "exchange,symbol,ex_date,amount,currency\nELV,TRS,2026-08-14,0.51,TLL\n",
    "statements.csv": (
        "exchange,symbol,period_end,span,published_on,currency,unit,revenue\n"
        "ELV,TRS,2026-03-31,quarter,2026-05-06,TLL,million,300\n"
    ),
    "series.csv": (
        "code,name,currency,day,published_on,value\n"
        "SUNDREY-PRICES,Sundrey Isles price index,TLL,2026-06-01,2026-06-18,190\n"
    ),
}


def test_what_a_person_does_seeks_what_it_needs(twenty: Database) -> None:
    """An import of every large table, its undo, what is typed, edited, judged and made again."""
    client = client_of(twenty)

    def does(method: str, path: str, **more: Any) -> Any:
        got = client.request(method, path, **more)
        assert got.status_code < 300, (path, got.text)
        found = got.json() if got.content else {}
        job = found if "state" in found else (found.get("job") or {})
        return ended(client, job["id"]) if job.get("id") and job.get("state") else found

    trs = "/api/payers/ELV/TRS"
    with statements(twenty) as asked:
        files = [("files", (name, text.encode())) for name, text in FILES.items()]
        found = does("POST", "/api/imports/preview", files=files)
        every = {"token": found["token"], "accepted": list(range(len(found["faults"])))}
        job = does("POST", "/api/imports", json=every)
        assert job["state"] == "done", job
        does("POST", f"/api/imports/{job['source']}/undo")
        does("POST", "/api/typed-facts/preview", json=ROWS)
        does("POST", "/api/typed-facts", json=ROWS)
        does("POST", f"{trs}/edits", json=KEY | {"field": "close", "value": 60})
        does("POST", f"{trs}/exclusions", json=KEY | {"key": {"day": "2026-06-26"}})
        does(
            "POST",
            f"{trs}/decisions",
            json={"verdict": "hold", "words": "x", "as_of": "2026-06-30"},
        )
        rules = does("GET", "/api/house-rules")["rules"]
        does("POST", "/api/house-rules/preview", json=rules)
        does("POST", "/api/house-rules/preview-prices", json=rules)
        does("PUT", "/api/house-rules", json={"rules": rules, "note": "seen through"})
        for task in ("/api/measures", "/api/signals", "/api/strained-payers?strain=fall:0.2"):
            does("POST", task)
    assert sum(any(f" {table}" in s for table in LARGE) for s in asked) > 20
    assert scans(twenty, asked) == {}
