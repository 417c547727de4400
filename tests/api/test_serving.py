"""The door: pages, deep links, what is not there, tasks that run, and a database that will not."""

import threading
import time
from datetime import date
from pathlib import Path

import pytest
from fastapi.testclient import TestClient
from sqlalchemy.exc import OperationalError

from hearth_yield.actions.import_files import Planned, uploaded
from hearth_yield.api.app import create_app
from hearth_yield.api.jobs import MAX_KEPT, Job, Jobs
from hearth_yield.api.pending import MAX_PENDING, Kept, Pending
from hearth_yield.core.errors import Cancelled, Conflict, NotFound
from hearth_yield.store.database import Database
from hearth_yield.store.ledger_imports import LedgerPlan
from tests.patience import SECONDS, until


@pytest.fixture
def pages(demo: Database, tmp_path: Path) -> TestClient:
    """The application over a tiny built page of its own."""
    static = tmp_path / "static"
    (static / "assets").mkdir(parents=True)
    (static / "index.html").write_text("<title>the page</title>")
    (static / "mark.svg").write_text("<svg/>")
    (static / "assets" / "a.js").write_text("1")
    (tmp_path / "secret.txt").write_text("secret")
    return TestClient(create_app(demo, static), base_url="http://127.0.0.1")


@pytest.mark.parametrize("path", ["/", "/payers", "/review/ELV/TRS", "/review/ELV/TRS?stage=worth"])
def test_every_place_opens_the_page(pages: TestClient, path: str) -> None:
    got = pages.get(path)
    assert got.status_code == 200
    assert "the page" in got.text
    assert got.headers["cache-control"] == "no-cache"


def test_files_are_served_as_they_are(pages: TestClient) -> None:
    assert pages.get("/mark.svg").text == "<svg/>"
    assert pages.get("/assets/a.js").text == "1"
    assert pages.get("/assets/b.js").status_code == 404


@pytest.mark.parametrize(
    ("path", "words"),
    [
        ("/api/decisions/7/memo", "No such decision"),
        ("/api/payers/ELV/NONE/review", "ELV"),
        ("/api/status?as_of=2031-01-01", "2031-01-01 is still to come"),
        ("/api/status?as_of=<b>", "s_of: input should be"),
        ("/api/nothing", "No such address"),
    ],
)
def test_what_a_browser_opens_is_refused_in_words_to_read(
    pages: TestClient, path: str, words: str
) -> None:
    """A memo opens in a tab of its own; a program is still answered as a program."""
    opened = pages.get(path, headers={"accept": "text/html,*/*;q=0.8"})
    assert opened.headers["content-type"].startswith("text/html")
    assert words in opened.text
    assert "<b>" not in opened.text
    asked = pages.get(path, headers={"accept": "*/*"})
    assert asked.headers["content-type"] == "application/problem+json"
    assert (opened.status_code, asked.json()["status"]) == (asked.status_code,) * 2


@pytest.mark.parametrize(
    "path", ["/../secret.txt", "/%2e%2e/secret.txt", "/assets/../../secret.txt", "/..%2fsecret.txt"]
)
def test_nothing_outside_the_page_is_served(pages: TestClient, path: str) -> None:
    assert "secret" not in pages.get(path).text


@pytest.mark.parametrize("method", ["GET", "POST", "PUT", "PATCH", "DELETE"])
def test_an_unknown_api_address_is_no_page(pages: TestClient, method: str) -> None:
    got = pages.request(method, "/api/nothing/here")
    assert got.status_code == 404
    assert got.json()["field"] == "path"


@pytest.mark.parametrize(
    "host", ["127.0.0.1", "127.0.0.1:8000", "localhost:1", "[::1]", "[::1]:80"]
)
def test_this_machine_has_several_names(pages: TestClient, host: str) -> None:
    assert pages.get("/api/status", headers={"host": host}).status_code == 200


