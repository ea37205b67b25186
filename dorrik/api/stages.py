"""Words that several resources share on the wire."""

from typing import Literal

Status = Literal["pass", "attention", "fail", "unknown"]
Stage = Literal["brief", "intake", "isolation", "boards", "dead", "live", "observations", "report"]
