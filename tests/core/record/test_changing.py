"""A rhythm that changes, read as each day would have read it: spacing decides, size only asks."""

from dataclasses import dataclass
from datetime import date, timedelta

import pytest

from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import Dividend
from hearth_yield.core.record.declared_rate import rate_steps, read_on
from hearth_yield.core.record.history import Outcome, Record, build_record
from tests.core.build import notice, payer

START = date(2018, 3, 12)
FAR = date(2026, 1, 1)


def after(months: int) -> date:
    """So many months after the first payment."""
    year, month = divmod(START.month - 1 + months, 12)
    return START.replace(year=START.year + year, month=month + 1)


@dataclass
class Story:
    """Payments by month; each is declared on the day it goes ex."""

    paid: list[tuple[int, float]]
    stated: dict[int, int] | None = None

    @property
    def file(self) -> PayerFile:
        days = [(after(m), amount, (self.stated or {}).get(m)) for m, amount in self.paid]
        return PayerFile(
            payer=payer(),
            dividends=tuple(
                Dividend(
                    ex_date=d, amount=amount, currency="TLL", declared_on=d, payments_per_year=f
                )
                for d, amount, f in days
            ),
        )

    def rate(self, months: int, days: int = 0) -> float | None:
        """The declared rate so long after the first payment."""
        day = after(months) + timedelta(days=days)
        return read_on(self.file.cut(day), day).rate

    def why(self, months: int) -> str:
        day = after(months)
        return read_on(self.file.cut(day), day).reason or ""

    def record(self, months: int = 0, day: date | None = None) -> Record:
        return build_record(self.file.cut(day or after(months)))

    def outcomes(self, last: int) -> list[str]:
        record = self.record(day=FAR)
        return [o.value for _, o in record.compared[-last:]]


def every(step: int, count: int, amount: float, start: int = 0) -> list[tuple[int, float]]:
    return [(start + step * n, amount) for n in range(count)]


QUARTERLY = every(3, 12, 0.57)  # months 0 to 33
HALF_YEARLY = every(6, 6, 1.0)  # months 0 to 30
YEARLY = every(12, 4, 2.0)  # months 0 to 36
MONTHLY = every(1, 36, 0.19)  # months 0 to 35


@pytest.mark.parametrize(("amount", "change"), [(1.23, 0.0789), (0.80, -0.2982), (1.65, 0.4474)])
def test_from_four_to_two_in_the_old_slot(amount: float, change: float) -> None:
    """Open until the next quarter's slot has passed; then twice a year, compared a year at a
    time, and the next the same is held."""
    story = Story([*QUARTERLY, (36, amount), (42, amount), (48, amount)])
    assert story.rate(33) == pytest.approx(2.28)
    assert story.rate(36) is None
    assert f"{amount * 2:.2f} twice" in story.why(36)
    assert f"{amount * 4:.2f} four times a year" in story.why(36)
    assert story.rate(39, 40) is None, "until 45 days after the next quarter"
    assert story.rate(39, 50) == pytest.approx(2 * amount)
    assert story.rate(42) == pytest.approx(2 * amount)
    first = "raised" if change > 0 else "cut"
    assert story.outcomes(3) == [first, "held", "held"]
    if change > 0:
        assert story.record(48).latest_raise.value == pytest.approx(change, abs=1e-4)
    assert story.record(48).last_cut == (None if change > 0 else after(36))


@pytest.mark.parametrize("amount", [1.23, 0.80, 1.65])
def test_from_four_to_two_half_a_year_after_the_last(amount: float) -> None:
    story = Story([*QUARTERLY, (39, amount), (45, amount)])
    assert story.rate(39) == pytest.approx(2 * amount)
    assert story.outcomes(2) == ["cut" if amount < 1.14 else "raised", "held"]


def test_from_four_to_one_in_the_slot_and_a_year_later() -> None:
    in_slot = Story([*QUARTERLY, (36, 2.40), (48, 2.40)])
    assert in_slot.rate(36) is None
    assert in_slot.rate(40, 20) == pytest.approx(2.40)
    assert in_slot.rate(48) == pytest.approx(2.40)
    assert in_slot.outcomes(2) == ["raised", "held"]
    later = Story([*QUARTERLY, (45, 2.40), (57, 2.40)])
    assert later.rate(45) == pytest.approx(2.40)
    assert later.outcomes(2) == ["raised", "held"]


def test_of_two_slower_rhythms_the_slower_counts_once_the_faster_ones_slot_has_passed() -> None:
    """Three times as much: twice a year (3.42) or once (1.71)."""
    story = Story([*QUARTERLY, (36, 1.71), (48, 1.71)])
    assert "1.71 once, 3.42 twice, 6.84 four times a year" in story.why(36)
    assert story.rate(40, 20) == pytest.approx(3.42)
    assert story.rate(43, 10) == pytest.approx(3.42)
    assert story.rate(43, 20) == pytest.approx(1.71)
    assert story.rate(48) == pytest.approx(1.71)


