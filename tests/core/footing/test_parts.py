"""Parts: shares by segment, region and tenant, what was known when, how concentrated they are."""

from datetime import date

import pytest

from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import Exposure
from hearth_yield.core.footing.parts import Split, splits_of
from tests.core.build import TODAY, payer


def exposure(
    year: int, name: str, share: float, published: date, basis: str = "segment"
) -> Exposure:
    return Exposure(
        fiscal_year=year, basis=basis, name=name, share=share, published_on=published, source=1
    )


EARLY, LATE = date(2025, 3, 1), date(2026, 3, 1)
HELD = (
    exposure(2025, "Ropes", 0.5, LATE),
    exposure(2025, "Sails", 0.3, LATE),
    exposure(2025, "Tar", 0.2, LATE),
    exposure(2024, "Ropes", 0.6, EARLY),
    exposure(2024, "Oakum", 0.4, EARLY),
    exposure(2024, "Ropes", 0.55, LATE),
    exposure(2025, "The harbour", 0.9, LATE, "tenant"),
)


def splits(day: date, held: tuple[Exposure, ...] = HELD) -> tuple[Split, ...]:
    return splits_of(PayerFile(payer=payer(), exposures=held).cut(day))


def test_the_largest_first_with_its_change_and_the_restated_year() -> None:
    segments, tenants = splits(TODAY)
    assert [p.name for p in segments.parts] == ["Ropes", "Sails", "Tar", "Oakum"]
    ropes, *_, oakum = segments.parts
    assert ropes.years[2024].value == 0.55
    assert ropes.change.value == pytest.approx(-0.05)
    assert (oakum.newest.value, oakum.newest.reason) == (None, "not named for fiscal 2025")
    assert tenants.largest.value == 0.9
    assert tenants.parts[0].change.reason == "one year on record"


def test_equal_parts_are_one_over_the_sum_of_squares() -> None:
    """1 / (0.25 + 0.09 + 0.04) = 2.6316; of one part alone, one."""
    segments, tenants = splits(TODAY)
    assert segments.equal_parts.value == pytest.approx(2.631579, rel=1e-6)
    assert tenants.equal_parts.value == pytest.approx(1.0)


def test_only_what_was_known_by_then_in_whatever_order_it_is_held() -> None:
    (then,) = splits(date(2025, 12, 31))
    assert [(p.name, p.newest.value) for p in then.parts] == [("Ropes", 0.6), ("Oakum", 0.4)]
    turned = splits(TODAY, HELD[::-1])
    assert [p.name for p in turned[0].parts] == ["Ropes", "Sails", "Tar", "Oakum"]
    assert splits(date(2024, 1, 1)) == ()


@pytest.mark.parametrize("rest", ["All others", "other tenants", "Rest", "The remaining ones"])
def test_what_a_split_does_not_name_is_no_part(rest: str) -> None:
    """One tenant of 27 %, the rest in many hands: it leans on 27 %, as on 1 ÷ 0.27² equal ones."""
    held = (
        exposure(2025, rest, 0.73, LATE, "tenant"),
        exposure(2025, "Mill", 0.27, LATE, "tenant"),
    )
    (tenants,) = splits(TODAY, held)
    assert [p.name for p in tenants.parts] == ["Mill", rest]
    assert tenants.largest.value == 0.27
    assert tenants.equal_parts.value == pytest.approx(1 / 0.27**2)
    (alone,) = splits(TODAY, held[:1])
    assert alone.largest.value is None
    assert alone.equal_parts.reason == "only the remainder is on record"


def test_a_name_that_only_begins_alike_is_a_part() -> None:
    held = (exposure(2025, "Rest Homes", 0.6, LATE), exposure(2025, "Otherton Mills", 0.4, LATE))
    (segments,) = splits(TODAY, held)
    assert segments.largest.value == 0.6
