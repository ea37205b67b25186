/** Main bonds: each service with what was found, its conductor, and its continuity at clamp and pipe. */
import { Box, Flex } from "@chakra-ui/react";
import { Fields } from "../fields/Fields";
import { children } from "../inspection/model";
import { add, setField, useInspection } from "../inspection/sync";
import type { Entity } from "../inspection/types";
import { Button } from "../ui/Button";
import { Lines, Section } from "../ui/Page";

/** What usually comes into a home as metal, the usual ones first. */
const SERVICES = ["water", "gas", "oil", "structural steel", "lightning protection", "other"];

export function Bonds({ inspection }: { inspection: string }) {
  const model = useInspection((s) => s.model);
  const bonds = model ? children(model, "bond", inspection) : [];
  const there = new Set(bonds.map((bond) => bond.values.service));
  return (
    <Section title="Main bonds" lead="One end off, supply isolated, leads nulled; reconnect every bond afterwards.">
      <Lines label="Main bonds">
        {bonds.map((bond) => (
          <Bond key={bond.id} bond={bond} />
        ))}
      </Lines>
      <Flex wrap="wrap" gap="2" role="group" aria-label="Add a bond">
        {SERVICES.filter((service) => service === "other" || !there.has(service)).map((service) => (
          <Button
            key={service}
            onClick={() => add("bond", inspection, { position: bonds.length + 1, service, state: "present" })}
          >
            + {service}
          </Button>
        ))}
      </Flex>
    </Section>
  );
}

function Bond({ bond }: { bond: Entity }) {
  const service = String(bond.values.service ?? "service");
  const found = bond.values.state !== "plastic service";
  return (
    <Box as="li" borderTopWidth="1px" borderColor="line" py="3">
      <Flex justify="space-between" align="center" gap="3">
        <b>{service.charAt(0).toUpperCase() + service.slice(1)}</b>
        <Button
          variant="quiet"
          label={`Take the bond to ${service} out`}
          onClick={() => setField({ kind: "bond", id: bond.id, field: "removed" }, true)}
        >
          Take out
        </Button>
      </Flex>
      <Fields
        kind="bond"
        id={bond.id}
        fields={[
          { field: "state", label: `Bond to ${service}`, wide: true },
          found && { field: "place", label: "Where" },
          found && "csa_mm2",
          found && "length_m",
          found && { field: "at_clamp_ohm", label: `At the clamp, ${service}` },
          found && { field: "at_pipe_ohm", label: `At the pipe, ${service}` },
        ]}
      />
    </Box>
  );
}
