"""Files as people have them: what is understood of each, what is still to be settled, and the files
of the product's own that they become."""

from __future__ import annotations

import csv
import zipfile
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date
from functools import cache

from hearth_yield.core.errors import NotFound, TooLarge
from hearth_yield.core.household.entries import PayerKey
from hearth_yield.exchange.columns import FORMATS, recognise
from hearth_yield.exchange.found.owned.accounts import Accounts, KnownAccount
from hearth_yield.exchange.found.payers import Known, Payers
from hearth_yield.exchange.found.reading import (
    Around,
    FoundFile,
    made_tables,
    profile_tables,
    read_found,
)
from hearth_yield.exchange.package import MAX_UPLOAD, opened
from hearth_yield.progress import Progress, unwatched
from hearth_yield.store import facts, ledger
from hearth_yield.store.database import Database

from .import_files import Files, Upload, file_name_of, fingerprint, uploaded
from .keep_profile import profiles_of

OURS = 0.7
"""A CSV of which so many columns bear our names is one of ours, though some may be wrong."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Settled:
    """What a person settled of files: answers by question, and payers made on the spot, as rows of
    the payers table. profile: by which to read them, by name."""

    answers: Mapping[str, str] = field(default_factory=dict)
    payers: Sequence[Mapping[str, str]] = ()
    profile: str | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Understood:
    """found: of each file that is none of the product's own. upload: what is to be imported; None
    while something is open or wrong, and where nothing came of it."""

    found: Sequence[FoundFile]
    upload: Upload | None = None

    @property
    def waiting(self) -> bool:
        """Whether something has to be settled first."""
        return any(not t.ready for f in self.found for t in f.tables) or any(
            f.unreadable for f in self.found
        )

    @property
    def wrong(self) -> list[tuple[str, str]]:
        """File and what in it is no value."""
        return [
            (f"{f.name}, {t.sheet.name}" if len(f.tables) > 1 else f.name, text)
            for f in self.found
            for t in f.tables
            if (made := (f.made or {}).get(t.id))
            for text in made.wrong
        ]


def understand_files(
    database: Database,
    files: Files,
    settled: Settled,
    *,
    today: date,
    progress: Progress = unwatched,
) -> Understood:
    """Files of the product's own pass as they are. progress: raising from it ends the reading.
    Raises TooLarge, NotFound (a profile)."""
    size = sum(len(raw) for _, raw in files)
    if size > MAX_UPLOAD:
        raise TooLarge(
            "the upload is too large",
            field="file",
            value=size,
            rule=f"at most {MAX_UPLOAD // 2**20} MB",
        )
    own = [(name, raw) for name, raw in files if is_own(name, raw)]
    others = [(name, raw) for name, raw in files if not is_own(name, raw)]
    if not others:
        return Understood(found=(), upload=uploaded(files))
    answers = dict(settled.answers)
    if settled.profile:
        answers["profile"] = settled.profile
    around = replace(_around(database, settled, today), progress=progress)
    found = read_found(others, around, answers)
    understood = Understood(found=found)
    if understood.waiting or understood.wrong:
        return understood
    made = made_tables(found, settled.payers)
    if not made and not own:
        return understood
    upload = Upload(
        name=file_name_of(files),
        sha256=fingerprint(files),
        files=own,
        made=made,
        settled=profile_tables(found),
    )
    return Understood(found=found, upload=upload)


def _around(database: Database, settled: Settled, today: date) -> Around:
    with database.read() as connection:
        profiles = profiles_of(connection)
    if settled.profile and settled.profile not in {p.name for p in profiles}:
        raise NotFound(
            "there is no such import profile",
            field="profile",
            value=settled.profile,
            rule=", ".join(p.name for p in profiles) or "none is kept yet",
        )
    payers = [
        Known(
            p["exchange"],
            p["symbol"],
            p["name"],
            p["currency"],
            int(p.get("fiscal_year_end_month") or 12),
        )
        for p in settled.payers
    ]

    def paid_years(key: str) -> frozenset[int]:
        exchange, _, symbol = key.partition("/")
        with database.read() as connection:
            return facts.paid_years(connection, exchange, symbol)

    def reports_in(key: str) -> str | None:
        exchange, _, symbol = key.partition("/")
        with database.read() as connection:
            return facts.reports_in(connection, exchange, symbol)

    known = Payers([*known_payers(database).known, *payers], reports_in)
    return Around(
        payers=known,
        accounts=known_accounts(database, today),
        profiles=profiles,
        paid_years=paid_years,
    )


def known_accounts(database: Database, today: date) -> Accounts:
    """The accounts that stand, with what was held in them at first."""
    with database.read() as connection:
        stands, home = ledger.accounts(connection), ledger.home(connection)
        used = ledger.used_accounts(connection)
        openings = ledger.openings(connection)
    known = [
        KnownAccount(account=a, empty=a.id not in used, openings=frozenset(openings.get(a.id, ())))
        for a in stands
        if a.closed_on is None
    ]

    @cache
    def paid(key: PayerKey) -> Sequence[tuple[date, float]]:
        with database.read() as connection:
            return facts.paid_each(connection, *key)

    return Accounts(today=today, known=known, home=home, paid=paid)


def known_payers(database: Database, only: str = "") -> Payers:
    """The payers that are stored. only: one of them, by EXCHANGE/SYMBOL."""
    with database.read() as connection:
        known = [Known(*row) for row in facts.named_payers(connection)]
    return Payers([p for p in known if only in ("", p.key)])


def is_own(name: str, raw: bytes) -> bool:
    """A Data Package, or a CSV most of whose columns are those of one of the product's tables."""
    if raw[:2] == b"PK":
        try:
            return "datapackage.json" in opened(name, raw).namelist()
        except (zipfile.BadZipFile, OSError, ValueError):
            return name.lower().endswith(".zip")
    line = raw[:20_000].decode("utf-8-sig", "replace").split("\n", 1)[0]
    parted = max(",;\t|", key=line.count)
    try:
        header = {h.strip().lower() for h in next(csv.reader([line], delimiter=parted), [])}
    except csv.Error:
        return False
    format = recognise("", frozenset(header)) or FORMATS.get(name.rsplit(".", 1)[0].lower())
    ours = len(header & set(format.by_name)) if format else 0
    return ours >= max(2, OURS * len(header))
