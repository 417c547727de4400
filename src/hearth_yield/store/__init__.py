"""SQLite through SQLAlchemy: tables, migrations and one module of queries per aggregate."""
