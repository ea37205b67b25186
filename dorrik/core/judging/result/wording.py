"""Hints on an inspector's own words. They are hints to whoever writes and never decide anything: no rule reads them."""

import re

#: Words by which a thing is called bad for its years alone.
_OF_AGE = re.compile(
    r"\b(too old|very old|old (wiring|board|fuse ?box|installation)|outdated|obsolete|out of date"
    r"|past its (life|best)|end of (its )?life|due to (its )?age|aged|dated)\b",
    re.IGNORECASE,
)
AGE_ALONE = "its words call age unsafe: age alone is no defect, say what is unsafe"


def calls_age_unsafe(text: str) -> bool:
    """Do somebody's own words give years as the reason? (rule 13.6: age alone is no code)"""
    return _OF_AGE.search(text) is not None
