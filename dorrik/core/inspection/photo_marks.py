"""How the marks on a photo are laid out.

A finger that draws does not wait for a server, and the rules do not know the shape of a photo: screen and report lay
them out by these figures, in thousandths of the longer side of the photo.
"""

from collections.abc import Mapping

#: head, head_angle: the wings of an arrow, and what they are turned by (radians); disc, rim: of a number; number,
#: number_down: the height of its letters, and how far under the middle they stand; under, over: the dark line and the
#: bright one on it.
FIGURES: Mapping[str, float] = {
    "head": 46,
    "head_angle": 0.5,
    "disc": 34,
    "rim": 6,
    "number": 44,
    "number_down": 15,
    "under": 16,
    "over": 9,
}