def test_from_twelve_to_four_and_to_one() -> None:
    in_slot = Story([*MONTHLY, (36, 0.60), (39, 0.60), (42, 0.60)])
    assert in_slot.rate(36) is None
    assert in_slot.rate(38) == pytest.approx(2.40)
    assert in_slot.outcomes(3) == ["raised", "held", "held"]
    later = Story([*MONTHLY, (38, 0.60), (41, 0.60)])
    assert later.rate(38) == pytest.approx(2.40)
    assert later.outcomes(2) == ["raised", "held"]
    once = Story([*MONTHLY, (36, 2.28), (48, 2.28)])
    assert once.rate(36) is None
    assert once.rate(38) == pytest.approx(2.28)
    assert once.outcomes(2) == ["held", "held"]


def test_from_two_to_one() -> None:
    story = Story([*HALF_YEARLY, (36, 2.10), (48, 2.10)])
    assert story.rate(36) is None
    assert story.rate(44) == pytest.approx(2.10)
    assert story.outcomes(2) == ["raised", "held"]


@pytest.mark.parametrize(
    ("before", "first", "step", "amount", "year"),
    [
        (HALF_YEARLY, 33, 3, 0.51, 2.04),
        (YEARLY, 39, 3, 0.51, 2.04),
        (YEARLY, 42, 6, 1.02, 2.04),
        (QUARTERLY, 34, 1, 0.20, 2.40),
    ],
)
def test_a_faster_rhythm_that_begins_early(
    before: list[tuple[int, float]], first: int, step: int, amount: float, year: float
) -> None:
    """Off its slot, within another's, and a year at it comes to the same: at once."""
    story = Story([*before, *every(step, 6, amount, first)])
    assert story.rate(first + step) == pytest.approx(year)
    assert "cut" not in story.outcomes(6)
    if (before, step) != (YEARLY, 6):
        assert story.rate(first) == pytest.approx(year)


@pytest.mark.parametrize(
    ("before", "first", "step", "amount"),
    [(HALF_YEARLY, 36, 3, 0.51), (YEARLY, 48, 6, 1.02), (YEARLY, 48, 3, 0.51)],
)
def test_a_faster_rhythm_that_begins_in_the_slot_reads_low_until_it_is_seen(
    before: list[tuple[int, float]], first: int, step: int, amount: float
) -> None:
    story = Story([*before, *every(step, 4, amount, first)])
    per_year = 12 // len([m for m, _ in before if m < 12]) if before is not YEARLY else 12
    low = amount * 12 / per_year
    assert story.rate(first) == pytest.approx(low)
    assert story.record(first).last_cut == after(first)
    notes = story.record(first).declared_rate.notes
    often = {3: "four times", 6: "twice"}[step]
    assert any(f"a cut, unless it pays {often} a year from now on" in n for n in notes)
    settled = story.record(first + step)
    assert settled.declared_rate.value == pytest.approx(amount * 12 / step)
    assert settled.last_cut is None, "taken back"


@pytest.mark.parametrize("before", [HALF_YEARLY, YEARLY])
def test_a_real_halving_is_a_cut_at_once_and_stays_one(before: list[tuple[int, float]]) -> None:
    gap = before[1][0] - before[0][0]
    first, amount = before[-1][0] + gap, before[-1][1] / 2
    story = Story([*before, *every(gap, 3, amount, first)])
    for months in (first, first + gap, first + 2 * gap):
        assert story.rate(months) == pytest.approx(amount * 12 / gap)
    assert story.outcomes(3) == ["cut", "held", "held"]
    later = story.record(first + 2 * gap)
    assert not any("unless" in n for n in later.declared_rate.notes)


@pytest.mark.parametrize("before", [QUARTERLY, HALF_YEARLY])
def test_a_real_raise_of_sixty_percent_stands_from_its_day(before: list[tuple[int, float]]) -> None:
    gap = before[1][0] - before[0][0]
    first, amount = before[-1][0] + gap, before[-1][1] * 1.6
    story = Story([*before, *every(gap, 3, amount, first)])
    assert story.rate(first) is None
    assert story.rate(first + gap) == pytest.approx(amount * 12 / gap)
    assert story.outcomes(3) == ["raised", "held", "held"]
    raised = story.record(first + gap).latest_raise
    assert raised.value == pytest.approx(0.6)
    assert raised.known_on == after(first)


def test_a_special_inside_a_regular_payment_is_no_raise_and_no_cut_and_is_asked_about() -> None:
    story = Story([*QUARTERLY, (36, 1.30), (39, 0.60), (42, 0.60)])
    assert story.rate(36) is None
    assert story.rate(39) == pytest.approx(2.40)
    assert story.outcomes(3) == ["held", "raised", "held"]
    record = story.record(42)
    assert record.latest_raise.value == pytest.approx(0.60 / 0.57 - 1)
    assert any("was one of a kind" in n for n in record.declared_rate.notes)
    assert record.last_cut is None


