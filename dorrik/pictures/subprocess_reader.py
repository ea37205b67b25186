"""Having a photo decoded in a process of its own: bounded, a few at a time. What comes out is data."""

import json
import signal
import subprocess
import sys
from threading import BoundedSemaphore

from dorrik.pictures.reader import CLOCK_S
from dorrik.pictures.renditions import Renditions, Unshowable

#: Photos decoded at a time in one process of the server; more wait.
AT_ONCE = 2
_slots = BoundedSemaphore(AT_ONCE)
_TOO_MUCH = "The photo takes longer or more memory than any photo does; it was not opened."


class DecodingLate(Exception):
    """The machine has so much to do that the photo was not opened in time; nothing is wrong with it."""

    def __init__(self) -> None:
        super().__init__("The server has very much to do at this moment; the photo is sent again.")


def make(content: bytes) -> Renditions:
    """Renditions of a photo from outside. Raises Unshowable, and DecodingLate where it used little of its time."""
    with _slots:
        try:
            done = subprocess.run(
                [sys.executable, "-m", "dorrik.pictures.reader"],
                input=content, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, timeout=CLOCK_S + 5, check=False,
            )  # fmt: skip
        except subprocess.TimeoutExpired as error:
            raise DecodingLate from error
    if done.returncode == -signal.SIGALRM:
        raise DecodingLate
    head, _, rest = done.stdout.partition(b"\n")
    if done.returncode or not head:
        raise Unshowable(_TOO_MUCH)
    answer = json.loads(head)
    if "unshowable" in answer:
        raise Unshowable(answer["unshowable"])
    by_size, at = {}, 0
    for name, length in answer["sizes"].items():
        by_size[name] = rest[at : at + length]
        at += length
    return Renditions(answer["width"], answer["height"], by_size)
