/** Entries of the firm's register: each field is kept as it is left; what is refused stays, with its reason. */
import { Box } from "@chakra-ui/react";
import { type QueryKey, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { explainField } from "../api/errors";
import { useFieldSpec } from "../api/reference";
import { SpecField } from "../fields/SpecField";
import type { Value } from "../inspection/types";
import { FieldGrid, Wide } from "../ui/Page";
import { changeEntry, type Entry } from "./entries";

export { addEntry, changeEntry, type Entry } from "./entries";

interface Props {
  entry: Entry;
  field: string;
  /** The query that shows the entry: asked for again once the field is kept. */
  query: QueryKey;
  label?: string;
  hint?: string;
  rows?: number;
}

export function EntryField({ entry, field, query, label, hint, rows }: Props) {
  const queries = useQueryClient();
  const spec = useFieldSpec(entry.kind, field);
  const [attempt, setAttempt] = useState<{ value: Value; refused: string | null } | null>(null);
  if (!spec) return null;
  const value = (attempt ? attempt.value : (entry.values[field] ?? null)) as Value;
  const keep = async (next: Value) => {
    setAttempt({ value: next, refused: null });
    try {
      await changeEntry(entry, { [field]: next });
      await queries.invalidateQueries({ queryKey: query });
      setAttempt(null);
    } catch (error) {
      setAttempt({ value: next, refused: explainField(error, field) });
    }
  };
  return (
    <SpecField
      spec={spec}
      field={field}
      label={label ?? spec.label}
      unit={spec.unit}
      hint={hint}
      refused={attempt?.refused ?? undefined}
      value={value}
      keep={keep}
      rows={rows}
    />
  );
}

interface FieldsProps {
  entry: Entry;
  query: QueryKey;
  fields: readonly string[];
  /** Those that take the whole width. */
  wide?: readonly string[];
}

/** Several fields in a group. */
export function EntryFields({ entry, query, fields, wide = [] }: FieldsProps) {
  return (
    <FieldGrid>
      {fields.map((field) => {
        const whole = wide.includes(field);
        const drawn = (
          <EntryField entry={entry} field={field} query={query} rows={whole && LONG.has(field) ? 3 : undefined} />
        );
        return whole ? <Wide key={field}>{drawn}</Wide> : <Box key={field}>{drawn}</Box>;
      })}
    </FieldGrid>
  );
}

const LONG = new Set(["extent", "leave_out", "notes", "access"]);

/** A text of an entry for reading. */
export const textOf = (entry: Entry | undefined, field: string): string => String(entry?.values[field] ?? "");

/** Words that stand back, parted by dots; what is empty is left out. */
export function Quiet({ children }: { children: readonly (ReactNode | false)[] }) {
  const words = children.filter(Boolean);
  return words.length ? (
    <Box as="span" color="quiet" fontSize="sm">
      {words.map((word, at) => (
        <span key={at}>
          {at > 0 && " · "}
          {word}
        </span>
      ))}
    </Box>
  ) : null;
}
