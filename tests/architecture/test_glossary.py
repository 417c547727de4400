"""The glossary that the page shows is the one that the docs print."""

import json
from pathlib import Path

ROOT = Path(__file__).parent.parent.parent


def test_the_docs_print_the_glossary_of_the_page() -> None:
    terms = json.loads((ROOT / "web/src/ui/glossary.json").read_text())
    printed = (ROOT / "docs/glossary.md").read_text()
    rows = [line.strip("| ").split(" | ") for line in printed.splitlines() if line.startswith("| ")]
    assert dict(rows[1:]) == terms
