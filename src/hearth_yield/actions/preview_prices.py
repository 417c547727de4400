"""What changed house rules would do to what payers are worth, before they are saved."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from hearth_yield.collector import at_rest
from hearth_yield.core.errors import Uncomputable
from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import Payer
from hearth_yield.core.finding.price_effects import Priced, PriceEffect, price_effect, priced
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.review import Review, build_review, computing, rejudge
from hearth_yield.faults_log import note_if_ours
from hearth_yield.store import payer_files
from hearth_yield.store.database import Edition

from .review_cache import ReviewCache
from .set_house_rules import check_house_rules

MAX_PAYERS = 200
"""Held ready at once, that a typed rule answers in an instant: 50 MB for sixty payers."""


@dataclass(frozen=True, slots=True)
class HeldReviews:
    """Payers listed on the day, each with its cut file."""

    pairs: Sequence[tuple[PayerFile, Review]]


def preview_prices(
    cache: ReviewCache, as_of: date, at: Edition, standing: HouseRules, rules: HouseRules
) -> PriceEffect | None:
    """None where more payers are held than are kept ready. Raises InvalidInput for rules that
    cannot be."""
    check_house_rules(rules)

    def load() -> HeldReviews:
        with cache.database.read() as connection:
            keys, shared, found = payer_files.keys(connection), payer_files.Shared(), []
            if len(keys) > MAX_PAYERS:
                return HeldReviews(())
            for exchange, symbol in keys:
                whole = payer_files.load(connection, exchange, symbol, shared)
                try:
                    with computing(whole.payer), at_rest():
                        file = whole.cut(as_of)
                        if _listed(file.payer, as_of):
                            found.append((file, build_review(file, standing)))
                except Uncomputable as error:
                    note_if_ours(error)
                    continue
        return HeldReviews(found)

    held = cache.held_reviews.get((at.facts, as_of), load)
    if not held.pairs:
        return None

    def under(asked: HouseRules) -> Sequence[Priced]:
        return [priced(rejudge(review, file, asked)) for file, review in held.pairs]

    before = cache.held_reviews.get((at.judged, as_of), lambda: under(standing))
    return price_effect(before, under(rules))


def _listed(payer: Payer, as_of: date) -> bool:
    begun = payer.listed_on is None or payer.listed_on <= as_of
    return begun and payer.delisted_on is None
