"""The command line: serve, demo, market, feed, import, export, undo, backup, restore, schema."""

from __future__ import annotations

import json
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, date, datetime
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer
from pydantic import ValidationError
from sqlalchemy.exc import DatabaseError

from . import faults_log
from .core.errors import HearthError
from .settings import Settings
from .store.database import Database, edition_and_pinned, trouble_of

if TYPE_CHECKING:
    from .actions.read_found import Understood

app = typer.Typer(no_args_is_help=True, add_completion=False, help=__doc__)


@app.callback()
def _first(
    verbose: Annotated[
        bool, typer.Option(help="Tell faults of the program whole, with what they were about.")
    ] = False,
) -> None:
    faults_log.tell(verbose=verbose)


@contextmanager
def _in_words() -> Iterator[None]:
    """A refusal, or trouble with the database file, ends the command in a sentence."""
    try:
        yield
    except HearthError as error:
        rule = f" (expected: {error.rule})" if error.rule else ""
        typer.echo(f"{error.message}{rule}", err=True)
        raise typer.Exit(1) from None
    except DatabaseError as error:
        typer.echo(trouble_of(error)[1], err=True)
        raise typer.Exit(1) from None
    except OSError as error:
        typer.echo(f"{error.filename or 'the file'}: {error.strerror}; nothing was kept", err=True)
        raise typer.Exit(1) from None
    except (typer.Exit, typer.Abort, typer.BadParameter):
        raise
    except Exception as error:
        faults_log.note("a command", error)
        typer.echo("this is a fault of Hearth Yield; nothing was changed", err=True)
        raise typer.Exit(1) from None


def _settings() -> Settings:
    try:
        return Settings()
    except ValidationError as error:
        for e in error.errors():
            name = f"HEARTH_{'_'.join(str(p) for p in e['loc']).upper()}"
            typer.echo(f"{name} cannot be {e['input']!r}: {e['msg'].lower()}", err=True)
        raise typer.Exit(1) from None


def _open(settings: Settings) -> Database:
    with _in_words():
        database = Database(settings.database_path)
        faults_log.keep_in(settings.data)
        database.migrate()
    return database


def _now() -> str:
    return datetime.now(UTC).isoformat(timespec="seconds")


def _today(database: Database) -> date:
    """The day the product stands on: pinned where a demo holds it."""
    with database.read() as connection:
        return edition_and_pinned(connection)[1] or datetime.now().astimezone().date()


def _serve(settings: Settings, database: Database) -> None:
    import uvicorn

    from .actions.back_up import clear_unfinished
    from .api.app import create_app
    from .api.serving import feed_of

    clear_unfinished(database.path.parent)
    typer.echo(f"Hearth Yield is at http://127.0.0.1:{settings.port}")
    app = create_app(database, feed=feed_of(settings))
    uvicorn.run(app, host="127.0.0.1", port=settings.port, log_level="warning")


@app.command()
def serve() -> None:
    """Serve the product with the data that is there."""
    settings = _settings()
    _serve(settings, _open(settings))


@app.command()
def demo(
    only_fill: Annotated[bool, typer.Option(help="Create the data and stop.")] = False,
    payers: Annotated[
        int | None, typer.Option(min=1, max=100_000, help="A world of this size, for measuring.")
    ] = None,
) -> None:
    """Serve the product with the made-up Sundrey Isles; what you did before is kept."""
    from .actions.fill_demo import fill_demo

    settings = _settings()
    database = _open(settings)
    with _in_words():
        filled = fill_demo(database, payers)
    if filled:
        typer.echo(f"Demo data created in {settings.data}")
    if only_fill:
        return
    if settings.feed:
        _serve(settings, database)
    else:
        with _market_beside() as address:
            _serve(settings.model_copy(update={"feed": address}), database)


@contextmanager
def _market_beside() -> Iterator[str]:
    """The simulated market as a process of its own, on a free port. Returns its address."""
    import socket
    import subprocess
    import sys

    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    command = [sys.executable, "-m", "hearth_yield", "market", "--port", str(port)]
    process = subprocess.Popen(command)  # noqa: S603 - our own command
    try:
        yield f"http://127.0.0.1:{port}"
    finally:
        process.terminate()
        process.wait()


@app.command()
def market(
    port: Annotated[int, typer.Option(min=1, max=65535)] = 8010,
    slow: Annotated[float, typer.Option(min=0, max=60, help="Seconds before each answer.")] = 0.0,
    fail: Annotated[int, typer.Option(min=0, help="So many answers fail at first.")] = 0,
) -> None:
    """Serve the simulated market alone: what the made-up world publishes, day by day."""
    import uvicorn

    from .market.service import FaultsIn, create_market

    typer.echo(f"The market is at http://127.0.0.1:{port}")
    app = create_market(faults=FaultsIn(slow=slow, fail=fail))
    uvicorn.run(app, host="127.0.0.1", port=port, log_level="warning")


@app.command()
def feed(
    until: Annotated[
        datetime | None, typer.Option(formats=["%Y-%m-%d"], help="A day; else today.")
    ] = None,
) -> None:
    """Bring in what the feed of HEARTH_FEED has published; in a demo the day moves on with it."""
    from .actions.pull_feed import pull_feed
    from .api.serving import feed_of

    settings = _settings()
    asked = feed_of(settings)
    if asked is None:
        typer.echo("HEARTH_FEED names no feed", err=True)
        raise typer.Exit(1)
    database = _open(settings)
    with _in_words():
        day = until.date() if until else _today(database)
        source = pull_feed(database, asked, until=day, at=_now())
    typer.echo(f"kept as source {source}" if source else "nothing new")


