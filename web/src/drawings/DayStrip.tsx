/** A working day as a strip: when each visit begins, how long it takes, and the way there and back. */
export interface DayPart {
  key: string;
  /** `08:30`, or nothing where no hour is agreed. */
  at: string;
  minutes: number;
  /** The way there, one way (km). */
  km: number;
  name: string;
  /** Beside what it is about: it stands back. */
  other?: boolean;
}

const FROM = 7 * 60;
const TO = 19 * 60;
const WIDTH = 1000;
const HEIGHT = 74;
/** On small roads. */
const MINUTES_PER_KM = 1.5;

export const minutesOf = (at: string): number | null => {
  const clock = /^(\d{1,2}):(\d{2})/.exec(at);
  return clock ? Number(clock[1]) * 60 + Number(clock[2]) : null;
};

const clip = (minute: number) => Math.min(Math.max(minute, FROM), TO);
const x = (minute: number) => ((clip(minute) - FROM) / (TO - FROM)) * WIDTH;

/** Visits without an hour follow the one before, the first at eight. */
function place(parts: readonly DayPart[]) {
  const placed: (DayPart & { begins: number; way: number })[] = [];
  for (const part of parts) {
    const before = placed.at(-1);
    const begins = minutesOf(part.at) ?? (before ? before.begins + before.minutes : 8 * 60);
    placed.push({ ...part, begins, way: part.km * MINUTES_PER_KM });
  }
  return placed;
}

export function DayStrip({ parts, label }: { parts: readonly DayPart[]; label: string }) {
  const placed = place(parts);
  const hours = [8, 10, 12, 14, 16, 18];
  return (
    <div>
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} width="100%" role="img" aria-label={label} preserveAspectRatio="none">
        <line x1="0" x2={WIDTH} y1="48" y2="48" stroke="var(--d-colors-line)" strokeWidth="1.5" />
        {hours.map((hour) => (
          <g key={hour} fill="var(--d-colors-quiet)" fontSize="15" textAnchor="middle">
            <line x1={x(hour * 60)} x2={x(hour * 60)} y1="44" y2="52" stroke="currentColor" strokeWidth="1.5" />
            <text x={x(hour * 60)} y="70">
              {hour}
            </text>
          </g>
        ))}
        {placed.map((part) => (
          <g key={part.key}>
            <line
              x1={x(part.begins - part.way)}
              x2={x(part.begins + part.minutes + part.way)}
              y1="25"
              y2="25"
              stroke="currentColor"
              strokeWidth="2"
              strokeDasharray="2 5"
            />
            <rect
              x={x(part.begins)}
              y="6"
              width={Math.max(x(part.begins + part.minutes) - x(part.begins), 6)}
              height="38"
              rx="6"
              fill={part.other ? "var(--d-colors-half)" : "currentColor"}
            />
            <text
              x={x(part.begins) + 12}
              y="31"
              fill={part.other ? "currentColor" : "var(--d-colors-on-ink)"}
              fontSize="17"
              style={{ fontWeight: 700 }}
            >
              {part.name}
            </text>
          </g>
        ))}
      </svg>
    </div>
  );
}
