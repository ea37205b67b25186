/** The kit's own drawings, 20 by 20, in the colour of the words beside them. */
const PATHS = {
  add: "M10 3.5V16.5M3.5 10H16.5",
  back: "M12.5 4L6.5 10L12.5 16",
  calendar: "M3.5 5.5H16.5V16.5H3.5ZM3.5 9H16.5M7 3V6.5M13 3V6.5",
  close: "M5 5L15 15M15 5L5 15",
  down: "M4.5 7.5L10 13L15.5 7.5",
  earlier: "M10 4.2A5.8 5.8 0 1 1 4.7 7.6M10 7V10.4L12.4 12M4.6 3.6V7.8H8.8",
  forward: "M7.5 4L13.5 10L7.5 16",
  instrument: "M5.5 2.5H14.5V13.5H5.5ZM7.5 5H12.5V8H7.5M8 13.5V17.5M12 13.5V17.5",
  menu: "M3.5 5.5H16.5M3.5 10H16.5M3.5 14.5H16.5",
  tick: "M4 10.5L8.2 14.8L16 5.5",
} as const;

export type IconName = keyof typeof PATHS;

export function Icon({ name, size = 20 }: { name: IconName; size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 20 20" aria-hidden="true" style={{ flex: "none" }}>
      <path
        d={PATHS[name]}
        fill="none"
        stroke="currentColor"
        strokeWidth="2"
        strokeLinecap="round"
        strokeLinejoin="round"
      />
    </svg>
  );
}
