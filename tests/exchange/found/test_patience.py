"""Files that make much work in the server: done within bounds, or refused in words."""

import resource
import subprocess
import sys
import textwrap
from collections.abc import Callable
from datetime import date, timedelta
from itertools import count

import pytest

from hearth_yield.core.errors import TooLarge
from hearth_yield.exchange.found import patience
from hearth_yield.exchange.found.made import MOST_SAID
from tests.conftest import SOAK, sample

from .files import AsFound
from .test_found import read, rows_of

FIRST = date(1900, 1, 2)
ROWS = sample(20_000, 290_000)
MOST_CPU, MOST_MEMORY = 20, 900 * 2**20
"""What the system allows a whole process that reads one, its start with all it imports too."""


def lines(head: str, line: Callable[[int], str], rows: int = ROWS) -> str:
    return head + "".join(line(n) for n in range(rows))


def day(n: int) -> date:
    return FIRST + timedelta(days=n % 40_000)


MUCH = {
    "texts": lambda: lines("Date,Close\n", lambda n: f"{n}a{'x' * 30},{n}b{'y' * 30}\n"),
    "broken": lambda: lines("Symbol,Date,Close\n", lambda n: f"PNL,{day(n)},abc{n}\n"),
    "strangers": lambda: lines("Symbol,Date,Close\n", lambda n: f"ZZ{n},{day(n)},12\n"),
    "names": lambda: lines("Company,Date,Close\n", lambda n: f"Company number {n} of,{day(n)},1\n"),
    "labels": lambda: lines("TLL million,2024,2025\n", lambda n: f"Line of words {n},1,2\n"),
    "tables": lambda: lines(
        "", lambda n: f"FY{n}x,FY2024,FY2025\nRevenue,1,2\nNet income,1,2\n", min(ROWS, 90_000)
    ),
    "closes": lambda: lines("Date,Close\n", lambda n: f"{day(n)},{10 + n % 9777 / 100}\n"),
}


@pytest.mark.parametrize("kind", MUCH)
def test_what_makes_much_work_is_ended_in_words(kind: str, monkeypatch: pytest.MonkeyPatch) -> None:
    """Wherever it makes it: the time is looked at again and again on every way through a file."""
    ticks = count()
    monkeypatch.setattr(patience.time, "thread_time", lambda: next(ticks) * patience.SECONDS / 30)
    with pytest.raises(TooLarge, match="too long to understand"):
        read(AsFound(name="PNL.csv", text=MUCH[kind](), facts={}))


CHILD = """
    import sys
    from tests.exchange.found.test_patience import MUCH
    from tests.exchange.found.test_found import AROUND
    from hearth_yield.core.errors import TooLarge
    from hearth_yield.exchange.found.reading import read_found
    try:
        (found,) = read_found([("p.csv", MUCH[sys.argv[1]]().encode())], AROUND, {})
        print("read", len(found.tables))
    except TooLarge as why:
        print("refused", why)
"""


@pytest.mark.parametrize("kind", sorted(MUCH) if SOAK else ["names"])
def test_it_costs_no_more_than_it_may(kind: str) -> None:
    def bounded() -> None:
        resource.setrlimit(resource.RLIMIT_CPU, (MOST_CPU, MOST_CPU))
        resource.setrlimit(resource.RLIMIT_AS, (MOST_MEMORY, MOST_MEMORY))

    command = [sys.executable, "-c", textwrap.dedent(CHILD), kind]
    done = subprocess.run(command, capture_output=True, text=True, preexec_fn=bounded, check=False)
    assert done.returncode == 0, done.stderr[-500:]
    assert done.stdout.startswith(("read", "refused"))


def test_headings_that_stand_again_on_every_page_are_of_one_table() -> None:
    pages = "".join(
        "Date,Close\n" + "".join(f"{FIRST + timedelta(days=10 * p + n)},12\n" for n in range(10))
        for p in range(60)
    )
    found = read(AsFound(name="PNL.csv", text=pages, facts={}))
    assert len(found.tables) == 1
    assert len(rows_of(found)["prices"]) == 600
    assert "row 12: “Date”" in (found.made or {})["0"].left_out


def test_many_rows_that_are_left_out_are_counted() -> None:
    text = lines("Date,Close\n", lambda n: f"{day(n)},12\nnote {n},\n", 2_000)
    (made,) = (read(AsFound(name="PNL.csv", text=text, facts={})).made or {}).values()
    assert made.left_out[MOST_SAID] == f"and {2_000 - MOST_SAID:,} more rows like these"


def test_a_sheet_of_too_many_tables_is_refused_in_words() -> None:
    with pytest.raises(TooLarge, match="too many tables"):
        read(AsFound(name="p.csv", text=MUCH["tables"](), facts={}))
