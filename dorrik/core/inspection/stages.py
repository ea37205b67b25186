"""The stages of the work, in their order."""

from typing import Literal, get_args

Stage = Literal["brief", "intake", "walk", "isolation", "boards", "dead", "live", "observations", "report"]
STAGES: tuple[Stage, ...] = get_args(Stage)
#: Stages of tests.
TESTED: tuple[Stage, ...] = ("dead", "live")