@app.command("import")
def import_(
    files: Annotated[list[Path], typer.Argument(exists=True, dir_okay=False)],
    accept_warnings: Annotated[
        bool, typer.Option(help="Keep it although it warns; the warnings are remembered.")
    ] = False,
    answer: Annotated[
        list[str] | None, typer.Option(help="ID=VALUE, of what a file does not say itself.")
    ] = None,
    profile: Annotated[
        str | None, typer.Option(help="The import profile to read them by; else by their headings.")
    ] = None,
    keep_as: Annotated[
        str | None, typer.Option(help="Keep how they were read as an import profile.")
    ] = None,
) -> None:
    """Import spreadsheets, pages, CSV files or Data Packages: all of them or nothing."""
    from .actions.import_files import ALL, import_files, plan_import
    from .actions.read_found import Settled, understand_files

    database = _open(_settings())
    with _in_words():
        dropped = [(f.name, f.read_bytes()) for f in files]
        told = dict(pair.split("=", 1) for pair in answer or () if "=" in pair)
        settled = Settled(answers=told, profile=profile)
        today = _today(database)
        understood = understand_files(database, dropped, settled, today=today)
        _say_understood(understood)
        if understood.upload is None:
            typer.echo("nothing was kept; settle what is asked with --answer ID=VALUE", err=True)
            raise typer.Exit(1)
        upload = understood.upload
        found, planned = plan_import(database, upload, today=today)
        for fault in found.faults:
            mark = "warning" if fault.warning else "fault"
            place = ":".join(str(p) for p in (fault.file, fault.line, fault.column) if p)
            value = "" if fault.value is None else f" has “{fault.value}”;"
            typer.echo(f"{mark} {place}{value} expected {fault.expected}", err=True)
        if found.refused:
            typer.echo(f"{found.file_name} has faults; nothing was kept", err=True)
            raise typer.Exit(1)
        for table, c in found.tables.items():
            typer.echo(f"{table}: {c.added} added, {c.changed} changed, {c.same} the same")
        accepted = ALL if accept_warnings else ()
        source = import_files(
            database,
            upload,
            at=_now(),
            accepted=accepted,
            today=today,
            planned=planned,
            profile=keep_as,
        )
        typer.echo(f"kept as source {source}")


def _say_understood(understood: Understood) -> None:
    """What files as people have them are taken for, and what they still have to say."""
    for n, file in enumerate(understood.found):
        if file.unreadable:
            typer.echo(f"{file.name}: {file.unreadable}", err=True)
        for text in file.left_out:
            typer.echo(f"{file.name}: left out {text}")
        for table in file.tables:
            whose = f" of {table.payer}" if table.payer else ""
            typer.echo(f"{file.name}, {table.sheet.name}: {table.kind}{whose}")
            made = (file.made or {}).get(table.id)
            for text in (*made.notes, *made.left_out) if made else ():
                typer.echo(f"  {text}")
            if table.profile:
                typer.echo(f"  read by the profile “{table.profile}”")
            for q in table.questions:
                among = ", ".join(value for value, _ in q.options)
                typer.echo(f"  {n}.{q.id}: {q.asks} {f'({among})' if among else ''}", err=True)
    for file_name, text in understood.wrong:
        typer.echo(f"{file_name}: {text}", err=True)


@app.command()
def export(
    to: Path,
    payer: Annotated[
        list[str] | None, typer.Option(help="EXCHANGE/SYMBOL; once for each payer, else all")
    ] = None,
) -> None:
    """Write the facts held, or those of some payers, as a Data Package zip."""
    from .actions.export_facts import export_facts, read_keys
    from .actions.whole_file import write_whole

    with _in_words():
        raw = export_facts(_open(_settings()), read_keys(payer or ()), name=to.stem)
        write_whole(to, raw)
    typer.echo(f"{to} holds {len(raw):,} bytes")


@app.command()
def backup(to: Path) -> None:
    """Write everything there is, facts and decisions, as one JSON file."""
    from .actions.back_up import back_up
    from .actions.whole_file import write_whole

    with _in_words():
        write_whole(to, back_up(_open(_settings()), at=_now()))
    typer.echo(f"{to} holds everything")


@app.command()
def restore(file: Annotated[Path, typer.Argument(exists=True, dir_okay=False)]) -> None:
    """Replace everything by a backup; what is there now is kept in a file first."""
    from .actions.back_up import restore as bring_back

    with _in_words():
        done = bring_back(_open(_settings()), file.read_bytes(), at=_now())
    typer.echo(f"restored; the state before is in {done.kept}")
    for told in done.to_tell:
        typer.echo(told, err=True)


@app.command()
def undo(source: int) -> None:
    """Take back an import by its source number."""
    from .actions.import_files import undo_import

    with _in_words():
        undo_import(_open(_settings()), source, at=_now())
    typer.echo(f"source {source} is undone")


@app.command()
def schema(
    to: Path,
    feed: Annotated[bool, typer.Option(help="That of a feed, in place of ours.")] = False,
    question: Annotated[bool, typer.Option(help="The parts of a question, in its place.")] = False,
) -> None:
    """Write the API's OpenAPI schema, from which the page's types are made."""
    from tempfile import TemporaryDirectory

    from .api.app import create_app
    from .core.question import NAMES
    from .market.service import create_market

    with TemporaryDirectory() as folder:
        ours = create_app(Database(Path(folder) / "empty.sqlite"))
        found = (create_market() if feed else ours).openapi()
    if question:
        found = {name: of.value for name, (of, _) in NAMES.items()}
    to.write_text(json.dumps(found, indent=2 if question else 1, sort_keys=True) + "\n")
