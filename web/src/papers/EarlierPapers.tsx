/** Earlier papers: a report, an inspection, or a table from elsewhere, looked over and carried into this inspection. */
import { Box, Text } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, answer, type Schemas, Unreachable } from "../api/client";
import { explain } from "../api/errors";
import { fetchProperty } from "../inspection/bag";
import { refresh, settled, useInspection } from "../inspection/open";
import { Button } from "../ui/Button";
import { FileDrop } from "../ui/FileDrop";
import { Line, Lines } from "../ui/Page";
import { Told } from "../ui/States";
import { day } from "../ui/when";
import { ChartMatch } from "./ChartMatch";

type Paper = Schemas["PaperOut"];
type Carry = Schemas["CarryIn"];

const KINDS = {
  "application/pdf": [".pdf"],
  "application/json": [".json"],
  "text/csv": [".csv"],
  "text/plain": [".txt", ".csv"],
  "application/vnd.ms-excel": [".csv"],
  "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet": [".xlsx"],
};

export function EarlierPapers() {
  const id = useInspection((s) => s.model?.id) ?? "";
  const property = useInspection((s) => s.model?.entities[id]?.values.property_id);
  const installation = useInspection((s) => s.model?.entities[id]?.values.installation_id);
  const [paper, setPaper] = useState<Paper | null>(null);
  const [busy, setBusy] = useState("");
  const [trouble, setTrouble] = useState("");
  const [done, setDone] = useState("");

  const attempt = async (what: string, work: () => Promise<void>) => {
    setTrouble("");
    setDone("");
    setBusy(what);
    try {
      await work();
    } catch (error) {
      setTrouble(explain(error));
    }
    setBusy("");
  };
  const read = (file: File) =>
    attempt(`Reading ${file.name} …`, async () => {
      setPaper(null);
      setPaper(
        await answer(
          api.POST("/api/papers", {
            params: { query: { name: file.name.slice(0, 200) } },
            body: file as never,
            bodySerializer: (body: unknown) => body as never,
            headers: { "Content-Type": "application/octet-stream" },
          }),
        ),
      );
    });
  const carry = (what: Carry) =>
    attempt("Carrying over …", async () => {
      // The inspection itself has to be on the server before anything is carried into it.
      if (!(await settled())) throw new Unreachable();
      const params = { path: { inspection_id: id } };
      const made = await answer(api.POST("/api/inspections/{inspection_id}/carry-over", { params, body: what }));
      await refresh();
      setPaper(null);
      setDone(
        `${count(made.circuits, "circuit")} on ${count(made.boards, "board")} copied, not confirmed yet: ` +
          "confirm them under Boards as you see them.",
      );
    });

  return (
    <Box mb="6">
      <FileDrop
        label="File to take over"
        title="Choose a file, or drop it here"
        line="a report issued here (PDF), an inspection (JSON), a circuit chart (CSV, XLSX)"
        accept={KINDS}
        take={([file]) => file && read(file)}
      />
      {busy && <p role="status">{busy}</p>}
      {trouble && <Told trouble>{trouble}</Told>}
      {done && <Told>{done}</Told>}
      {paper?.found && (
        <Found
          found={paper.found}
          name={paper.name}
          busy={!!busy}
          carry={() => carry({ document: paper.document, source: "" })}
        />
      )}
      {paper && paper.cleaned > 0 && (
        <p role="status">
          {paper.cleaned} {paper.cleaned === 1 ? "cell holds" : "cells hold"} a character that cannot be kept; &#xFFFD;
          stands in its place.
        </p>
      )}
      {paper && paper.tables.length > 0 && <ChartMatch paper={paper} busy={!!busy} carry={carry} />}
      {!paper && property != null && (
        <Before
          property={String(property)}
          installation={installation ? String(installation) : null}
          here={id}
          busy={!!busy}
          carry={(one) => carry({ inspection_id: one, source: "" })}
        />
      )}
    </Box>
  );
}

const count = (n: number, word: string) => `${n} ${word}${n === 1 ? "" : "s"}`;

interface FoundProps {
  found: Schemas["FoundOut"];
  name: string;
  busy: boolean;
  carry: () => void;
}

function Found({ found, name, busy, carry }: FoundProps) {
  return (
    <Box mt="3" px="4" py="3" borderWidth="1.5px" borderColor="ink" borderRadius="lg">
      <p>
        <b>{found.reference ?? name}</b> {[found.property_address, day(found.inspected_on)].filter(Boolean).join(" · ")}
      </p>
      <Text fontSize="lg" fontWeight="bold" my="2">
        {count(found.circuits, "circuit")} on {found.boards.join(", ") || "no board"},{" "}
        {count(found.readings, "reading")} to compare with
      </Text>
      <Button variant="action" disabled={busy || !found.circuits} onClick={carry}>
        Copy into this inspection
      </Button>
    </Box>
  );
}

interface BeforeProps {
  property: string;
  installation: string | null;
  here: string;
  busy: boolean;
  carry: (id: string) => void;
}

/** Inspections that this property had before, in Dorrik itself. */
function Before({ property, installation, here, busy, carry }: BeforeProps) {
  const papers = useQuery({
    queryKey: ["property", property],
    queryFn: () => fetchProperty(property),
    retry: false,
  });
  const name = papers.data?.installations.find((one) => one.id === installation)?.values.name;
  const before = (papers.data?.inspections ?? []).filter(
    (inspection) => inspection.id !== here && (!name || !inspection.installation || inspection.installation === name),
  );
  if (!before.length) return null;
  return (
    <Box mt="3">
      <Lines label="Earlier inspections here">
        {before.map((one) => (
          <Line key={one.id}>
            <Box flex="1 1 14rem">
              <b>{one.reference}</b>{" "}
              {[one.installation, day(one.inspected_on), one.outcome].filter(Boolean).join(" · ")}
            </Box>
            <Button disabled={busy} onClick={() => carry(one.id)}>
              Carry {one.reference} over
            </Button>
          </Line>
        ))}
      </Lines>
    </Box>
  );
}
