/** Instruments of this inspection, taken from the firm's book as it is today; their numbers go into the report. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, answer } from "../api/client";
import { children } from "../inspection/model";
import { add, setField, useInspection } from "../inspection/sync";
import type { Value } from "../inspection/types";
import form from "../ui/Form.module.css";
import { Mark } from "../ui/Mark";

const ACCURACY = ["continuity", "insulation", "loop", "trip"].flatMap((one) => [`${one}_percent`, `${one}_digits`]);
const TAKEN = ["name", "sort", "serial", "calibration_due", ...ACCURACY];

export function Instruments({ inspection }: { inspection: string }) {
  const model = useInspection((s) => s.model);
  const book = useQuery({ queryKey: ["instruments"], queryFn: () => answer(api.GET("/api/instruments")), retry: false });
  if (!model) return null;
  const used = children(model, "meter", inspection);
  const notes = model.judgement?.notes ?? [];
  const others = (book.data?.instruments ?? []).filter(({ entry }) => !entry.values.retired && !used.some((one) => one.values.register_id === entry.id));
  const take = (entry: (typeof others)[number]["entry"]) => {
    const fields: Record<string, Value> = { register_id: entry.id };
    for (const field of TAKEN) if (entry.values[field]) fields[field] = entry.values[field] as Value;
    add("meter", inspection, fields);
  };
  return (
    <>
      <h2>Instruments</h2>
      <ul className={form.rows}>
        {used.map((one) => {
          const note = notes.find((n) => n.id === one.id);
          return (
            <li key={one.id} className={form.title} style={{ marginBottom: 0 }}>
              <span>
                <b>{String(one.values.name ?? "Instrument")}</b> {String(one.values.serial ?? "")}{" "}
                {note && (
                  <>
                    <Mark status={note.status} /> {note.reason}
                  </>
                )}
              </span>
              <button type="button" className={form.quiet} onClick={() => setField({ kind: "meter", id: one.id, field: "removed" }, true)}>
                Take out
              </button>
            </li>
          );
        })}
      </ul>
      <div className={form.offers}>
        {others.map(({ entry, calibration }) => (
          <button key={entry.id} type="button" className={form.button} onClick={() => take(entry)}>
            + {String(entry.values.name ?? "Instrument")} {String(entry.values.serial ?? "")}{" "}
            {calibration.status !== "pass" && <Mark status={calibration.status} />}
          </button>
        ))}
        {book.data && book.data.instruments.length === 0 && (
          <p className={form.lead}>
            No instrument in the book yet: <Link to="/instruments" style={{ textDecoration: "underline" }}>enter them once</Link>, then take them with a tap.
          </p>
        )}
        {book.isError && <p className={form.lead}>The book cannot be reached now; instruments can be added later.</p>}
      </div>
    </>
  );
}
