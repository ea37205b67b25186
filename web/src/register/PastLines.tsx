/** Inspections of a property or a job as lines of a list: reference, which installation, when, and how each stands. */
import { Box } from "@chakra-ui/react";
import type { Schemas } from "../api/client";
import { Line } from "../ui/Page";
import { day } from "../ui/when";
import { Quiet } from "./entry";

type Past = Schemas["PastOut"];

export function PastLines({ inspections, stage }: { inspections: readonly Past[]; stage: string }) {
  return inspections.map((past) => (
    <Line key={past.id} to={`/inspection/${past.id}/${stage}`}>
      <b>{past.reference ?? "no reference"}</b>
      <Box as="span" flex="1 1 14rem">
        {[past.installation, day(past.inspected_on)].filter(Boolean).join(" · ")}
      </Box>
      <Quiet>{[standing(past)]}</Quiet>
    </Line>
  ));
}

/** How an inspection stands: its outcome, on hold, or in hand. */
function standing(past: Past): string {
  if (past.on_hold) return past.return_on ? `on hold, return ${day(past.return_on)}` : "on hold";
  return past.outcome ?? "in hand";
}
