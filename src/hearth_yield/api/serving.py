"""The application as a factory, for servers that reload."""

from fastapi import FastAPI

from hearth_yield.feed.http_feed import HttpFeed
from hearth_yield.settings import Settings
from hearth_yield.store.database import Database

from .app import create_app


def feed_of(settings: Settings) -> HttpFeed | None:
    """The feed that the settings name."""
    return HttpFeed(settings.feed, settings.feed_token) if settings.feed else None


def reloading() -> FastAPI:
    """An application on the settings' database."""
    database = Database(Settings().database_path)
    database.migrate()
    return create_app(database, feed=feed_of(Settings()))
