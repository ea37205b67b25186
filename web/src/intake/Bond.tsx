/** One main bond: what was found, its conductor, and its continuity at clamp and pipe. */
import { Fields } from "../fields/Fields";
import { useEntity } from "../inspection/select";
import { setField } from "../inspection/open";
import { Button } from "../ui/Button";
import { Section } from "../ui/Page";
import { tell } from "../ui/tell";
import type { Place } from "../inspection/types";

/** What usually comes into a home as metal, the usual ones first. */
export const SERVICES = ["water", "gas", "oil", "structural steel", "lightning protection", "other"];

export function Bond({ id }: { id: string }) {
  const bond = useEntity(id);
  if (!bond || bond.values.removed) return null;
  const service = String(bond.values.service ?? "service");
  const metal = bond.values.state !== "plastic service";
  const takeOut = () => {
    const removed: Place = { kind: "bond", id, field: "removed" };
    setField(removed, true);
    tell(`The bond to ${service} is taken out.`, () => setField(removed, null));
  };
  return (
    <Section
      first
      title={service.charAt(0).toUpperCase() + service.slice(1)}
      lead="One end off, supply isolated, leads nulled; reconnect every bond afterwards."
      tools={
        <Button variant="quiet" label={`Remove bond to ${service}`} onClick={takeOut}>
          Remove
        </Button>
      }
    >
      <Fields
        kind="bond"
        id={id}
        fields={[
          { field: "state", label: `Bond to ${service}`, wide: true },
          metal && { field: "place", label: "Where" },
          metal && "csa_mm2",
          metal && "length_m",
          metal && { field: "at_clamp_ohm", label: `At the clamp, ${service}` },
          metal && { field: "at_pipe_ohm", label: `At the pipe, ${service}` },
        ]}
      />
    </Section>
  );
}
