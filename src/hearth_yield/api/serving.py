"""The application as a factory, for servers that reload."""

from fastapi import FastAPI

from hearth_yield.settings import Settings
from hearth_yield.store.database import Database

from .app import create_app


def reloading() -> FastAPI:
    """An application on the settings' database."""
    database = Database(Settings().database_path)
    database.migrate()
    return create_app(database)
