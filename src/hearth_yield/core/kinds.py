"""The kinds of payer there are; each is judged by what pays for its dividend."""

from __future__ import annotations

from enum import StrEnum


class Kind(StrEnum):
    """other: what is owned and not reviewed, such as a fund or a bond; no fiscal year is asked of
    it, and it is not judged."""

    COMPANY = "company"
    PROPERTY_TRUST = "property_trust"
    PARTNERSHIP = "partnership"
    FINANCIAL = "financial"
    OTHER = "other"

    @property
    def is_judged(self) -> bool:
        return self is not Kind.OTHER

    @property
    def words(self) -> str:
        return "fund, bond or other" if self is Kind.OTHER else self.value.replace("_", " ")

    @property
    def plural(self) -> str:
        if self is Kind.OTHER:
            return "funds, bonds and others"
        return f"{self.words[:-1]}ies" if self.words.endswith("y") else f"{self.words}s"


JUDGED = tuple(k for k in Kind if k.is_judged)
