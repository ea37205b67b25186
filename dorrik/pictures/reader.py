"""Reads one photo in a process of its own, within limits: `python -m dorrik.pictures.reader`.

The photo comes in on standard input. Out goes a line of JSON with the lengths of what follows, then the renditions.
"""

import json
import os
import resource
import signal
import sys

#: Processor time, time on the clock (s) and memory (bytes) that one photo may take.
PROCESSOR_S, CLOCK_S, MEMORY = 15, 60, 1600 * 1024 * 1024


def main() -> None:
    """Read one photo."""
    # Whoever asks for anything else comes first.
    os.nice(10)
    resource.setrlimit(resource.RLIMIT_CPU, (PROCESSOR_S, PROCESSOR_S + 1))
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY, MEMORY))
    resource.setrlimit(resource.RLIMIT_FSIZE, (0, 0))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    signal.alarm(CLOCK_S)
    from dorrik.pictures import renditions

    out = sys.stdout.buffer
    try:
        made = renditions.make(sys.stdin.buffer.read())
    except renditions.Unshowable as error:
        out.write(json.dumps({"unshowable": str(error)}).encode() + b"\n")
        return
    except MemoryError:
        out.write(json.dumps({"unshowable": "The photo takes more memory than any photo does."}).encode() + b"\n")
        return
    sizes = {name: len(content) for name, content in made.by_size.items()}
    out.write(json.dumps({"width": made.width, "height": made.height, "sizes": sizes}).encode() + b"\n")
    for content in made.by_size.values():
        out.write(content)


if __name__ == "__main__":
    main()
