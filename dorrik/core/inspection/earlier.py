"""A figure of an earlier report, to compare with."""

from dorrik.core.basics.readings import Reading
from dorrik.core.basics.record import record
from dorrik.core.inspection import fields as f


@record(kw_only=True)
class Earlier:
    """A figure of this circuit, or of this point, from an earlier report or its first certificate. Which figures are
    compared stands on their own declarations (`kinds`).
    """

    id: str
    measured_on: str | None = f.day("Measured on")
    figure: str | None = f.choice("Figure")
    reading: Reading | None = f.reading("Earlier reading", "", "continuity")
    source: str | None = f.text("From", 120)
    removed: bool | None = f.flag("Removed")
