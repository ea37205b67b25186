/** The job goes on after it was on hold: somebody is back on site. */
import type { Me } from "../api/client";
import { add, setField } from "../inspection/open";
import { Button } from "../ui/Button";
import type { FieldOf } from "../inspection/types";

export function GoOn({ inspection, me }: { inspection: string; me: Me }) {
  const back = () => {
    const at = (field: FieldOf<"inspection">) => ({ kind: "inspection" as const, id: inspection, field });
    add("attendance", inspection, { who: me.name, purpose: "return visit", arrived_at: new Date().toISOString() });
    setField(at("held_at"), null);
    setField(at("return_on"), null);
  };
  return (
    <Button variant="action" onClick={back}>
      Back on site: go on
    </Button>
  );
}
