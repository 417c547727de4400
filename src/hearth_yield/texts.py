"""One rule for texts, at every door: typed, from a file, a feed or a backup."""

from __future__ import annotations

import re
from typing import Any

_ODD = re.compile("[\x00-\x08\x0b-\x1f\ud800-\udfff]")
"""Control characters but tab and line break, and halves of a character."""
_BREAK = re.compile("\r\n?|[\x0b\x0c]")
_HALF = re.compile("[\ud800-\udfff]")


def is_plain(text: str) -> bool:
    """Whether a text can be kept, shown, written to a file and read back as it is."""
    return _ODD.search(text) is None


def plain(text: str) -> str:
    """The same text as it can be kept: breaks of any sort are line breaks, half a character is a
    replacement sign, and what cannot be seen at all is left out."""
    if is_plain(text):
        return text
    return _ODD.sub("", _HALF.sub("\ufffd", _BREAK.sub("\n", text)))


def visible(text: str) -> str:
    """The same text with a sign wherever something in it cannot be seen: for showing what is wrong
    with it."""
    return _ODD.sub("\ufffd", text)


def all_plain(value: Any) -> Any:
    """Every text of what was read from JSON, names of members too."""
    match value:
        case str():
            return plain(value)
        case list():
            return [all_plain(v) for v in value]
        case dict():
            return {plain(k): all_plain(v) for k, v in value.items()}
    return value
