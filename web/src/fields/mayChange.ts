/** Who may change what of an inspection: the server says with each field what changing it is, and what this person may. */
import { useFieldSpec, useReference } from "../api/reference";
import { useInspection, useMay } from "../inspection/open";

/** Who does what this person may not. */
export const NOT_YOURS: Record<string, string> = {
  decide: "An inspector or a supervisor decides this.",
  "settle rules of an inspection": "Comes from the firm; a supervisor changes it.",
};

/** May this person change that field? What is not known yet the server decides. */
export function useMayChange(kind: string, field: string): boolean {
  return useMay(useFieldSpec(kind, field)?.action ?? "write");
}

/** The same asked of many fields at once. */
export function useMayChangeAny(): (kind: string, field: string) => boolean {
  const fields = useReference()?.fields;
  const may = useInspection((s) => s.model?.may);
  return (kind, field) => may?.includes(fields?.[kind]?.[field]?.action ?? "write") ?? true;
}
