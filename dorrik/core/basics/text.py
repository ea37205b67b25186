"""What a person may write: any letter or sign that Unicode names; nothing that only a machine would send.

Refused are control characters, halves of a character pair, private-use characters, which mean something else on every
device, noncharacters, and the marks that turn the direction of whatever follows them: with those a line can be made to
read otherwise than it is kept.
"""

import unicodedata

#: Line breaks and the tabulator are control characters that a person types.
TYPED = "\n\t"
#: Marks that embed or override a direction; the letters of a script bring their own.
TURNING = frozenset("\u202a\u202b\u202c\u202d\u202e")


def why_not(text: str) -> str | None:
    """Why a text cannot be kept, naming the character and its place; None where it can."""
    if text.isascii() and text.isprintable():
        return None
    for at, sign in enumerate(text, 1):
        category = unicodedata.category(sign)
        if category == "Cs":
            return f"Character {at} is half of a character and cannot be kept."
        if category == "Co":
            return f"Character {at} (U+{ord(sign):04X}) is for private use and means something else on other devices."
        if (category == "Cc" and sign not in TYPED) or sign in TURNING or _no_character(ord(sign)):
            return f"Character {at} (U+{ord(sign):04X}) is a control character and cannot be kept."
    return None


def _no_character(point: int) -> bool:
    return point & 0xFFFE == 0xFFFE or 0xFDD0 <= point <= 0xFDEF


def tidy(text: str) -> str:
    """The text as it is kept: line ends as one sign, composed (NFC), nothing blank around it. Raises ValueError."""
    whole = text.replace("\r\n", "\n").replace("\r", "\n")
    if (why := why_not(whole)) is not None:
        raise ValueError(why)
    return whole.strip() if whole.isascii() else unicodedata.normalize("NFC", whole).strip()


def shown(text: str) -> str:
    """A text that came from outside as it can be said in a message: what cannot be kept is replaced."""
    return "".join(sign if why_not(sign) is None else "\ufffd" for sign in text)


def shortened(text: str, most: int = 60) -> str:
    """The beginning of a text, cut between words; the whole of it where it is no longer than `most` characters."""
    return text if len(text) <= most else text[: most - 1].rsplit(" ", 1)[0].rstrip(" ,;.:") + " …"
