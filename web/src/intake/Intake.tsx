/** The intake: what the network brings, and the earth and fault current measured at the origin. */
import { useEffect } from "react";
import { setOrder } from "../inspection/desk";
import { useInspection } from "../inspection/sync";
import { FieldInput } from "../ui/FieldInput";
import form from "../ui/Form.module.css";
import { StageHead } from "../ui/StageHead";

const FIGURES = ["ze_ohm", "pscc_ka", "pefc_ka"];

export default function Intake() {
  const id = useInspection((s) => s.model?.id) ?? "";
  const earthing = useInspection((s) => s.model?.entities[id]?.values.earthing);
  const at = (field: string) => ({ kind: "inspection" as const, id, field });
  useEffect(() => {
    setOrder(FIGURES.map((field) => ({ kind: "inspection", id, field })));
  }, [id]);
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
          <FieldInput place={at("earthing_conductor_mm2")} />
          <FieldInput place={at("bonding_mm2")} />
          <FieldInput place={at("bonding_to")} hint="Each service and where it was reached; plastic services need none." />
        </div>
      </div>
    </>
  );
}
