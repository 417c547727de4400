"""See to it that the measures behind the table of payers are made: only where facts or house rules
changed.

Every batch is one short transaction; what a batch left undone is due again, whenever that is.
"""

from __future__ import annotations

from datetime import date
from functools import cache
from hashlib import sha256
from pathlib import Path

from hearth_yield import core
from hearth_yield.collector import at_rest
from hearth_yield.core.errors import Uncomputable
from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.finding.measured import Measured, made_with, measure, unmeasured
from hearth_yield.core.finding.search import Candidate, Universe
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.review import review_of
from hearth_yield.faults_log import note_if_ours
from hearth_yield.progress import Progress
from hearth_yield.store import measures, payer_files
from hearth_yield.store.database import Database, Edition, edition, kept_revision

from .review_cache import ReviewCache

BATCH = 25


@cache
def method() -> str:
    """A fingerprint of the core as it stands: another line of it may make other measures."""
    digest = sha256()
    for file in sorted(Path(core.__file__).parent.rglob("*.py")):
        digest.update(file.read_bytes())
    return digest.hexdigest()


def ground(rules: HouseRules) -> str:
    """What measures are made with here and now; `made_with` says what it holds."""
    return made_with(rules, method())


def ensure_measures(
    database: Database, rules: HouseRules, as_of: date, progress: Progress | None = None
) -> int:
    """Make all measures that are missing or stale on a day. Returns how many payers that were.

    progress: called with step, payers done and payers due; raising from it stops between batches,
    and what was made until then stays.
    """
    with database.read() as connection:
        due = measures.due(connection, as_of, ground(rules))
        shared = payer_files.Shared()
    for start in range(0, len(due), BATCH):
        if progress:
            progress("measures", start, len(due))
        made = []
        with database.read() as connection, at_rest():
            for d in due[start : start + BATCH]:
                file = payer_files.load(connection, d.exchange, d.symbol, shared)
                made.append((d, _measured(file, as_of, rules)))
        with database.write(facts=False, patient=True) as connection:
            measures.keep(connection, as_of, ground(rules), made)
    if due:
        with database.write(facts=False, patient=True) as connection:
            measures.prune(connection, as_of)
    return len(due)


def _measured(file: PayerFile, as_of: date, rules: HouseRules) -> Measured:
    """One payer that cannot be computed does not keep the others from being."""
    try:
        return measure(review_of(file, as_of, rules))
    except Uncomputable as error:
        note_if_ours(error)
        return unmeasured(file.payer, error.message)


def standing(cache: ReviewCache) -> tuple[Edition, int]:
    """The edition, and the revision of the measures that are kept."""
    with cache.database.read() as connection:
        return edition(connection), kept_revision(connection)


def universe(
    cache: ReviewCache, as_of: date, stands: tuple[Edition, int] | None = None
) -> Universe:
    """Every payer listed on a day with what is kept of it, stale or missing as it may be. stands:
    as `standing` says, where the caller has it."""
    at, kept = stands or standing(cache)

    def load() -> Universe:
        with cache.database.read() as connection:
            held = measures.held(connection, as_of, ground(cache.house_rules(at)))
        return Universe(
            candidates=[
                Candidate(
                    exchange=k.exchange,
                    symbol=k.symbol,
                    name=k.name,
                    measured=k.measured,
                    stale=k.stale,
                    delisted=k.delisted,
                    isin=k.isin,
                )
                for k in held
            ]
        )

    return cache.universes.get((at.judged, kept, as_of), load)
