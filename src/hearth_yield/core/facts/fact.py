"""What every record of a fact says of itself."""

from __future__ import annotations

from abc import abstractmethod
from datetime import date


class Fact:
    """A base without fields of its own, for records of either make."""

    __slots__ = ()

    @property
    @abstractmethod
    def known_on(self) -> date:
        """The day from which it counts."""

    @property
    @abstractmethod
    def called(self) -> str:
        """What it is, in words."""

    @property
    def placed_on(self) -> date:
        """The day it stands on: an ex-date, the end of a period."""
        return self.known_on

    @property
    def sort(self) -> str:
        """What tells it from others of its day."""
        return ""


class Published(Fact):
    """Known from the day it was published."""

    __slots__ = ()
    published_on: date

    @property
    def known_on(self) -> date:
        return self.published_on


class Forecast(Published):
    """Of a measure of a fiscal year."""

    __slots__ = ()
    fiscal_year: int
    measure: str

    @property
    def called(self) -> str:
        return f"{self.measure.upper()} of fiscal {self.fiscal_year}, of {self.published_on}"

    @property
    def sort(self) -> str:
        return self.measure