def test_a_page_without_a_build_answers_the_api_alone(demo: Database, tmp_path: Path) -> None:
    bare = TestClient(create_app(demo, tmp_path / "none"), base_url="http://127.0.0.1")
    assert bare.get("/api/status").status_code == 200
    assert bare.get("/payers").status_code == 404


@pytest.mark.parametrize(
    ("said", "status"),
    [
        ("database is locked", 503),
        ("database or disk is full", 507),
        ("disk I/O error", 507),
        ("attempt to write a readonly database", 500),
        ("something nobody has seen", 500),
    ],
)
def test_a_database_that_will_not_is_told_plainly(
    demo: Database, monkeypatch: pytest.MonkeyPatch, said: str, status: int
) -> None:
    app = create_app(demo)
    client = TestClient(app, base_url="http://127.0.0.1", raise_server_exceptions=False)

    def fail() -> None:
        raise OperationalError("SELECT 1", {}, Exception(said))

    monkeypatch.setattr(type(app.state.context), "moment", lambda _: fail())
    got = client.get("/api/status")
    assert got.status_code == status
    assert "nothing was kept" in got.json()["detail"]


def test_only_the_newest_previews_wait() -> None:
    pending = Pending()
    upload = uploaded([("a.csv", b"x")])
    planned = Planned(
        changes={}, ledger=LedgerPlan(), faults=(), revision=(7, 0), today=date(2026, 6, 30)
    )
    tokens = [pending.keep(upload, planned) for _ in range(MAX_PENDING + 1)]
    started: list[object] = []

    def start(kept: Kept) -> Job:
        started.append(kept.load())
        return Job(id=str(len(started)))

    with pytest.raises(NotFound):
        pending.commit(tokens[0], start)
    job = pending.commit(tokens[-1], start)
    assert started == [(upload, planned)]
    assert pending.commit(tokens[-1], start) is job
    job.state = "failed"
    assert pending.commit(tokens[-1], start) is not job


def wait_for(jobs: Jobs, id: str) -> str:
    return until(lambda: jobs.get(id).state, is_so=lambda state: state != "running")


def test_a_task_reports_its_steps_and_its_source() -> None:
    jobs = Jobs()
    go = threading.Event()

    def task(progress) -> int:
        progress("prices", 3, 10)
        go.wait(SECONDS)
        return 7

    job = jobs.start(task)
    until(lambda: jobs.get(job.id).step == "prices")
    seen = jobs.get(job.id).out()
    assert (seen.state, seen.step, seen.done, seen.total) == ("running", "prices", 3, 10)
    go.set()
    assert wait_for(jobs, job.id) == "done"
    assert jobs.get(job.id).source == 7


def test_a_cancelled_task_stops_at_its_next_step() -> None:
    jobs = Jobs()
    stopped = threading.Event()

    def task(progress) -> int:
        try:
            for step in range(2000):
                progress("prices", step, 2000)
                time.sleep(0.005)
        except Cancelled:
            stopped.set()
            raise
        return 0

    job = jobs.start(task)
    job.cancel.set()
    assert wait_for(jobs, job.id) == "cancelled"
    assert stopped.is_set()


def test_a_refused_task_keeps_its_problem() -> None:
    jobs = Jobs()

    def task(_) -> int:
        raise Conflict("not now", field="file", value="x", rule="later")

    job = jobs.start(task)
    assert wait_for(jobs, job.id) == "failed"
    problem = jobs.get(job.id).out().problem
    assert problem is not None
    assert (problem.status, problem.detail, problem.rule) == (409, "not now", "later")


def test_old_tasks_are_forgotten() -> None:
    jobs = Jobs()
    first = jobs.start(lambda _: 1)
    wait_for(jobs, first.id)
    for _ in range(MAX_KEPT + 2):
        wait_for(jobs, jobs.start(lambda _: 1).id)
    with pytest.raises(NotFound):
        jobs.get(first.id)


def test_unknown_tasks_are_refused(client: TestClient) -> None:
    assert client.get("/api/jobs/nope").status_code == 404
    assert client.delete("/api/jobs/nope").status_code == 404
