"""Signatures of the demo's people, as a pen drew them: strokes of points across and down."""

from math import cos, pi, sin

Strokes = list[list[tuple[int, int]]]


def _hand(letters: int, tall: tuple[int, ...], lean: int) -> Strokes:
    """A running hand of so many loops, some of them tall, with a stroke below."""
    line = []
    for step in range(letters * 16):
        at = step / 16
        high = 95 if int(at) in tall else 42
        x = 90 + at * 760 / letters + 20 * sin(2 * pi * at) + lean * cos(2 * pi * at) / 4
        line.append((round(x), round(165 - high * (1 - cos(2 * pi * at)) / 2 * (1.25 if int(at) % 2 else 0.8))))
    return [line, [(120, 215), (420, 226), (760, 206)]]


RUTH = _hand(9, (0, 3, 4), 30)
IDRIS = _hand(11, (0, 2, 6), -24)
