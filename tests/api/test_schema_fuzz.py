"""Every operation as the API's own description says, asked at random and in random order by an
outside tool: no answer of 500, none that the description does not name."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
import schemathesis
from hypothesis import HealthCheck, Phase, given, settings
from schemathesis import openapi
from schemathesis.checks import CHECKS, load_all_checks

from hearth_yield.store.database import Database
from tests.client import app_on
from tests.conftest import SOAK, sample
from tests.databases import copy_of
from tests.patience import SECONDS

load_all_checks()
EXAMPLES = sample(1, 40)
STEPS = sample(5, 15)
NOT_ASKED = {
    "positive_data_acceptance",  # a value of the right type may still break a rule of the job
    "negative_data_rejection",  # a body that is merely odd may be one the job can do without
    "missing_required_header",
    "ignored_auth",
    "use_after_free",
    "ensure_resource_availability",
}
"""Checks that do not fit an API whose rules go beyond types."""
CHECKED = CHECKS.get_by_names([n for n in CHECKS.get_all_names() if n not in NOT_ASKED])


@pytest.fixture(scope="module")
def database(twenty_file: Path, tmp_path_factory: pytest.TempPathFactory) -> Iterator[Database]:
    opened = copy_of(twenty_file, tmp_path_factory.mktemp("fuzzed") / "demo.sqlite")
    yield opened
    opened.close()


@pytest.fixture(scope="module")
def described(database: Database) -> Any:
    found = openapi.from_asgi("/api/schema", app_on(database), headers={"host": "127.0.0.1"})
    found.config.update(base_url="http://127.0.0.1", request_timeout=SECONDS)
    return found


QUIET = settings(
    max_examples=EXAMPLES,
    deadline=None,
    suppress_health_check=list(HealthCheck),
    phases=[Phase.explicit, Phase.generate],
    derandomize=not SOAK,
)
PARTS = 4


@pytest.mark.parametrize("part", range(PARTS))
def test_every_operation_answers_as_described(described: Any, part: int) -> None:
    operations = [found.ok() for found in described.get_all_operations()]
    assert len(operations) > 30
    for operation in operations[part::PARTS]:

        @QUIET
        @given(case=operation.as_strategy())
        def ask(case: schemathesis.Case) -> None:
            case.call_and_validate(checks=CHECKED)

        ask()


def test_operations_in_any_order_answer_as_described(described: Any) -> None:
    class Machine(described.as_state_machine()):  # type: ignore[misc]
        def validate_response(self, response: Any, case: Any, **_: Any) -> None:
            case.validate_response(response, checks=CHECKED)

    Machine.run(
        settings=settings(
            max_examples=EXAMPLES,
            stateful_step_count=STEPS,
            deadline=None,
            suppress_health_check=list(HealthCheck),
            derandomize=not SOAK,
        )
    )
