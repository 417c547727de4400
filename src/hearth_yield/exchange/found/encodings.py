"""In which encoding a text is written: said by itself, or the one in which it reads like words;
what it would say in others is shown beside it, and asked where several read so."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Sequence
from typing import NamedTuple

BY_BYTE = (
    *("cp1252", "cp1250", "mac_roman", "cp437", "cp850", "iso8859_15"),
    *("cp1251", "koi8_r", "cp1253", "cp1254"),
)
OF_THE_EAST = ("shift_jis", "gb18030", "euc_kr", "big5")
CANDIDATES = BY_BYTE + OF_THE_EAST
"""Tried in this order, the commonest first; those of the East, in which nearly any bytes say
something, only where nothing else reads like words."""
LETTERS = tuple(
    frozenset(letters)
    for letters in (
        *("äöüß", "éèêëàâçîïôùûœæÿ", "ñáéíóúüç", "àèéìíîòóùú", "ãõâêôáéíóúàçü", "ëïéèöüóáê"),
        *("åäöé", "æøåéòôó", "áéíóúýþæöð", "ąćęłńóśźż", "áčďéěíňóřšťúůýž", "áäčďéíĺľňóôŕšťúýž"),
        *("áéíóöőúüű", "ăâîşţșț", "čćđšž", "çğıöşüâîû", "абвгдеёжзийклмнопрстуфхцчшщъыьэюя"),
        "ґєіїабвгдежзийклмнопрстуфхцчшщьюя",
        "αβγδεζηθικλμνξοπρσςτυφχψωάέήίόύώϊϋΐΰ",
    )
)
"""What one language writes beyond the plain letters."""
ALONE = frozenset("àèéóöåíýяивсукоαη")
"""Letters that are words by themselves."""
NAMES = {
    "cp1252": "Western (Windows 1252)",
    "cp1250": "Central European (Windows 1250)",
    "mac_roman": "Western (Mac Roman)",
    "cp437": "Western (DOS 437)",
    "cp850": "Western (DOS 850)",
    "iso8859_15": "Western (ISO 8859-15)",
    "cp1251": "Cyrillic (Windows 1251)",
    "koi8_r": "Cyrillic (KOI8-R)",
    "cp1253": "Greek (Windows 1253)",
    "cp1254": "Turkish (Windows 1254)",
    "shift_jis": "Japanese (Shift-JIS)",
    "gb18030": "Chinese (GB 18030)",
    "euc_kr": "Korean (EUC-KR)",
    "big5": "Chinese (Big5)",
    "utf-16": "Unicode (UTF-16)",
    "utf-8": "Unicode (UTF-8)",
}
SEEN = 200_000
"""Bytes that are looked at to tell."""
SHOWN = 60
MARKS = frozenset("€£¥¢§°©®™–—‘’‚“”„†‡…•«»·±×²³¹¼½¾ºª¿¡′″−\u00a0\u202f\u00ad№")
_FOREIGN = re.compile(r"[^\x00-\x7f]")


class Decoded(NamedTuple):
    """sure: nothing else reads like words. choices: encodings and what each would say, where the
    text is not plain."""

    text: str
    encoding: str
    sure: bool
    choices: Sequence[tuple[str, str]] = ()


def decode(raw: bytes, told: str = "") -> Decoded:
    """A text of a file. told: the encoding that the person chose. Raises UnicodeError, LookupError
    for one that it is not in."""
    if told:
        if told not in NAMES:
            raise LookupError(told)
        text = _bare(raw.decode(told, "replace"))
        return Decoded(text=text, encoding=told, sure=True, choices=_choices(raw, told))
    if raw[:2] in (b"\xff\xfe", b"\xfe\xff"):
        return Decoded(text=raw.decode("utf-16", "replace"), encoding="utf-16", sure=True)
    wide = _wide(raw[:SEEN])
    if wide:
        return Decoded(text=raw.decode(wide, "replace"), encoding=wide, sure=True)
    try:
        return Decoded(text=_bare(raw.decode("utf-8")), encoding="utf-8", sure=True)
    except UnicodeError:
        pass
    head = raw[:SEEN]
    fits = [(e, t) for e in BY_BYTE if (t := _strict(head, e)) is not None and reads(t)]
    if not fits:
        fits = [(e, t) for e in OF_THE_EAST if (t := _strict(head, e)) is not None and reads(t)]
    best = next((e for e, t in fits if is_of_a_language(t)), fits[0][0] if fits else "cp1252")
    kept = dict(fits).get(best)
    sure = kept is not None and ({*dict(fits).values()} == {kept} or is_of_a_language(kept))
    return Decoded(
        text=raw.decode(best, "replace"), encoding=best, sure=sure, choices=_choices(raw, best)
    )


def _bare(text: str) -> str:
    return text.removeprefix("\ufeff")


def _wide(head: bytes) -> str | None:
    """UTF-16 without a mark: every other byte of plain text is nil."""
    if len(head) < 4:
        return None
    first, second = head[::2].count(0), head[1::2].count(0)
    half = len(head) // 2
    if second > 0.4 * half and first < 0.1 * half:
        return "utf-16-le"
    return "utf-16-be" if first > 0.4 * half and second < 0.1 * half else None


def _strict(head: bytes, encoding: str) -> str | None:
    """A cut at the end may part a character of several bytes."""
    for cut in range(4):
        try:
            return head[: len(head) - cut].decode(encoding)
        except UnicodeError:
            if len(head) < SEEN:
                return None
    return None


def _script(char: str) -> str:
    name = unicodedata.name(char, "")
    first = name.split(" ", 1)[0]
    together = {"CJK": "EAST", "HIRAGANA": "EAST", "KATAKANA": "EAST", "HANGUL": "HANGUL"}
    return together.get(first, first)


def reads(text: str) -> bool:
    """Whether what is not plain in it stands as it does in words: letters of one script in a word,
    accents among plain letters, capitals in front, marks between words."""
    latin = together = 0
    for found in _FOREIGN.finditer(text):
        char, at = found.group(), found.start()
        before = text[at - 1] if at else " "
        after = text[at + 1] if at + 1 < len(text) else " "
        beside = [c for c in (before, after) if c.isalpha()]
        if not char.isalpha():
            if char not in MARKS or (len(beside) == 2 and char not in "’\u00ad\u00a0\u202f–-"):
                return False
            continue
        if any(_script(c) != _script(char) for c in beside) or _script(char) == "HALFWIDTH":
            return False
        if not beside and _script(char) not in ("EAST", "HANGUL") and char not in ALONE:
            return False
        if char.isupper() and (before.islower() or (before.isupper() and after.islower())):
            return False
        if char == "ς" and after.isalpha():
            return False
        if _script(char) == "LATIN":
            latin += 1
            together += any(not c.isascii() for c in beside)
    return together <= latin / 2 + 1


def is_of_a_language(text: str) -> bool:
    """Whether all its letters beyond the plain ones are those of one language."""
    used = {c.lower() for c in text if not c.isascii() and c.isalpha()}
    return any(used <= letters for letters in LETTERS)


def _sample(text: str) -> str:
    """The first stretch in which something is not plain."""
    found = _FOREIGN.search(text)
    if not found:
        return text[:SHOWN]
    line = text[: found.start()].rfind("\n") + 1
    begin = max(line, found.start() - SHOWN // 2)
    return " ".join(text[begin : begin + SHOWN].split("\n", 1)[0].split())


def _distinct(fits: Sequence[tuple[str, str]]) -> list[tuple[str, str]]:
    """One encoding for each text that comes of it."""
    found: dict[str, str] = {}
    for encoding, text in fits:
        found.setdefault(text, encoding)
    return [(e, _sample(t)) for t, e in found.items()]


def _choices(raw: bytes, first: str) -> list[tuple[str, str]]:
    """What the text would say in each encoding that it can be in; the one that is taken first."""
    head = raw[:SEEN]
    order = (first, *(e for e in CANDIDATES if e != first))
    return _distinct([(e, t) for e in order if (t := _strict(head, e)) is not None])
