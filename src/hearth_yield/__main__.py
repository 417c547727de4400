"""The command line as a module: `python -m hearth_yield`."""

from .cli import app

app()
