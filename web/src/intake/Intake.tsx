/** The intake: what the network brings, and the earth and fault current measured at the origin. */
import { useEffect } from "react";
import { setOrder } from "../inspection/desk";
import { children } from "../inspection/model";
import { useInspection } from "../inspection/sync";
import type { Place } from "../inspection/types";
import { Fields } from "../fields/Fields";
import { Section } from "../ui/Page";
import { StageBody, StageHead } from "../ui/StageHead";
import { Bonds } from "./Bonds";

const FIGURES = ["ze_ohm", "pscc_ka", "pefc_ka", "leakage_ma"];
const AT = ["at_clamp_ohm", "at_pipe_ohm"];

export default function Intake() {
  const id = useInspection((s) => s.model?.id) ?? "";
  const earthing = useInspection((s) => s.model?.entities[id]?.values.earthing);
  const bonds = useInspection((s) =>
    s.model
      ? children(s.model, "bond", id)
          .map((bond) => bond.id)
          .join()
      : "",
  );
  useEffect(() => {
    const figures: Place[] = FIGURES.map((field) => ({ kind: "inspection", id, field }));
    const ofBonds = bonds.split(",").filter(Boolean);
    setOrder([...figures, ...ofBonds.flatMap((bond) => AT.map((field): Place => ({ kind: "bond", id: bond, field })))]);
  }, [id, bonds]);
  return (
    <>
      <StageHead title="Intake" line="supply, earthing, and what was measured at the origin" />
      <StageBody>
        <Fields
          kind="inspection"
          id={id}
          fields={[
            { field: "earthing", label: "Earthing arrangement" },
            { field: "phases", words: { "1": "single phase", "3": "three phase" } },
          ]}
        />
        <Section title="Measured at the origin">
          <Fields
            kind="inspection"
            id={id}
            fields={[
              { field: "ze_ohm", label: earthing === "TT" ? "Ze, the electrode's RA" : "Ze" },
              { field: "pscc_ka", label: "PSCC, line to neutral" },
              { field: "pefc_ka", label: "PEFC, line to earth" },
              {
                field: "ze_parallel_removed",
                label: "Was the earthing conductor off everything parallel when Ze was measured?",
                hint: "Supply off, earthing conductor disconnected from bonding; reconnect it before anything is switched on.",
                wide: true,
              },
              { field: "supply_polarity", label: "Polarity of the supply", wide: true },
            ]}
          />
        </Section>
        <Section title="Service and earth">
          <Fields
            kind="inspection"
            id={id}
            fields={[
              { field: "service_fuse_standard", hint: "As marked, or “not verifiable”." },
              "service_fuse_a",
              "tails_mm2",
              { field: "tails_length_m", hint: "From the meter to the board." },
              "tails_protected",
              "switch_fuse_a",
              { field: "neutral_mm2", hint: "Where it is seen; otherwise the tails stand for it." },
              "earthing_conductor_mm2",
              { field: "earth_by", hint: "Where the earthing conductor goes.", wide: true },
              "overhead_supply",
              earthing === "TT" && {
                field: "electrode",
                hint: "Rod, plate or tape; where it is and how it is reached.",
              },
              { field: "leakage_ma", hint: "Clamp meter round the tails, everything on." },
            ]}
          />
        </Section>
        <Bonds inspection={id} />
        <Section title="The home" lead="Moves the code of what depends on it.">
          <Fields kind="inspection" id={id} fields={[{ field: "storey", wide: true }, "flat_above"]} />
        </Section>
      </StageBody>
    </>
  );
}
