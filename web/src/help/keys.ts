/** Every key that does something, by where it does. */
export const KEYS: readonly (readonly [where: string, keys: readonly (readonly [key: string, does: string])[]])[] = [
  [
    "Everywhere",
    [
      ["?", "help"],
      ["/", "search, on Home"],
    ],
  ],
  [
    "In an inspection",
    [
      ["O", "add an observation about what is in focus"],
      ["C", "come back to what is in focus; for a reviewer, ask"],
      ["Alt 1 … 9", "stages in their order"],
      ["Ctrl Z", "undo"],
    ],
  ],
  [
    "Test grid",
    [
      ["0 … 9 . > <", "the reading as it is written"],
      ["L", "LIM, then its reason"],
      ["N", "N/A; no, for a check"],
      ["V", "N/V"],
      ["X", "over range"],
      ["Y", "yes, for a check"],
      ["Enter, Tab", "next reading; with Shift the one before"],
      ["Arrows", "across the grid"],
      ["Escape", "leave it as it was"],
    ],
  ],
  [
    "Boards",
    [
      ["Enter", "add the circuit"],
      ["=", "the last circuit again"],
      ["Alt ↑ ↓", "move a circuit to the next way"],
    ],
  ],
  [
    "Walk-round",
    [
      ["1 … 9", "count a point of that kind; choose a defect"],
      ["↑ ↓", "point to point"],
      ["F", "OK"],
      ["D", "defect"],
      ["B", "no access"],
      ["E", "opened"],
      ["P", "photo"],
      ["N", "rest OK, next room"],
    ],
  ],
  [
    "Planner",
    [
      ["M", "take up the visit in focus; arrows choose the day, Enter puts it there"],
      ["Shift ← →", "a quarter of an hour earlier or later"],
    ],
  ],
];