def test_what_is_stated_is_taken_at_once() -> None:
    story = Story([*QUARTERLY, (36, 1.23), (42, 1.23)], stated={36: 2, 42: 2})
    assert story.rate(36) == pytest.approx(2.46)
    assert story.outcomes(2) == ["raised", "held"]


def test_there_and_back_again() -> None:
    story = Story([*QUARTERLY, *every(6, 5, 1.23, 36), *every(3, 6, 0.62, 63)])
    assert story.rate(60) == pytest.approx(2.46)
    assert [story.rate(m) for m in (63, 66, 75)] == pytest.approx([2.48] * 3)
    assert "cut" not in story.outcomes(11)


def test_a_year_of_two_rhythms_that_holds_more_than_a_year_is_neither_base_nor_end() -> None:
    """Three quarters and, in December, half a year: 1.25 years in one."""
    story = Story([*QUARTERLY[:12], (33 + 3, 1.23), (42, 1.23), (48, 1.23), (54, 1.23)])
    years = {y.year: y for y in story.record(day=FAR).years}
    assert not years[2018].part
    over = Story([*every(3, 11, 0.57), (33, 1.23), (39, 1.23), (45, 1.23), (51, 1.23)])
    found = {y.year: y for y in over.record(day=FAR).years}
    assert not found[2020].full
    assert "more than a year" in found[2020].why_not_full
    assert found[2021].full


def test_a_payment_far_off_its_slot_that_fits_nothing_waits_for_the_next() -> None:
    """Five months after the last of a quarterly payer, at the same amount: late, or slower?"""
    late = Story([*QUARTERLY, (38, 0.57), (41, 0.57)])
    assert late.rate(38) is None
    assert "rhythm changing" in late.why(38)
    assert late.rate(41) == pytest.approx(2.28)
    assert late.outcomes(2) == ["held", "held"]


def test_a_slower_payer_with_a_cut_of_a_third_reads_as_a_raise_until_it_lapses() -> None:
    """The limit that the method names: 4 × 0.57 then 0.70 once in half a year."""
    story = Story([*QUARTERLY, (36, 0.70)])
    assert story.rate(36) == pytest.approx(2.80)
    assert story.rate(42) is None


def test_one_year_to_interim_and_final_is_read_as_uneven() -> None:
    """2.00 once; then 0.70 and 1.30: the sum of both, not twice the newest."""
    story = Story([*YEARLY, (48, 0.70), (54, 1.30), (60, 0.72), (66, 1.34)])
    assert story.rate(54) == pytest.approx(2.00)
    assert story.rate(66) == pytest.approx(2.06)


def test_an_uneven_payer_after_a_silent_gap_is_compared_with_its_own_slot() -> None:
    pairs = [x for n in range(4) for x in ((12 * n, 0.20 + n / 100), (12 * n + 6, 0.40 + n / 50))]
    story = Story([*pairs, (60, 0.24), (66, 0.48)])
    assert story.outcomes(2)[0] == "held", "no slot a year before it"
    assert "raised" not in story.outcomes(2)[:1]


def test_a_resumed_payer_that_was_level_before_is_level() -> None:
    before = Story([*every(6, 6, 1.0), *every(6, 4, 0.5, 48)])
    file = before.file
    halted = PayerFile(payer=file.payer, dividends=file.dividends, notices=(notice(after(33)),))
    day = after(66)
    reading = read_on(halted.cut(day), day)
    assert reading.rate == pytest.approx(1.0)
    assert not reading.uneven


@pytest.mark.parametrize(
    "story",
    [
        Story([*QUARTERLY, (36, 1.23), (42, 1.23)]),
        Story([*QUARTERLY, (36, 1.71), (48, 1.71)]),
        Story([*HALF_YEARLY, (36, 0.5), (39, 0.5)]),
        Story([*MONTHLY, (36, 2.28)]),
        Story([*QUARTERLY, (38, 0.57), (41, 0.57)]),
    ],
)
def test_the_steps_say_every_day_what_that_day_reads(story: Story) -> None:
    """Also on the days on which nothing happens but that a slot has passed."""
    days, rates = rate_steps(story.file.cut(FAR))
    for n in range(0, 1500, 3):
        day = after(30) + timedelta(days=n)
        at = int((days <= day).sum()) - 1
        seen = read_on(story.file.cut(day), day).rate
        told = None if rates[at] != rates[at] else float(rates[at])
        assert told == (None if seen is None else pytest.approx(seen)), day


def test_nothing_later_moves_what_a_day_has_read() -> None:
    whole = Story([*QUARTERLY, (36, 1.23), (42, 1.23), (48, 1.3)])
    short = Story([*QUARTERLY, (36, 1.23)])
    for days in (0, 60, 140, 170):
        assert whole.rate(36, days) == short.rate(36, days)
    assert Outcome.RAISED.value in whole.outcomes(3)
