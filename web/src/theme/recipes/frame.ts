/** Words above, control, what is said of it below; for one control and for a group. */
export const FIELD_FRAME = {
  display: "flex",
  flexDirection: "column",
  alignItems: "flex-start",
  gap: "1",
  width: "full",
  minWidth: "0",
  position: "relative",
  // What it was before is asked for at the field itself: it stands back until the hand is there.
  "& [data-history]": { opacity: "0" },
  "&:is(:hover, :focus-within) [data-history], & [data-history]:has([aria-expanded=true])": { opacity: "1" },
} as const;
