"""Left disconnected by consent, and seen but out of scope: states of a circuit, point, board or room.

Both rest on an agreement. Without somebody who agreed the state is a wish, and everything is still asked for.
"""

from dorrik.core.basics.record import record
from dorrik.core.inspection import fields as f

LEFT_DISCONNECTED, OUT_OF_SCOPE = STATES = ("left disconnected", "out of scope")
#: What can be set aside.
OF = ("circuit", "point", "board", "room")


@record(kw_only=True)
class SetAside:
    """Something left disconnected, or left out, by agreement: what, with whom that was agreed, and until when.

    since: from when on it is so. What was read before that is as found.
    """

    id: str
    about_entity: str | None = f.choice("About", *OF)
    about_id: str | None = f.identity("About which")
    state: str | None = f.choice("State", *STATES)
    agreed_with: str | None = f.text("Agreed with", 120)
    until: str | None = f.day("Agreed until", ahead_days=3660)
    why: str | None = f.text("Why", 300)
    since: str | None = f.instant("Since")
    removed: bool | None = f.flag("Removed")

    @property
    def in_force(self) -> bool:
        """Is it said what it is, and who agreed?"""
        return bool(self.state and self.agreed_with)

    @property
    def disconnected(self) -> bool:
        """Was it left disconnected, rather than left out?"""
        return self.state == LEFT_DISCONNECTED
