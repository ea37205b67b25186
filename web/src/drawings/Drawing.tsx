/** A drawing as the rules have laid it out: what stands where comes with the judgement, how it looks from the style sheet. */
import { type CSSProperties, type KeyboardEvent, type MouseEvent, type ReactNode, useId } from "react";
import type { Schemas } from "../api/client";
import css from "./Drawing.module.css";
import { MarkShape } from "./Mark";

export type Drawn = Schemas["Drawing"];
type DrawnPart = Schemas["DrawnPart"];

interface Props {
  drawing: Drawn;
  /** The key of the part that is lit. */
  chosen?: string | null;
  choose?: (key: string) => void;
  /** Its parts lead to what they show: each is a button. Otherwise the whole is one picture, and a tap is a short cut. */
  buttons?: boolean;
  /** A tap beside the parts of a plan, in metres. */
  place?: (x: number, y: number) => void;
  style?: CSSProperties;
}

export function Drawing({ drawing, chosen, choose, buttons, place, style }: Props) {
  const soil = useId();
  const { left, top, width, height, scale } = drawing;
  const tap = (event: MouseEvent<SVGSVGElement>) => {
    if (!place || !scale) return;
    const at = inMetres(scale, tapped(event, drawing));
    place(at.x, at.y);
  };
  return (
    <svg
      viewBox={`${left} ${top} ${width} ${height}`}
      className={css.drawing}
      style={style}
      data-plan={place && ""}
      role={buttons ? undefined : "img"}
      aria-label={buttons ? undefined : drawing.says}
      // What a tap does, the fields beside the drawing do by keyboard.
      onClick={place && tap}
    >
      <defs>
        <pattern id={soil} width="9" height="9" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line x1="0" x2="0" y1="0" y2="9" stroke="var(--d-colors-line)" strokeWidth="2" />
        </pattern>
      </defs>
      {drawing.parts.map((part, at) => (
        <Part
          key={part.key || at}
          part={part}
          chosen={part.key !== "" && part.key === chosen}
          choose={choose}
          button={buttons === true}
        >
          <Shapes part={part} soil={soil} lit={part.key !== "" && part.key === chosen} />
        </Part>
      ))}
    </svg>
  );
}

interface PartProps {
  part: DrawnPart;
  chosen: boolean;
  choose: Props["choose"];
  button: boolean;
  children: ReactNode;
}

function Part({ part, chosen, choose, button, children }: PartProps) {
  const { key, says } = part;
  if (!key || !choose) {
    return (
      <g>
        {says && <title>{says}</title>}
        {children}
      </g>
    );
  }
  const tap = (event: MouseEvent) => {
    event.stopPropagation();
    choose(key);
  };
  if (!button) {
    return (
      <g className={css.tapped} data-chosen={chosen || undefined} onClick={tap} aria-hidden>
        {children}
      </g>
    );
  }
  const pressed = (event: KeyboardEvent) => {
    if (event.key !== "Enter" && event.key !== " ") return;
    event.preventDefault();
    choose(key);
  };
  return (
    <g
      className={css.tapped}
      data-chosen={chosen || undefined}
      role="button"
      tabIndex={0}
      aria-label={says}
      aria-pressed={chosen}
      onClick={tap}
      onKeyDown={pressed}
    >
      {children}
    </g>
  );
}

function Shapes({ part, soil, lit }: { part: DrawnPart; soil: string; lit: boolean }) {
  return (
    <>
      {part.boxes.map(({ look, ...box }, at) => (
        <rect key={at} data-look={look} fill={look === "soil" ? `url(#${soil})` : undefined} {...box} />
      ))}
      {part.paths.map((path, at) => (
        <path key={at} data-look={path.look} d={path.d} />
      ))}
      {part.discs.map((disc, at) => (
        <circle key={at} data-look={disc.look} cx={disc.x} cy={disc.y} r={disc.radius} />
      ))}
      {part.signs.map((sign, at) => (
        <MarkShape key={at} {...sign} inverse={sign.inverse && !lit} />
      ))}
      {part.words.map((words, at) => (
        <text key={at} data-look={words.look} x={words.x} y={words.y} textAnchor={words.anchor}>
          {words.text}
        </text>
      ))}
    </>
  );
}

/** Where a tap lies, in units of the drawing, which keeps its shape: what is left over stands on both sides of it. */
function tapped(event: MouseEvent<SVGSVGElement>, { left, top, width, height }: Drawn) {
  const frame = event.currentTarget.getBoundingClientRect();
  const scale = Math.max(width / frame.width, height / frame.height);
  const across = (frame.width - width / scale) / 2;
  const down = (frame.height - height / scale) / 2;
  return {
    x: (event.clientX - frame.left - across) * scale + left,
    y: (event.clientY - frame.top - down) * scale + top,
  };
}

/** The finest step of a tap (m). */
const STEP = 0.05;
const round = (metres: number) => Math.round(Math.round(Math.max(0, metres) / STEP) * STEP * 100) / 100;

function inMetres(scale: NonNullable<Drawn["scale"]>, at: { x: number; y: number }) {
  const up = scale.up ? scale.y - at.y : at.y - scale.y;
  return { x: round((at.x - scale.x) / scale.per_m), y: round(up / scale.per_m) };
}
