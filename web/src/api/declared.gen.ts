/** Written by `make openapi` from the declarations of the rules (dorrik/api/declared.py). */
export type Kind = "inspection" | "bond" | "board" | "rcd" | "circuit" | "room" | "point" | "earlier" | "observation" | "opinion" | "declined" | "limitation" | "overruling" | "isolation" | "check" | "attendance" | "instrument_used" | "lead_null" | "put_back" | "position" | "come_back" | "concern" | "set_aside" | "dating" | "operator_call" | "wanted_load" | "label" | "offer_line" | "repair" | "as_found" | "photo";
/** What an entity can hang on, the usual first: the field that makes it is named after that. */
export const PARENTS: Readonly<Record<Kind, readonly string[]>> = {
  "inspection": [
    "firm"
  ],
  "bond": [
    "inspection"
  ],
  "board": [
    "inspection"
  ],
  "rcd": [
    "board"
  ],
  "circuit": [
    "board"
  ],
  "room": [
    "inspection"
  ],
  "point": [
    "circuit",
    "inspection"
  ],
  "earlier": [
    "circuit",
    "point"
  ],
  "observation": [
    "inspection"
  ],
  "opinion": [
    "observation"
  ],
  "declined": [
    "inspection"
  ],
  "limitation": [
    "inspection"
  ],
  "overruling": [
    "inspection"
  ],
  "isolation": [
    "board"
  ],
  "check": [
    "board",
    "room",
    "inspection"
  ],
  "attendance": [
    "inspection"
  ],
  "instrument_used": [
    "inspection"
  ],
  "lead_null": [
    "inspection"
  ],
  "put_back": [
    "inspection"
  ],
  "position": [
    "inspection"
  ],
  "come_back": [
    "inspection"
  ],
  "concern": [
    "inspection"
  ],
  "set_aside": [
    "inspection"
  ],
  "dating": [
    "inspection"
  ],
  "operator_call": [
    "inspection"
  ],
  "wanted_load": [
    "inspection"
  ],
  "label": [
    "inspection"
  ],
  "offer_line": [
    "inspection"
  ],
  "repair": [
    "inspection"
  ],
  "as_found": [
    "repair"
  ],
  "photo": [
    "inspection"
  ]
};
export const STAGES = ["brief", "intake", "walk", "isolation", "boards", "dead", "live", "observations", "report"] as const;
export const FLOORS = ["cellar", "ground", "first", "second", "third or higher", "roof space", "outside"] as const;
export const CHECK_STATES = ["good", "not good", "LIM", "N/A"] as const;
