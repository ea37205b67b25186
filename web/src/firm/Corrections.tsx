/** Reference tables as printed, and the cells that the firm reads otherwise, each with its reason and its history. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, answer, Refused, type Schemas } from "../api/client";
import form from "../ui/Form.module.css";
import css from "./Firm.module.css";

type Firm = Schemas["FirmOut"];
type Correction = Schemas["CorrectionOut"];

interface Props {
  firm: Firm;
  take: (next: Firm) => void;
}

const TITLES: Record<string, string> = {
  cables: "Cables: capacity and voltage drop",
  conductors: "Conductors: resistance",
  devices: "Devices: operating currents",
  duties: "Duties by nation",
  intervals: "Intervals",
  rcd: "RCD trip times",
};
const CELLS: Record<string, string> = {
  ia_multiple: "Operating current, times the rating",
  ia_0s4_a: "Operating current at 0.4 s (A)",
  ia_5s_a: "Operating current at 5 s (A)",
  breaking_ka: "Breaking capacity (kA)",
  status: "Still made",
  milliohm_per_m: "Resistance (mΩ a metre)",
  cpc_mm2: "Usual cpc (mm²)",
  older_cpc_mm2: "Older cpc (mm²)",
  mV_per_A_m: "Voltage drop (mV/A/m)",
  min_ms: "Least time (ms)",
  max_ms: "Greatest time (ms)",
  years: "Years",
  or_event: "Or event",
  who: "Who",
  days: "Days",
  note: "Note",
};
const cellName = (column: string) => CELLS[column] ?? column.replace(/^iz_(.+)$/, "Capacity, method $1 (A)");
const rowName = (row: string) => row.split(" | ").join(" · ");
const day = (moment: string) => new Date(moment).toLocaleDateString("en-GB", { day: "numeric", month: "short", year: "numeric" });

export function Corrections({ firm, take }: Props) {
  const tables = useQuery({
    queryKey: ["tables"],
    queryFn: () => answer(api.GET("/api/firm/tables")),
    staleTime: Number.POSITIVE_INFINITY,
  }).data;
  const inForce = firm.corrections.filter((one) => !one.withdrawn_at);
  const former = firm.corrections.filter((one) => one.withdrawn_at);
  const withdraw = async (one: Correction) =>
    take(await answer(api.DELETE("/api/firm/corrections/{identity}", { params: { path: { identity: one.id } } })));
  return (
    <section>
      <h2>Reference tables</h2>
      <p className={css.lead}>Where your own copy of a standard says otherwise, correct the cell. What is printed stays beside it.</p>
      <ul className={form.rows}>
        {inForce.map((one) => (
          <li key={one.id} className={css.correction}>
            <Said one={one} />
            {firm.may_settle && (
              <button type="button" className={form.button} onClick={() => withdraw(one)}>
                Read as printed
              </button>
            )}
          </li>
        ))}
        {inForce.length === 0 && <li>Every table is read as printed.</li>}
      </ul>
      {firm.may_settle && tables && <Correct tables={tables} take={take} />}
      {former.length > 0 && (
        <details className={form.details}>
          <summary>Earlier corrections ({former.length})</summary>
          <ul className={form.rows}>
            {former.map((one) => (
              <li key={one.id}>
                <Said one={one} />
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}

function Said({ one }: { one: Correction }) {
  return (
    <div>
      <b>
        {TITLES[one.table] ?? one.table}, {rowName(one.row)}
      </b>
      <p>
        {cellName(one.column)}: <s>{one.printed || "empty"}</s> <b className={css.figure}>{one.value || "empty"}</b>
      </p>
      <p className={css.quiet}>
        {one.why} · {one.author}, {day(one.made_at)}
        {one.withdrawn_at && `, withdrawn ${day(one.withdrawn_at)}`}
      </p>
    </div>
  );
}

const NOTHING = { table: "", row: "", column: "", value: "", why: "" };

function Correct({ tables, take }: { tables: Schemas["TableOut"][]; take: (next: Firm) => void }) {
  const [typed, setTyped] = useState(NOTHING);
  const [refused, setRefused] = useState<string | null>(null);
  const table = tables.find((one) => one.name === typed.table);
  const printed = table?.rows.find((one) => one.row === typed.row)?.cells[typed.column];
  const type = (part: Partial<typeof NOTHING>) => setTyped((before) => ({ ...before, ...part }));
  const send = async () => {
    try {
      take(await answer(api.POST("/api/firm/corrections", { body: typed })));
      setTyped(NOTHING);
      setRefused(null);
    } catch (error) {
      setRefused(error instanceof Refused ? error.message : "The server cannot be reached; what you typed stands here.");
    }
  };
  return (
    <form
      className={form.group}
      onSubmit={(e) => {
        e.preventDefault();
        void send();
      }}
    >
      <label className={css.part}>
        <b>Table</b>
        <select aria-label="Table" value={typed.table} onChange={(e) => type({ ...NOTHING, table: e.target.value })}>
          <option value="">choose</option>
          {tables.map((one) => (
            <option key={one.name} value={one.name}>
              {TITLES[one.name] ?? one.name}
            </option>
          ))}
        </select>
      </label>
      {table && (
        <>
          <label className={css.part}>
            <b>Row</b>
            <select aria-label="Row" value={typed.row} onChange={(e) => type({ row: e.target.value })}>
              <option value="">choose</option>
              {table.rows.map((one) => (
                <option key={one.row} value={one.row}>
                  {rowName(one.row)}
                </option>
              ))}
            </select>
          </label>
          <label className={css.part}>
            <b>Cell</b>
            <select aria-label="Cell" value={typed.column} onChange={(e) => type({ column: e.target.value })}>
              <option value="">choose</option>
              {table.columns.map((one) => (
                <option key={one} value={one}>
                  {cellName(one)}
                </option>
              ))}
            </select>
          </label>
          <label className={css.part}>
            <b>Read as</b>
            <input aria-label="Read as" value={typed.value} aria-invalid={refused !== null} maxLength={100} onChange={(e) => type({ value: e.target.value })} />
            <small>{printed !== undefined && `printed: ${printed || "empty"}`}</small>
          </label>
          <label className={`${css.part} ${form.wide}`}>
            <b>Why, and on whose word</b>
            <input aria-label="Why, and on whose word" value={typed.why} maxLength={500} onChange={(e) => type({ why: e.target.value })} />
            <small>{table.source}</small>
          </label>
          <div className={form.wide}>
            {refused && (
              <p role="alert" className={css.trouble}>
                {refused}
              </p>
            )}
            <button type="submit" className={`${form.button} ${form.primary}`} disabled={!typed.row || !typed.column}>
              Correct this cell
            </button>
          </div>
        </>
      )}
    </form>
  );
}
