/** The properties by their coordinates, drawn by ourselves: a point each, a number where many lie together. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, answer, type Schemas } from "../api/client";
import { explain } from "../api/errors";
import { pointLook } from "../drawings/StateMark";
import { Button } from "../ui/Button";
import { Told } from "../ui/States";
import { asked, type Looked } from "./query";

type Bounds = Schemas["BoundsOut"];
type Cell = Schemas["MapCellOut"];

interface Props {
  client: string;
  looked: Looked;
  lit: string;
  light: (id: string) => void;
}

const WIDTH = 384;
const HEIGHT = 460;
/** Kilometres of a degree of latitude. */
const KM_A_DEGREE = 110.574;

export function PropertyMap({ client, looked, lit, light }: Props) {
  const navigate = useNavigate();
  const [part, setPart] = useState<Bounds | null>(null);
  const map = useQuery({
    queryKey: ["map", client, asked(looked), part],
    queryFn: () =>
      answer(
        api.GET("/api/portfolio/map", {
          params: { query: { ...(client && { client_id: client }), ...asked(looked), ...part } },
        }),
      ),
    placeholderData: keepPreviousData,
    staleTime: 2000,
  });
  if (map.isError) return <Told trouble>{explain(map.error)}</Told>;
  if (!map.data) return <Box height={HEIGHT} aria-hidden />;
  const shown = map.data.part && evenly(map.data.part);
  if (!shown)
    return (
      <Text color="quiet" py="4">
        No property here has coordinates. Enter them on the property, or import them with its table.
      </Text>
    );
  const open = (cell: Cell) => {
    if (cell.property_id) navigate(`/property/${cell.property_id}`);
    else setPart(around(shown, cell.latitude, cell.longitude, 0.25));
  };
  const zoom = (by: number) => {
    const [latitude, longitude] = [(shown.south + shown.north) / 2, (shown.west + shown.east) / 2];
    setPart(around(shown, latitude, longitude, by));
  };
  return (
    <Box position="sticky" top="3" alignSelf="start">
      <Box bg="sheet" borderWidth="1px" borderColor="line" borderRadius="lg" overflow="hidden" color="ink">
        <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} width="100%" role="group" aria-label="Map of the properties">
          {map.data.cells.map((cell) => (
            <Point
              key={`${cell.latitude} ${cell.longitude}`}
              cell={cell}
              part={shown}
              lit={lit}
              light={light}
              open={open}
            />
          ))}
          <Scale part={shown} />
        </svg>
      </Box>
      <Flex gap="2" mt="2" wrap="wrap">
        <Button size="sm" onClick={() => zoom(0.5)}>
          Zoom in
        </Button>
        <Button size="sm" onClick={() => zoom(2)}>
          Zoom out
        </Button>
        <Button size="sm" disabled={part === null} onClick={() => setPart(null)}>
          Show all
        </Button>
      </Flex>
    </Box>
  );
}

interface PointProps {
  cell: Cell;
  part: Bounds;
  lit: string;
  light: (id: string) => void;
  open: (cell: Cell) => void;
}

function Point({ cell, part, lit, light, open }: PointProps) {
  const x = ((cell.longitude - part.west) / (part.east - part.west)) * WIDTH;
  const y = (1 - (cell.latitude - part.south) / (part.north - part.south)) * HEIGHT;
  const look = pointLook(cell.state, cell.late);
  const radius = cell.count === 1 ? 6 : Math.min(22, 8 + Math.log2(cell.count) * 2.2);
  const called =
    cell.count === 1
      ? `${cell.address}: ${cell.state}${cell.late ? ", late" : ""}`
      : `${cell.count} properties, most urgent: ${cell.state}${cell.late ? ", some late" : ""}`;
  const solid = look === "solid";
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={called}
      style={{ cursor: "pointer" }}
      onClick={() => open(cell)}
      onKeyDown={(event) => (event.key === "Enter" || event.key === " ") && open(cell)}
      onPointerEnter={() => cell.property_id && light(cell.property_id)}
    >
      <title>{called}</title>
      {lit !== "" && lit === cell.property_id && <circle cx={x} cy={y} r={radius + 6} fill="var(--d-colors-lamp)" />}
      <circle
        cx={x}
        cy={y}
        r={radius}
        fill={solid ? "currentColor" : look === "half" ? "var(--d-colors-half)" : "var(--d-colors-sheet)"}
        stroke={look === "done" ? "var(--d-colors-faint)" : "currentColor"}
        strokeWidth={look === "half" ? 2.4 : 1.6}
      />
      {cell.count > 1 && (
        <text
          x={x}
          y={y + 4}
          textAnchor="middle"
          fontSize="12"
          fontWeight="700"
          fill={solid ? "var(--d-colors-on-ink)" : "currentColor"}
        >
          {cell.count}
        </text>
      )}
    </g>
  );
}

/** How far a thumb's length is. */
function Scale({ part }: { part: Bounds }) {
  const km = (part.north - part.south) * KM_A_DEGREE;
  const wanted = km / 5;
  const step = [0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50, 100, 200, 500].find((one) => one >= wanted) ?? 500;
  const length = (step / km) * HEIGHT;
  return (
    <g aria-hidden>
      <line x1="16" x2={16 + length} y1={HEIGHT - 16} y2={HEIGHT - 16} stroke="currentColor" strokeWidth="2" />
      <text x="16" y={HEIGHT - 24} fontSize="12" fill="var(--d-colors-quiet)">
        {step < 1 ? `${step * 1000} m` : `${step} km`}
      </text>
      <path d={`M${WIDTH - 20} 30 l-5 12 l5 -4 l5 4 z`} fill="currentColor" />
      <text x={WIDTH - 20} y="24" fontSize="12" textAnchor="middle" fill="var(--d-colors-quiet)">
        N
      </text>
    </g>
  );
}

/** A part of the map that is as wide as it is high on the ground: a degree of longitude is shorter than one of latitude. */
function evenly(part: Bounds): Bounds {
  const [latitude, longitude] = [(part.south + part.north) / 2, (part.west + part.east) / 2];
  const shorter = Math.max(Math.cos((latitude * Math.PI) / 180), 0.05);
  const high = Math.max(part.north - part.south, ((part.east - part.west) * shorter * HEIGHT) / WIDTH);
  const wide = (high * WIDTH) / HEIGHT / shorter;
  return {
    south: latitude - high / 2,
    north: latitude + high / 2,
    west: longitude - wide / 2,
    east: longitude + wide / 2,
  };
}

const within = (degrees: number, most: number) => Math.min(Math.max(degrees, -most), most);

/** A part around a place, so many times as large. */
function around(part: Bounds, latitude: number, longitude: number, by: number): Bounds {
  const high = Math.max((part.north - part.south) * by, 0.0008) / 2;
  const wide = Math.max((part.east - part.west) * by, 0.0008) / 2;
  return {
    south: within(latitude - high, 90),
    north: within(latitude + high, 90),
    west: within(longitude - wide, 180),
    east: within(longitude + wide, 180),
  };
}
