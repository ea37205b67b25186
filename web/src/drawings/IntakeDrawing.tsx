/** The way of the supply, from the service head to the boards, with its earth and bonds; a part is tapped to say what it is.
 *
 * What nobody has said yet is drawn dashed; what fails, or wants a look, carries its mark.
 */
import { Box } from "@chakra-ui/react";
import type { KeyboardEvent, ReactNode } from "react";
import type { Status } from "../api/client";
import { MarkShape } from "./Mark";

export interface DrawnPart {
  /** What is told of it, line by line; empty where nothing is known. */
  lines: readonly string[];
  known: boolean;
  status?: Status;
}

export interface DrawnBond extends DrawnPart {
  id: string;
  service: string;
  /** Nothing to bond, or not there. */
  absent: boolean;
}

export interface DrawnBoard extends DrawnPart {
  id: string;
  name: string;
}

export type PartKey = "supply" | "head" | "switch-fuse" | "tails" | "ze" | "earth";

interface Props {
  parts: Record<PartKey, DrawnPart>;
  /** No switch-fuse stands in front of the tails. */
  straight: boolean;
  /** The earth is an electrode of the home's own. */
  electrode: boolean;
  bonds: readonly DrawnBond[];
  boards: readonly DrawnBoard[];
  /** The part, or the bond by its id, whose figures are at hand. */
  chosen: string;
  choose: (key: string) => void;
  openBoard: (id: string) => void;
}

const WIDTH = 1000;
const HEIGHT = 400;
const LINE = 112;
const MET = { x: 490, y: 226, width: 112, height: 36 };
const GROUND = 300;
const BONDS_AT = 470;
const BOND_APART = 132;
/** A style, not an attribute: the reset of the component library is stronger than those. */
const BOLD = { fontWeight: 700 };

export function IntakeDrawing(props: Props) {
  const { parts, straight, electrode, bonds, boards, chosen, choose, openBoard } = props;
  const is = (key: string) => chosen === key;
  const middle = MET.x + MET.width / 2;
  return (
    <Box overflowX="auto" tabIndex={0} role="region" aria-label="The way of the supply" color="ink">
      <Box minW="46rem">
        <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} width="100%" fontSize="18" fill="currentColor">
          <defs>
            <pattern id="soil" width="9" height="9" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
              <line x1="0" x2="0" y1="0" y2="9" stroke="var(--d-colors-line)" strokeWidth="2" />
            </pattern>
          </defs>
          <rect x="12" y={GROUND} width={WIDTH - 24} height={HEIGHT - GROUND - 4} fill="url(#soil)" opacity="0.7" />
          <line x1="12" x2={WIDTH - 12} y1={GROUND} y2={GROUND} stroke="currentColor" strokeWidth="1.5" />
          <path d={`M12 ${LINE} H820`} fill="none" stroke="currentColor" strokeWidth="4" />
          <EarthPath known={parts.earth.known} electrode={electrode} boards={boards.length > 0} middle={middle} />

          <Part label="Supply" part={parts.supply} chosen={is("supply")} tap={() => choose("supply")}>
            <Frame x={14} y={8} width={392} height={56} part={parts.supply} chosen={is("supply")} />
            <Words x={28} y={30} title="Supply" lines={parts.supply.lines} />
          </Part>
          <Part label="Service head" part={parts.head} chosen={is("head")} tap={() => choose("head")}>
            <Frame x={120} y={76} width={150} height={84} part={parts.head} chosen={is("head")} />
            <Words x={134} y={100} title="Service head" lines={parts.head.lines} />
          </Part>
          <g fill="var(--d-colors-quiet)">
            <rect
              x="322"
              y="88"
              width="74"
              height="48"
              rx="6"
              fill="var(--d-colors-sheet)"
              stroke="var(--d-colors-faint)"
              strokeWidth="1.5"
            />
            <text x="359" y="118" textAnchor="middle">
              Meter
            </text>
          </g>
          <Part label="Tails" part={parts.tails} chosen={is("tails")} tap={() => choose("tails")}>
            <Frame x={430} y={20} width={150} height={58} part={parts.tails} chosen={is("tails")} />
            <Words x={444} y={43} title="Tails" lines={parts.tails.lines} />
            <path d={`M505 78 V${LINE}`} fill="none" stroke="currentColor" strokeWidth="1" strokeDasharray="2 3" />
          </Part>
          <Part
            label="Switch-fuse"
            part={parts["switch-fuse"]}
            chosen={is("switch-fuse")}
            tap={() => choose("switch-fuse")}
          >
            <Frame
              x={618}
              y={76}
              width={140}
              height={72}
              part={parts["switch-fuse"]}
              chosen={is("switch-fuse")}
              faint={straight}
            />
            <Words x={632} y={100} title="Switch-fuse" lines={parts["switch-fuse"].lines} />
          </Part>
          {boards.length === 0 && (
            <text x="836" y={LINE + 6} fill="var(--d-colors-quiet)">
              no board yet
            </text>
          )}
          {boards.slice(0, 3).map((board, at) => (
            <Part key={board.id} label={board.name} part={board} chosen={false} tap={() => openBoard(board.id)}>
              <rect x="820" y={40 + at * 66} width="166" height="58" rx="7" fill="currentColor" />
              <g fill="var(--d-colors-on-ink)">
                <Words x={834} y={63 + at * 66} title={board.name} lines={board.lines} />
              </g>
              {board.status && <MarkShape status={board.status} x={966} y={58 + at * 66} inverse />}
            </Part>
          ))}

          <Part label="Ze" part={parts.ze} chosen={is("ze")} tap={() => choose("ze")}>
            <Frame x={236} y={176} width={196} height={56} part={parts.ze} chosen={is("ze")} />
            <Words x={250} y={199} title="Ze" lines={parts.ze.lines} figure />
          </Part>
          <Part label="Earth" part={parts.earth} chosen={is("earth")} tap={() => choose("earth")}>
            <Frame {...MET} part={parts.earth} chosen={is("earth")} />
            <text x={MET.x + 18} y={MET.y + 24} style={BOLD}>
              Earth
            </text>
            <Words x={MET.x + MET.width + 14} y={MET.y - 28} title="" lines={parts.earth.lines} />
          </Part>
          {bonds.map((bond, at) => (
            <Bond
              key={bond.id}
              bond={bond}
              x={BONDS_AT + (at - (bonds.length - 1) / 2) * BOND_APART + 76}
              from={middle}
              chosen={is(bond.id)}
              tap={() => choose(bond.id)}
            />
          ))}
        </svg>
      </Box>
    </Box>
  );
}

