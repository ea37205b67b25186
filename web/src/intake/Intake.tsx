/** The intake: what the network brings, and the earth and fault current measured at the origin. */
import { useEffect } from "react";
import { setOrder } from "../inspection/desk";
import { children } from "../inspection/model";
import { useInspection } from "../inspection/sync";
import type { Place } from "../inspection/types";
import { FieldInput } from "../ui/FieldInput";
import form from "../ui/Form.module.css";
import { StageHead } from "../ui/StageHead";
import { Bonds } from "./Bonds";

const FIGURES = ["ze_ohm", "pscc_ka", "pefc_ka", "leakage_ma"];
const AT = ["at_clamp_ohm", "at_pipe_ohm"];

export default function Intake() {
  const id = useInspection((s) => s.model?.id) ?? "";
  const earthing = useInspection((s) => s.model?.entities[id]?.values.earthing);
  const at = (field: string) => ({ kind: "inspection" as const, id, field });
  const bonds = useInspection((s) => (s.model ? children(s.model, "bond", id).map((bond) => bond.id).join() : ""));
  useEffect(() => {
    const figures: Place[] = FIGURES.map((field) => ({ kind: "inspection", id, field }));
    const ofBonds = bonds.split(",").filter(Boolean);
    setOrder([...figures, ...ofBonds.flatMap((bond) => AT.map((field): Place => ({ kind: "bond", id: bond, field })))]);
  }, [id, bonds]);
  return (
    <>
      <StageHead title="Intake" line="supply, earthing, and what was measured at the origin" />
      <div className={form.form}>
        <div className={form.group}>
          <FieldInput place={at("earthing")} label="Earthing arrangement" />
          <FieldInput place={at("phases")} words={{ "1": "single phase", "3": "three phase" }} />
        </div>
        <h2>Measured at the origin</h2>
        <div className={form.group}>
          <FieldInput place={at("ze_ohm")} label={earthing === "TT" ? "Ze, the electrode's RA" : "Ze"} />
          <FieldInput place={at("pscc_ka")} label="PSCC, line to neutral" />
          <FieldInput place={at("pefc_ka")} label="PEFC, line to earth" />
          <div className={form.wide}>
            <FieldInput
              place={at("ze_parallel_removed")}
              label="Was the earthing conductor off everything parallel when Ze was measured?"
              hint="Supply off, earthing conductor disconnected from bonding; reconnect it before anything is switched on."
            />
          </div>
          <div className={form.wide}>
            <FieldInput place={at("supply_polarity")} label="Polarity of the supply" />
          </div>
        </div>
        <h2>Service and earth</h2>
        <div className={form.group}>
          <FieldInput place={at("service_fuse_standard")} hint="As marked, or “not verifiable”." />
          <FieldInput place={at("service_fuse_a")} />
          <FieldInput place={at("tails_mm2")} />
          <FieldInput place={at("tails_length_m")} hint="From the meter to the board." />
          <FieldInput place={at("tails_protected")} />
          <FieldInput place={at("switch_fuse_a")} />
          <FieldInput place={at("neutral_mm2")} hint="Where it is seen; otherwise the tails stand for it." />
          <FieldInput place={at("earthing_conductor_mm2")} />
          <div className={form.wide}>
            <FieldInput place={at("earth_by")} hint="Where the earthing conductor goes." />
          </div>
          <FieldInput place={at("overhead_supply")} />
          {earthing === "TT" && <FieldInput place={at("electrode")} hint="Rod, plate or tape; where it is and how it is reached." />}
          <FieldInput place={at("leakage_ma")} hint="Clamp meter round the tails, everything on." />
        </div>
        <Bonds inspection={id} />
        <h2>The home</h2>
        <p className={form.lead}>Moves the code of what depends on it.</p>
        <div className={form.group}>
          <div className={form.wide}>
            <FieldInput place={at("storey")} />
          </div>
          <FieldInput place={at("flat_above")} />
        </div>
      </div>
    </>
  );
}
