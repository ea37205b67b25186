/** Marks by weight of ink: a disc that fills up with urgency, and a code in a box of solid, half, dashed or plain line. */
import type { Status } from "../api/client";
import css from "./Mark.module.css";

const SAID: Record<Status, string> = {
  pass: "passes",
  attention: "look at this",
  fail: "fails",
  unknown: "cannot be judged yet",
};

export function Mark({ status, size = 11 }: { status: Status; size?: number }) {
  const r = 4.6;
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 12 12"
      role="img"
      aria-label={SAID[status]}
      style={{ flex: "none", display: "inline-block", verticalAlign: "-1px" }}
    >
      {status === "fail" && <circle cx="6" cy="6" r="5.4" fill="currentColor" />}
      {status === "attention" && (
        <>
          <circle cx="6" cy="6" r={r} fill="none" stroke="currentColor" strokeWidth="1.5" />
          <path d="M1.4 6 A4.6 4.6 0 0 0 10.6 6 Z" fill="currentColor" />
        </>
      )}
      {status === "pass" && <circle cx="6" cy="6" r={r} fill="none" stroke="currentColor" strokeWidth="1.3" />}
      {status === "unknown" && (
        <circle cx="6" cy="6" r={r} fill="none" stroke="currentColor" strokeWidth="1.3" strokeDasharray="2 1.8" />
      )}
    </svg>
  );
}

/** The same mark inside a drawing, around a point. */
export function MarkShape({ status, x, y, inverse }: { status: Status; x: number; y: number; inverse?: boolean }) {
  const ink = inverse ? "var(--d-colors-on-ink)" : "currentColor";
  if (status === "pass") return null;
  return (
    <g>
      <circle
        cx={x}
        cy={y}
        r="8"
        fill={status === "fail" ? ink : "none"}
        stroke={ink}
        strokeWidth="2"
        strokeDasharray={status === "unknown" ? "3 3" : undefined}
      />
      {status === "attention" && <path d={`M${x - 8} ${y} A8 8 0 0 0 ${x + 8} ${y} Z`} fill={ink} />}
    </g>
  );
}

export function Tick({ size = 14 }: { size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 14 14" aria-hidden style={{ display: "inline-block" }}>
      <path d="M2 7.6 L5.6 11 L12 3" fill="none" stroke="currentColor" strokeWidth="2" />
    </svg>
  );
}

const WEIGHT: Record<string, string | undefined> = { C1: css.solid, C2: css.half, FI: css.dashed, note: css.faint };

export function CodeMark({ code, large = false }: { code: string; large?: boolean }) {
  return <span className={[css.code, WEIGHT[code], large && css.large].filter(Boolean).join(" ")}>{code}</span>;
}
