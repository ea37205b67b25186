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
  /** How many boards stand between it and the tails. */
  depth: number;
  /** It has an electrode of its own. */
  electrode: boolean;
}

export type PartKey = "supply" | "head" | "meter" | "isolator" | "switch-fuse" | "tails" | "ze" | "earth";

interface Props {
  parts: Record<PartKey, DrawnPart>;
  /** What is said not to be there: drawn faintly, with the line going on. */
  absent: readonly PartKey[];
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
const BOARD = { x: 800, y: 84, width: 186, height: 56, apart: 64, step: 22 };
/** More boards than this are told in words: the stage of the boards shows them all. */
const MOST_BOARDS = 3;
/** A style, not an attribute: the reset of the component library is stronger than those. */
const BOLD = { fontWeight: 700 };
/** The colour of words on a part that is chosen; otherwise that of what they stand in. */
const wordsOn = (lit: boolean | undefined) => (lit ? "var(--d-colors-on-lamp)" : undefined);

export function IntakeDrawing(props: Props) {
  const { parts, absent, electrode, bonds, boards, chosen, choose, openBoard } = props;
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
          <path d={`M12 ${LINE} H${BOARD.x}`} fill="none" stroke="currentColor" strokeWidth="4" />
          <EarthPath known={parts.earth.known} electrode={electrode} boards={boards.length > 0} middle={middle} />

          <Part label="Supply" part={parts.supply} chosen={is("supply")} tap={() => choose("supply")}>
            <Frame x={14} y={8} width={392} height={56} part={parts.supply} chosen={is("supply")} />
            <Words x={28} y={30} title="Supply" lines={parts.supply.lines} chosen={is("supply")} />
          </Part>
          <Part label="Service head" part={parts.head} chosen={is("head")} tap={() => choose("head")}>
            <Frame x={120} y={76} width={150} height={84} part={parts.head} chosen={is("head")} />
            <Words x={134} y={100} title="Service head" lines={parts.head.lines} chosen={is("head")} />
          </Part>
          <Part label="Meter" part={parts.meter} chosen={is("meter")} tap={() => choose("meter")}>
            <Frame x={284} y={76} width={114} height={72} part={parts.meter} chosen={is("meter")} />
            <Words x={296} y={100} title="Meter" lines={parts.meter.lines} chosen={is("meter")} />
          </Part>
          <Part label="Isolator" part={parts.isolator} chosen={is("isolator")} tap={() => choose("isolator")}>
            <Frame
              x={412}
              y={88}
              width={104}
              height={52}
              part={parts.isolator}
              chosen={is("isolator")}
              faint={absent.includes("isolator")}
            />
            <Words x={424} y={110} title="Isolator" lines={parts.isolator.lines} chosen={is("isolator")} />
          </Part>
          <Part label="Tails" part={parts.tails} chosen={is("tails")} tap={() => choose("tails")}>
            <Frame x={490} y={14} width={150} height={56} part={parts.tails} chosen={is("tails")} />
            <Words x={504} y={37} title="Tails" lines={parts.tails.lines} chosen={is("tails")} />
            <path d={`M566 70 V${LINE}`} fill="none" stroke="currentColor" strokeWidth="1" strokeDasharray="2 3" />
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
              faint={absent.includes("switch-fuse")}
            />
            <Words x={632} y={100} title="Switch-fuse" lines={parts["switch-fuse"].lines} chosen={is("switch-fuse")} />
          </Part>
          {boards.length === 0 && (
            <text x="836" y={LINE + 6} fill="var(--d-colors-quiet)">
              no board yet
            </text>
          )}
          {boards.slice(0, MOST_BOARDS).map((board, at) => (
            <Board key={board.id} board={board} at={at} tap={() => openBoard(board.id)} />
          ))}
          {boards.length > MOST_BOARDS && (
            <text x={BOARD.x} y={BOARD.y + MOST_BOARDS * BOARD.apart + 16} fill="var(--d-colors-quiet)">
              and {boards.length - MOST_BOARDS} more
            </text>
          )}

          <Part label="Ze" part={parts.ze} chosen={is("ze")} tap={() => choose("ze")}>
            <Frame x={236} y={176} width={196} height={56} part={parts.ze} chosen={is("ze")} />
            <Words x={250} y={199} title="Ze" lines={parts.ze.lines} chosen={is("ze")} figure />
          </Part>
          <Part label="Earth" part={parts.earth} chosen={is("earth")} tap={() => choose("earth")}>
            <Frame {...MET} part={parts.earth} chosen={is("earth")} />
            <text x={MET.x + 18} y={MET.y + 24} style={BOLD} fill={wordsOn(is("earth"))}>
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

/** A board, under the one that feeds it. */
function Board({ board, at, tap }: { board: DrawnBoard; at: number; tap: () => void }) {
  const x = BOARD.x + Math.min(board.depth, 3) * BOARD.step;
  const y = BOARD.y + at * BOARD.apart;
  const width = BOARD.x + BOARD.width - x;
  const middle = y + BOARD.height / 2;
  return (
    <Part label={board.name} part={board} chosen={false} tap={tap}>
      {board.depth > 0 && (
        <path
          d={`M${x - BOARD.step / 2} ${y - (BOARD.apart - BOARD.height)} V${middle} H${x}`}
          fill="none"
          stroke="currentColor"
          strokeWidth="3"
        />
      )}
      <rect x={x} y={y} width={width} height={BOARD.height} rx="7" fill="currentColor" />
      <g fill="var(--d-colors-on-ink)">
        <Words x={x + 14} y={y + 23} title={board.name} lines={board.lines} />
      </g>
      {board.electrode && (
        <path
          d={`M${x + width - 20} ${y + 30} v8 m-9 0 h18 m-15 5 h12 m-9 5 h6`}
          fill="none"
          stroke="var(--d-colors-on-ink)"
          strokeWidth="2"
        />
      )}
      {board.status && <MarkShape status={board.status} x={x + width - 20} y={y + 18} inverse />}
    </Part>
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
      {boards && <path d={`M${middle + MET.width / 2} ${down} H${BOARD.x - 14} V${LINE + 18} H${BOARD.x}`} />}
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
      {/* A thumb hits the whole of it, not its letters alone. */}
      <rect
        x={x - 58}
        y={GROUND + 6}
        width="116"
        height="88"
        rx="8"
        fill={chosen ? "var(--d-colors-lamp)" : "transparent"}
      />
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
  chosen,
}: {
  x: number;
  y: number;
  title: string;
  lines: readonly string[];
  figure?: boolean;
  /** They stand on a frame that is lit. */
  chosen?: boolean;
}) {
  const fill = wordsOn(chosen);
  return (
    <>
      {title && (
        <text x={x} y={y} style={BOLD} fill={fill}>
          {title}
        </text>
      )}
      {lines.map((line, at) => (
        <text
          key={line}
          x={x}
          y={y + (at + 1) * 22}
          fill={fill}
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
