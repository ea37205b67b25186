/** Inspections of a property or a job as lines of a list: reference, which installation, when, and how each stands. */
import { Box } from "@chakra-ui/react";
import type { Schemas } from "../api/client";
import { Line } from "../ui/Page";
import { day } from "../ui/when";
import { Quiet } from "./entry";

type Past = Schemas["PastOut"];

export function PastLines({ inspections, stage }: { inspections: readonly Past[]; stage: string }) {
  return inspections.map((one) => (
    <Line key={one.id} to={`/inspection/${one.id}/${stage}`}>
      <b>{one.reference ?? "no reference"}</b>
      <Box as="span" flex="1 1 14rem">
        {[one.installation, day(one.inspected_on)].filter(Boolean).join(" · ")}
      </Box>
      <Quiet>{[standing(one)]}</Quiet>
    </Line>
  ));
}

/** How an inspection stands: its outcome, on hold, or in hand. */
function standing(one: Past): string {
  if (one.on_hold) return one.return_on ? `on hold, return ${day(one.return_on)}` : "on hold";
  return one.outcome ?? "in hand";
}
