/** The boards as the supply reaches them, going on where the drawing of the intake ends: each behind the way that feeds it. */
import { Box } from "@chakra-ui/react";
import type { KeyboardEvent } from "react";
import { children } from "../inspection/model";
import { useInspection } from "../inspection/open";
import { nameOf } from "../inspection/words";
import { MarkShape } from "./Mark";
import { worst } from "./standing";
import { tree } from "./ways";

const BOX = { x: 40, width: 280, height: 52, apart: 72, step: 110 };
const TOP = 6;

interface Props {
  chosen: string;
  choose: (id: string) => void;
}

export function BoardTree({ chosen, choose }: Props) {
  const model = useInspection((s) => s.model);
  if (!model) return null;
  const boards = tree(model).map((one, at) => ({
    ...one,
    x: BOX.x + one.depth * BOX.step,
    y: TOP + at * BOX.apart,
  }));
  const deepest = Math.max(...boards.map((one) => one.depth));
  const width = BOX.x + deepest * BOX.step + BOX.width + 8;
  const height = TOP + boards.length * BOX.apart;
  const placed = new Map(boards.map((one) => [one.board.id, one]));
  const last = Math.max(...boards.filter((one) => one.depth === 0).map((one) => one.y));
  return (
    <Box px="4" pb="2.5" overflowX="auto" aria-label="Boards" role="group" color="ink">
      <svg
        viewBox={`0 0 ${width} ${height}`}
        style={{ width: `${width}px`, maxWidth: deepest < 3 ? "100%" : undefined }}
        fontSize="16"
      >
        <path
          d={`M0 ${TOP + BOX.height / 2} H${BOX.x} M${BOX.x / 2} ${TOP + BOX.height / 2} V${last + BOX.height / 2}`}
          stroke="currentColor"
          strokeWidth="4"
          fill="none"
        />
        {boards.map(({ board, depth, feeding, x, y }) => {
          const middle = y + BOX.height / 2;
          const above = feeding && placed.get(feeding.parentId);
          const circuits = children(model, "circuit", board.id).length;
          const told = [feeding && `from way ${nameOf(feeding)}`, circuits === 1 ? "1 circuit" : `${circuits} circuits`]
            .filter(Boolean)
            .join(" · ");
          const status = worst(model.judgement, (id) => id === board.id);
          const here = board.id === chosen;
          const key = (event: KeyboardEvent) => {
            if (event.key !== "Enter" && event.key !== " ") return;
            event.preventDefault();
            choose(board.id);
          };
          return (
            <g key={board.id}>
              {depth === 0 && y > TOP && (
                <path d={`M${BOX.x / 2} ${middle} H${x}`} stroke="currentColor" strokeWidth="4" />
              )}
              {above && (
                <path
                  d={`M${above.x + BOX.step / 2} ${above.y + BOX.height} V${middle} H${x}`}
                  stroke="currentColor"
                  strokeWidth="3"
                  fill="none"
                />
              )}
              <g
                role="button"
                tabIndex={0}
                aria-pressed={here}
                aria-label={`${nameOf(board)}, ${told}`}
                onClick={() => choose(board.id)}
                onKeyDown={key}
                cursor="pointer"
              >
                <rect
                  x={x}
                  y={y}
                  width={BOX.width}
                  height={BOX.height}
                  rx="7"
                  fill={here ? "var(--d-colors-lamp)" : "currentColor"}
                  stroke="currentColor"
                  strokeWidth="2"
                  strokeDasharray={board.values.unconfirmed ? "6 5" : undefined}
                />
                <g fill={here ? "var(--d-colors-on-lamp)" : "var(--d-colors-on-ink)"}>
                  <text x={x + 14} y={y + 22} style={{ fontWeight: 700 }}>
                    {nameOf(board)}
                  </text>
                  <text x={x + 14} y={y + 42} fontSize="14">
                    {told}
                  </text>
                </g>
                {board.values.earthing === "own electrode" && (
                  <path
                    d={`M${x + BOX.width - 26} ${y + BOX.height} v6 m-12 0 h24 m-19 5 h14 m-10 5 h6`}
                    stroke="currentColor"
                    strokeWidth="2"
                    fill="none"
                  />
                )}
                {status && <MarkShape status={status} x={x + BOX.width - 20} y={y + 16} inverse={!here} />}
              </g>
            </g>
          );
        })}
      </svg>
    </Box>
  );
}
