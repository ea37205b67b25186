/** Entries of the firm's book: each field is kept as it is left; what is refused stays, with its reason. */
import { type QueryKey, useQueryClient } from "@tanstack/react-query";
import { useId, useState } from "react";
import { api, answer, Refused, type Schemas } from "../api/client";
import { useFieldSpec } from "../api/reference";
import type { Value } from "../inspection/types";
import { Control, isShort } from "../ui/Control";
import form from "../ui/Form.module.css";
import { Labelled } from "../ui/Labelled";

export type Entry = Schemas["BookEntry"];

/** Make an entry; returns it. Throws Refused with the server's words. */
export async function addEntry(kind: Entry["kind"], parentId: string, values: Record<string, Value>): Promise<Entry> {
  return answer(api.POST("/api/book/{kind}", { params: { path: { kind } }, body: { parent_id: parentId, values } }));
}

export async function changeEntry(entry: Entry, values: Record<string, Value>): Promise<Entry> {
  const path = { kind: entry.kind, entry_id: entry.id };
  return answer(api.PATCH("/api/book/{kind}/{entry_id}", { params: { path }, body: { values } }));
}

/** What the server said of one field, or of the whole. */
export function saidOf(error: unknown, field: string): string {
  if (!(error instanceof Refused)) return "The server cannot be reached. What you typed still stands here.";
  const fields = (error.body as Schemas["Problem"] | null)?.fields ?? [];
  return fields.find((one) => one.field === field)?.message ?? error.message;
}

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
  const id = useId();
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
      setAttempt({ value: next, refused: saidOf(error, field) });
    }
  };
  const refused = attempt?.refused ?? undefined;
  return (
    <Labelled id={id} field={field} label={label ?? spec.label} unit={spec.unit} group={spec.kind === "flag" || isShort(spec)} refused={refused} hint={hint}>
      <Control id={id} spec={spec} value={value} keep={keep} rows={rows} refused={refused} />
    </Labelled>
  );
}

/** Several fields in a group. */
export function EntryFields({ entry, query, fields, wide = [] }: { entry: Entry; query: QueryKey; fields: string[]; wide?: string[] }) {
  return (
    <div className={form.group}>
      {fields.map((field) => (
        <div key={field} className={wide.includes(field) ? form.wide : undefined}>
          <EntryField entry={entry} field={field} query={query} rows={wide.includes(field) && LONG.has(field) ? 3 : undefined} />
        </div>
      ))}
    </div>
  );
}

const LONG = new Set(["extent", "leave_out", "notes", "access"]);

/** A text of an entry for reading. */
export const said = (entry: Entry | undefined, field: string): string => String(entry?.values[field] ?? "");

export const shownDay = (iso: string | null | undefined): string =>
  iso ? new Date(`${iso}T12:00:00Z`).toLocaleDateString("en-GB", { day: "numeric", month: "short", year: "numeric" }) : "";
