"""Words that several resources share on the wire."""

from typing import Literal

from dorrik.core.judging.coverage.progress import Stage

__all__ = ["Stage", "Status"]

Status = Literal["pass", "attention", "fail", "unknown"]
