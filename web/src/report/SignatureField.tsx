/** A signature: one's own name typed, or drawn with a finger or a pen. */
import { Box, Flex } from "@chakra-ui/react";
import { type PointerEvent, useState } from "react";
import type { Schemas } from "../api/client";
import { Button } from "../ui/Button";
import { TextField } from "../ui/TextField";

export type Signature = Schemas["SignatureIn"];
type Point = [number, number];

/** What a hand draws on, in the units that the server takes. */
const WIDE = 1000;
const HIGH = 300;

interface Props {
  name: string;
  /** Null until something is there. */
  change: (signature: Signature | null) => void;
  refused?: string;
}

export function SignatureField({ name, change, refused }: Props) {
  const [drawn, setDrawn] = useState(false);
  const [typed, setTyped] = useState("");
  const turn = () => {
    setDrawn(!drawn);
    setTyped("");
    change(null);
  };
  return (
    <Flex wrap="wrap" gap="3" align="flex-end">
      <Box flex="1 1 18rem" maxW="30rem">
        {drawn ? (
          <Pad change={change} />
        ) : (
          <TextField
            label="Type your name to sign"
            value={typed}
            change={(words) => {
              setTyped(words);
              change(words.trim() ? { typed: words.trim() } : null);
            }}
            hint={`as the firm has it: ${name}`}
            maxLength={120}
            refused={refused}
          />
        )}
      </Box>
      <Button variant="quiet" onClick={turn}>
        {drawn ? "Type my name" : "Sign with a pen"}
      </Button>
    </Flex>
  );
}

function Pad({ change }: { change: Props["change"] }) {
  const [strokes, setStrokes] = useState<Point[][]>([]);
  const [stroke, setStroke] = useState<Point[] | null>(null);
  const at = (event: PointerEvent<SVGSVGElement>): Point => {
    const { left, top, width, height } = event.currentTarget.getBoundingClientRect();
    const within = (part: number, most: number) => Math.round(Math.min(1, Math.max(0, part)) * most);
    return [within((event.clientX - left) / width, WIDE), within((event.clientY - top) / height, HIGH)];
  };
  const keep = (all: Point[][]) => {
    setStrokes(all);
    change(all.length > 0 ? { strokes: all } : null);
  };
  const path = (points: Point[]) => `M${points.map(([x, y]) => `${x} ${y}`).join(" L")}`;
  return (
    <Box>
      <svg
        viewBox={`0 0 ${WIDE} ${HIGH}`}
        role="img"
        aria-label={strokes.length > 0 ? "Your signature" : "Sign here"}
        style={{ width: "100%", touchAction: "none", border: "1.5px solid currentColor", borderRadius: 8 }}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          setStroke([at(event)]);
        }}
        onPointerMove={(event) => stroke && setStroke([...stroke, at(event)])}
        onPointerUp={() => {
          if (stroke && stroke.length > 1) keep([...strokes, stroke]);
          setStroke(null);
        }}
      >
        <line x1="40" x2={WIDE - 40} y1="230" y2="230" stroke="currentColor" strokeWidth="2" opacity="0.4" />
        {[...strokes, ...(stroke ? [stroke] : [])].map((points, index) => (
          <path key={index} d={path(points)} fill="none" stroke="currentColor" strokeWidth="7" strokeLinecap="round" />
        ))}
      </svg>
      <Button size="sm" variant="quiet" disabled={strokes.length === 0} onClick={() => keep([])}>
        Clear
      </Button>
    </Box>
  );
}
