/** Matching the columns of a table with what they are, with every row as it would be taken over and every mistake in it. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, answer, Refused, type Schemas } from "../api/client";
import form from "../ui/Form.module.css";
import css from "./EarlierPapers.module.css";

type Paper = Schemas["PaperOut"];

interface Props {
  paper: Paper;
  busy: boolean;
  carry: (what: Schemas["CarryIn"]) => void;
}

/** Rows that stand on the screen; all are read. */
const SHOWN = 40;

export function ChartMatch({ paper, busy, carry }: Props) {
  const [sheet, setSheet] = useState(0);
  const table = paper.tables[sheet] ?? paper.tables[0]!;
  const [matched, setMatched] = useState<Record<number, (string | null)[]>>({});
  const [heads, setHeads] = useState<Record<number, number>>({});
  const [day, setDay] = useState("");
  const columns = matched[sheet] ?? table.columns;
  const head = heads[sheet] ?? table.head;
  const chart = { rows: table.rows, columns, first: head + 1 };
  const preview = useQuery({
    queryKey: ["chart", paper.name, sheet, head, columns],
    queryFn: () => answer(api.POST("/api/papers/chart", { body: chart })),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const lines = preview.isError ? [] : (preview.data?.lines ?? []);
  const wrong = lines.filter((line) => line.wrong.length);
  const match = (column: number, key: string | null) => setMatched({ ...matched, [sheet]: columns.map((one, i) => (i === column ? key : one)) });
  const left = columns.filter((key, i) => !key && table.rows.some((row) => row[i])).length;
  return (
    <div className={css.match}>
      {paper.tables.length > 1 && (
        <div className={form.offers} role="group" aria-label="Sheet">
          {paper.tables.map((one, i) => (
            <button key={one.sheet} type="button" className={form.button} aria-pressed={i === sheet} onClick={() => setSheet(i)}>
              {one.sheet || `Table ${i + 1}`}
            </button>
          ))}
        </div>
      )}
      <p>
        Say what each column is. {left > 0 && <b>{left} not matched: left out.</b>} Heads are taken from row{" "}
        <input
          className={css.number}
          inputMode="numeric"
          aria-label="Row with the heads"
          value={head + 1}
          onChange={(event) => setHeads({ ...heads, [sheet]: Math.min(Math.max((Number.parseInt(event.target.value, 10) || 1) - 1, 0), table.rows.length - 1) })}
        />
        .
      </p>
      {preview.isError && (
        <p role="alert" className={css.trouble}>
          {preview.error instanceof Refused ? preview.error.message : "The server cannot be reached. Nothing was carried over."}
        </p>
      )}
      <div className={css.sheet}>
        <table>
          <thead>
            <tr>
              <th>Row</th>
              {columns.map((key, i) => (
                <th key={i} data-left={key ? undefined : true}>
                  <span>{table.rows[head]?.[i] || `column ${i + 1}`}</span>
                  <select aria-label={`What column ${i + 1} is`} value={key ?? ""} onChange={(event) => match(i, event.target.value || null)}>
                    <option value="">left out</option>
                    {paper.targets.map((target) => (
                      <option key={target.key} value={target.key}>
                        {target.label}
                      </option>
                    ))}
                  </select>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {lines.slice(0, SHOWN).map((line) => (
              <tr key={line.row} data-wrong={line.wrong.length > 0 || undefined}>
                <td>{line.row}</td>
                {columns.map((key, i) => {
                  const mistake = line.wrong.find((one) => one.column === i);
                  return (
                    <td key={i} data-left={key ? undefined : true} data-wrong={mistake ? true : undefined}>
                      {table.rows[line.row - 1]?.[i]}
                      {mistake && <small>{mistake.reason}</small>}
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {lines.length > SHOWN && <p>and {lines.length - SHOWN} rows more</p>}
      {wrong.length > 0 && (
        <p className={css.trouble}>
          {wrong.length} {wrong.length === 1 ? "row holds" : "rows hold"} a mistake and would be left out (row {wrong.slice(0, 6).map((line) => line.row).join(", ")}
          {wrong.length > 6 ? " …" : ""}). Mend the file, or match the column otherwise.
        </p>
      )}
      <div className={css.go}>
        <label>
          <span>Day of its figures, for comparison</span>
          <input type="date" value={day} onChange={(event) => setDay(event.target.value)} />
        </label>
        <button type="button" className={`${form.button} ${form.primary}`} disabled={busy || !lines.some((line) => !line.wrong.length)} onClick={() => carry({ chart, measured_on: day || null, source: paper.name.slice(0, 120) })}>
          Carry {lines.length - wrong.length} circuits over
        </button>
      </div>
    </div>
  );
}
