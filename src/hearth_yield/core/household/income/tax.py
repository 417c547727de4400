"""What tax leaves of a dividend: withheld by the payer's country, then tax at home.

(docs/method.md, Household)"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field


@dataclass(frozen=True, slots=True, kw_only=True)
class TaxRules:
    """withheld: by country, as a fraction; none where it is not among them. home: on the gross.
    credited: the part of what was withheld that is taken off the tax at home."""

    withheld: Mapping[str, float] = field(default_factory=dict)
    home: float = 0.0
    credited: float = 1.0

    @property
    def takes(self) -> bool:
        """Whether any of it takes anything."""
        return self.home > 0 or any(rate > 0 for rate in self.withheld.values())

    def withheld_by(self, country: str | None) -> float:
        return self.withheld.get(country or "", 0.0)

    def at_home(self, withheld: float, sheltered: bool) -> float:
        """Tax at home as a part of the gross, of which a part was withheld already."""
        return 0.0 if sheltered else max(0.0, self.home - self.credited * withheld)

    def kept(self, country: str | None, sheltered: bool) -> float:
        """The part of a gross dividend that is left.

        15 % and 25 % at home: 75 % with credit, 60 % without; 30 % and 25 % with credit: 70 %.
        """
        withheld = self.withheld_by(country)
        return 1.0 - withheld - self.at_home(withheld, sheltered)
