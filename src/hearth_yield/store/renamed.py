"""What stored words are called now: a state of before reads as it is named today."""

from __future__ import annotations

from typing import Any

from hearth_yield.core.judging.judge import OLD_STATES


def states_renamed(held: Any) -> Any:
    """Whatever was kept as JSON, with every state by its name of today: as a member, and among the
    words of a condition on states."""
    match held:
        case dict():
            found = {name: states_renamed(value) for name, value in held.items()}
            for name, value in found.items():
                if name.endswith("state") and isinstance(value, str):
                    found[name] = OLD_STATES.get(value, value)
            words = found.get("words")
            if found.get("id") == "state" and isinstance(words, list):
                found["words"] = [OLD_STATES.get(w, w) if isinstance(w, str) else w for w in words]
            return found
        case list():
            return [states_renamed(x) for x in held]
    return held
