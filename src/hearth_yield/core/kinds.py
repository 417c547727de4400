"""The kinds of payer there are; each is judged by what pays for its dividend."""

from __future__ import annotations

from enum import StrEnum


class Kind(StrEnum):
    COMPANY = "company"
    PROPERTY_TRUST = "property_trust"
    PARTNERSHIP = "partnership"
    FINANCIAL = "financial"

    @property
    def words(self) -> str:
        return self.value.replace("_", " ")

    @property
    def plural(self) -> str:
        return f"{self.words[:-1]}ies" if self.words.endswith("y") else f"{self.words}s"
