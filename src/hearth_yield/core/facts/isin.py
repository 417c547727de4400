"""The number by which a security is known everywhere. (ISO 6166)"""

from __future__ import annotations

import re

_FORM = re.compile(r"[A-Z]{2}[A-Z0-9]{9}[0-9]")


def is_isin(text: str) -> bool:
    """Whether a text is one: two letters, nine letters or digits, and the check digit.

    The check digit makes the sum of all digits, letters written as 10 to 35 and every second digit
    from the right doubled (its digits added), a multiple of ten.
    """
    if not _FORM.fullmatch(text):
        return False
    digits = [int(d) for c in text for d in str(int(c, 36))]
    return sum(sum(divmod(2 * d, 10)) if n % 2 else d for n, d in enumerate(digits[::-1])) % 10 == 0


def with_check_digit(eleven: str) -> str:
    """The ISIN that begins with these eleven characters."""
    return next(isin for d in range(10) if is_isin(isin := f"{eleven}{d}"))
