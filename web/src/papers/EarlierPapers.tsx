/** Earlier papers: a report, an inspection, or a table from elsewhere, looked over and carried into this inspection. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, answer, Refused, type Schemas } from "../api/client";
import { refresh, settled, useInspection } from "../inspection/sync";
import form from "../ui/Form.module.css";
import { ChartMatch } from "./ChartMatch";
import css from "./EarlierPapers.module.css";

type Paper = Schemas["PaperOut"];
type Carry = Schemas["CarryIn"];

const said = (error: unknown) => (error instanceof Refused ? error.message : "The server cannot be reached. Nothing was carried over.");

export function EarlierPapers() {
  const id = useInspection((s) => s.model?.id) ?? "";
  const property = useInspection((s) => s.model?.entities[id]?.values.property_id);
  const installation = useInspection((s) => s.model?.entities[id]?.values.installation_id);
  const [paper, setPaper] = useState<Paper | null>(null);
  const [busy, setBusy] = useState("");
  const [trouble, setTrouble] = useState("");
  const [done, setDone] = useState("");

  const take = async (file: File | undefined) => {
    if (!file) return;
    setTrouble("");
    setDone("");
    setPaper(null);
    setBusy(`Reading ${file.name} …`);
    try {
      setPaper(
        await answer(
          api.POST("/api/papers", { params: { query: { name: file.name.slice(0, 200) } }, body: file as never, bodySerializer: (body: unknown) => body as never, headers: { "Content-Type": "application/octet-stream" } }),
        ),
      );
    } catch (error) {
      setTrouble(said(error));
    }
    setBusy("");
  };
  const carry = async (what: Carry) => {
    setTrouble("");
    setBusy("Carrying over …");
    try {
      // The inspection itself has to be on the server before anything is carried into it.
      if (!(await settled())) throw new Error("offline");
      const made = await answer(api.POST("/api/inspections/{inspection_id}/carry-over", { params: { path: { inspection_id: id } }, body: what }));
      await refresh();
      setPaper(null);
      setDone(`${count(made.circuits, "circuit")} on ${count(made.boards, "board")} carried over, not confirmed yet: confirm them under Boards as you see them.`);
    } catch (error) {
      setTrouble(said(error));
    }
    setBusy("");
  };

  return (
    <div className={css.papers}>
      <label
        className={css.drop}
        onDragOver={(event) => event.preventDefault()}
        onDrop={(event) => {
          event.preventDefault();
          void take(event.dataTransfer.files[0]);
        }}
      >
        <b>Choose a file, or drop it here</b>
        <span>a report issued here (PDF), an inspection (JSON), a circuit chart (CSV, XLSX)</span>
        <input type="file" accept=".pdf,.json,.csv,.txt,.xlsx,application/pdf,application/json,text/csv" aria-label="File to take over" onChange={(event) => take(event.target.files?.[0])} />
      </label>
      {busy && <p role="status">{busy}</p>}
      {trouble && (
        <p role="alert" className={css.trouble}>
          {trouble}
        </p>
      )}
      {done && (
        <p role="status" className={css.done}>
          {done}
        </p>
      )}
      {paper?.found && <Found found={paper.found} name={paper.name} busy={!!busy} carry={() => carry({ document: paper.document, source: "" })} />}
      {paper && paper.cleaned > 0 && (
        <p role="status">
          {paper.cleaned} {paper.cleaned === 1 ? "cell holds" : "cells hold"} a character that cannot be kept; &#xFFFD; stands in its place.
        </p>
      )}
      {paper && paper.tables.length > 0 && <ChartMatch paper={paper} busy={!!busy} carry={carry} />}
      {!paper && property != null && <Before property={String(property)} installation={installation ? String(installation) : null} here={id} busy={!!busy} carry={(one) => carry({ inspection_id: one, source: "" })} />}
    </div>
  );
}

const count = (n: number, word: string) => `${n} ${word}${n === 1 ? "" : "s"}`;

function Found({ found, name, busy, carry }: { found: Schemas["FoundOut"]; name: string; busy: boolean; carry: () => void }) {
  return (
    <div className={css.found}>
      <p>
        <b>{found.reference ?? name}</b> {[found.property_address, found.inspected_on].filter(Boolean).join(" · ")}
      </p>
      <p className={css.figure}>
        {count(found.circuits, "circuit")} on {found.boards.join(", ") || "no board"}, {count(found.readings, "reading")} to compare with
      </p>
      <button type="button" className={`${form.button} ${form.primary}`} disabled={busy || !found.circuits} onClick={carry}>
        Carry it over
      </button>
    </div>
  );
}

/** Inspections that this property had before, in Dorrik itself. */
function Before({ property, installation, here, busy, carry }: { property: string; installation: string | null; here: string; busy: boolean; carry: (id: string) => void }) {
  const found = useQuery({
    queryKey: ["property", property],
    queryFn: () => answer(api.GET("/api/properties/{entry_id}", { params: { path: { entry_id: property } } })),
    retry: false,
  });
  const name = found.data?.installations.find((one) => one.id === installation)?.values.name;
  const before = (found.data?.inspections ?? []).filter((one) => one.id !== here && (!name || !one.installation || one.installation === name));
  if (!before.length) return null;
  return (
    <ul className={css.before} aria-label="Earlier inspections here">
      {before.map((one) => (
        <li key={one.id}>
          <span>
            <b>{one.reference}</b> {[one.installation, one.inspected_on, one.outcome].filter(Boolean).join(" · ")}
          </span>
          <button type="button" className={form.button} disabled={busy} onClick={() => carry(one.id)}>
            Carry {one.reference} over
          </button>
        </li>
      ))}
    </ul>
  );
}
