"""The objects of a process that stay: judges of inspections in hand are many small things in circles.

Looked through for garbage again and again they cost more than judging does. They are set aside from the collector once
they are made, and taken apart by hand when they are let go (`LastingJudge.forget`).
"""

import gc

#: Does this process set them aside? One that serves does (`dorrik.preloaded`).
sets_aside = False


#: What is garbage as things are set aside, or becomes it in circles, goes every so many times.
_LOOKED_EVERY = 32
_times = 0


def set_aside() -> None:
    """What there is now stays."""
    global _times
    if not sets_aside:
        return
    if _times % _LOOKED_EVERY == 0:
        if _times:
            gc.unfreeze()
        gc.collect()
    _times += 1
    gc.freeze()