interface EarthProps {
  known: boolean;
  electrode: boolean;
  boards: boolean;
  middle: number;
}

function EarthPath({ known, electrode, boards, middle }: EarthProps) {
  const dash = known ? undefined : "6 5";
  const down = MET.y + MET.height / 2;
  return (
    <g fill="none" stroke="currentColor" strokeWidth="2.5" strokeDasharray={dash}>
      {electrode ? (
        <g>
          <path
            d={`M195 ${down} V${GROUND + 22} M175 ${GROUND + 22} H215 M182 ${GROUND + 30} H208 M189 ${GROUND + 38} H201`}
          />
          <path d={`M195 ${down} H${MET.x}`} />
        </g>
      ) : (
        <path d={`M195 160 V${down} H${MET.x}`} />
      )}
      {boards && <path d={`M${middle + MET.width / 2} ${down} H900 V${LINE - 14}`} />}
    </g>
  );
}

interface BondProps {
  bond: DrawnBond;
  x: number;
  from: number;
  chosen: boolean;
  tap: () => void;
}

function Bond({ bond, x, from, chosen, tap }: BondProps) {
  const top = MET.y + MET.height;
  const dash = bond.known && !bond.absent ? undefined : "5 4";
  return (
    <Part label={`Bond to ${bond.service}`} part={bond} chosen={chosen} tap={tap}>
      {chosen && <rect x={x - 58} y={GROUND + 6} width="116" height="88" rx="8" fill="var(--d-colors-lamp)" />}
      <path
        d={`M${from} ${top} V${top + 16} H${x} V${GROUND + 24}`}
        fill="none"
        stroke="currentColor"
        strokeWidth="2"
        strokeDasharray={dash}
      />
      <circle
        cx={x}
        cy={GROUND + 24}
        r="9"
        fill={bond.absent ? "var(--d-colors-sheet)" : "currentColor"}
        stroke="currentColor"
        strokeWidth="2"
        strokeDasharray={dash}
      />
      {bond.status && <MarkShape status={bond.status} x={x + 24} y={GROUND + 24} />}
      <g textAnchor="middle" fill={chosen ? "var(--d-colors-on-lamp)" : "currentColor"}>
        <text x={x} y={GROUND + 56} style={BOLD}>
          {bond.service}
        </text>
        <text x={x} y={GROUND + 76} fontFamily="var(--d-fonts-mono)" fontSize="14">
          {bond.lines.join(" ")}
        </text>
      </g>
    </Part>
  );
}

interface PartProps {
  label: string;
  part: DrawnPart;
  chosen: boolean;
  tap: () => void;
  children: ReactNode;
}

/** Something that can be tapped, or reached and pressed by keyboard. */
function Part({ label, part, chosen, tap, children }: PartProps) {
  const key = (event: KeyboardEvent) => {
    if (event.key !== "Enter" && event.key !== " ") return;
    event.preventDefault();
    tap();
  };
  const said = [label, ...(part.lines.length ? part.lines : ["not known yet"])].join(", ");
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={said}
      aria-pressed={chosen}
      onClick={tap}
      onKeyDown={key}
      cursor="pointer"
    >
      {children}
    </g>
  );
}

interface FrameProps {
  x: number;
  y: number;
  width: number;
  height: number;
  part: DrawnPart;
  chosen: boolean;
  faint?: boolean;
}

function Frame({ x, y, width, height, part, chosen, faint }: FrameProps) {
  return (
    <>
      <rect
        x={x}
        y={y}
        width={width}
        height={height}
        rx="7"
        fill={chosen ? "var(--d-colors-lamp)" : "var(--d-colors-sheet)"}
        stroke={faint && !chosen ? "var(--d-colors-faint)" : "currentColor"}
        strokeWidth="2"
        strokeDasharray={part.known ? undefined : "6 5"}
      />
      {part.status && part.status !== "pass" && <MarkShape status={part.status} x={x + width - 16} y={y + 16} />}
    </>
  );
}

function Words({
  x,
  y,
  title,
  lines,
  figure,
}: {
  x: number;
  y: number;
  title: string;
  lines: readonly string[];
  figure?: boolean;
}) {
  return (
    <>
      {title && (
        <text x={x} y={y} style={BOLD}>
          {title}
        </text>
      )}
      {lines.map((line, at) => (
        <text
          key={line}
          x={x}
          y={y + (at + 1) * 22}
          fontFamily={figure ? "var(--d-fonts-mono)" : undefined}
          fontSize={figure ? 21 : 16}
          style={figure ? BOLD : undefined}
        >
          {line}
        </text>
      ))}
    </>
  );
}
