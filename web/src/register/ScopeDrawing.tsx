/** How large a job is, as a picture: its boards with a ring or a line for each circuit, and the points below, those to be
 * opened filled. */
import { Box } from "@chakra-ui/react";

interface Props {
  boards: number;
  rings: number;
  radials: number;
  opened: number;
  tested: number;
}

const WIDTH = 640;
const WAY = 22;
/** So many points are drawn; more are told. */
const MOST = 120;
const DOT = 11;
const A_ROW = Math.floor(WIDTH / DOT);

export function ScopeDrawing({ boards, rings, radials, opened, tested }: Props) {
  const count = Math.max(boards, 1);
  const circuits = [...Array<"ring">(rings).fill("ring"), ...Array<"radial">(radials).fill("radial")];
  const each = Math.ceil(circuits.length / count) || 1;
  const wide = Math.min(each, Math.floor(WIDTH / WAY)) * WAY + 16;
  const points = Math.min(Math.max(tested, opened), MOST);
  const rows = Math.ceil(points / A_ROW);
  const height = count * 46 + rows * DOT + 14;
  const description = [
    `${count} ${count === 1 ? "board" : "boards"}`,
    `${rings} rings`,
    `${radials} radials`,
    `${tested} points tested`,
    `${opened} opened`,
  ].join(", ");
  return (
    <Box color="ink">
      <svg viewBox={`0 0 ${WIDTH} ${height}`} width="100%" role="img" aria-label={description}>
        {Array.from({ length: count }, (_, board) => (
          <g key={board} transform={`translate(0 ${board * 46})`}>
            <rect
              x="1"
              y="1"
              width={Math.max(wide, 90)}
              height="36"
              rx="6"
              fill="none"
              stroke="currentColor"
              strokeWidth="1.6"
            />
            {circuits.slice(board * each, (board + 1) * each).map((kind, at) => (
              <g key={at} transform={`translate(${8 + at * WAY} 19)`}>
                {kind === "ring" ? (
                  <circle cx="9" cy="0" r="7" fill="none" stroke="currentColor" strokeWidth="2" />
                ) : (
                  <line x1="9" x2="9" y1="-8" y2="8" stroke="currentColor" strokeWidth="2" />
                )}
              </g>
            ))}
          </g>
        ))}
        {Array.from({ length: points }, (_, at) => (
          <circle
            key={at}
            cx={6 + (at % A_ROW) * DOT}
            cy={count * 46 + 6 + Math.floor(at / A_ROW) * DOT}
            r="3.6"
            fill={at < opened ? "currentColor" : "none"}
            stroke="currentColor"
            strokeWidth="1.2"
          />
        ))}
      </svg>
    </Box>
  );
}
