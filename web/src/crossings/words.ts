/** What crossed, in words: who entered it, where it stands, and what it says. */
import { labelOf } from "../api/labels";
import { shown } from "../inspection/model";
import { useInspection } from "../inspection/open";
import { whereOf } from "../inspection/words";
import { moment } from "../ui/when";
import type { Entry } from "./useCrossings";

/** Who entered something, and when by the clock of their device. */
export const byWhom = ({ author, mine, made_at }: Entry): string => `${mine ? "you" : author}, ${moment(made_at)}`;

/** What a field is called, and a value of it in words: what points at something by the name of that. */
export function useInWords(): {
  label: (entity: string, field: string) => string;
  value: (value: unknown) => string;
  where: (id: string) => string;
} {
  const entities = useInspection((s) => s.model?.entities) ?? {};
  return {
    label: (entity, field) => labelOf(entity, field) || "Belongs to",
    value: (value) => {
      const pointed = typeof value === "string" ? entities[value] : undefined;
      if (pointed) return whereOf(pointed);
      return typeof value === "object" && value !== null ? "as drawn there" : shown(value);
    },
    where: (id) => whereOf(entities[id]),
  };
}
