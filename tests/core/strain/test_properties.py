"""What must hold of any strain."""

from dataclasses import replace

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.judging.judge import State
from tests.core.build import year_statement
from tests.core.strain.test_cases import CASES, harbour, strained

shares = st.floats(0.0, 1.0)
strains = st.builds(
    lambda margin, interest, flow, tax, months: (
        f"margin:{margin},interest:{interest},flow_through:{flow},tax_rate:{tax},months:{months}"
    ),
    st.floats(0, 0.05),
    st.floats(0, 0.05),
    st.floats(0.1, 1.0),
    st.floats(0, 0.5),
    st.integers(1, 12),
)
companies = st.builds(
    lambda revenue, ebitda, debt, cash: harbour(
        revenue=revenue, ebitda=ebitda, ebit=ebitda - 60, long_term_debt=debt, cash=cash
    ),
    st.floats(200, 5000),
    st.floats(100, 900),
    st.floats(0, 2000),
    st.floats(0, 400),
)


@settings(max_examples=80, deadline=None)
@given(file=companies, strain=strains, part=st.sampled_from(["all", "tenant/Harbour board"]))
def test_strained_to_where_it_gives_a_test_stands_at_its_limit(
    file: PayerFile, strain: str, part: str
) -> None:
    found = strained(file, strain, part)
    for test in found.tests:
        at = test.gives_at.value
        if at is None or at == 0:
            continue
        there = next(
            t for t in strained(file, f"{strain},fall:{at!r}", part).tests if t.key == test.key
        )
        if test.before.direction == "pass":
            assert there.measure.value == pytest.approx(test.before.limit, abs=1e-4)
        else:
            assert there.measure.value == pytest.approx(test.before.limit, rel=1e-5)


@settings(max_examples=60, deadline=None)
@given(file=companies, strain=strains, less=shares, more=shares)
def test_a_deeper_fall_makes_no_test_better(
    file: PayerFile, strain: str, less: float, more: float
) -> None:
    assume(less <= more)
    worse = {State.OUTSIDE: 0, State.UNKNOWN: 0, State.CLOSE: 1, State.WITHIN: 2}
    mild = {t.key: t for t in strained(file, f"{strain},fall:{less!r}").tests}
    for test in strained(file, f"{strain},fall:{more!r}").tests:
        assert worse[test.after.state] <= worse[mild[test.key].after.state]


@settings(max_examples=40, deadline=None)
@given(by=st.floats(1e-3, 1e6), fall=shares)
def test_all_money_in_another_unit_changes_no_strain(by: float, fall: float) -> None:
    """Ten shares of a tenth the money each pay a tenth: the declared rate scales along."""
    counts = ("diluted_shares",)
    lines = {k: v if k in counts else v * by for k, v in CASES["lines"].items()}
    scaled = harbour()
    scaled = replace(
        scaled,
        statements=(year_statement(2025, **lines),),
        dividends=tuple(replace(d, amount=d.amount * by) for d in scaled.dividends),
    )
    one, other = (strained(f, f"fall:{fall!r}") for f in (harbour(), scaled))
    for a, b in zip(one.tests, other.tests, strict=True):
        assert a.after.state is b.after.state
        if a.before.direction != "pass":
            assert a.gives_at.value == (
                None if b.gives_at.value is None else pytest.approx(b.gives_at.value, rel=1e-6)
            )
