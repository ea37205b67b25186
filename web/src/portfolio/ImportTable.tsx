/** A client's whole portfolio from a table: columns matched, every mistake at its cell, known addresses found again. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import { api, answer, type Schemas } from "../api/client";
import { explain } from "../api/errors";
import { Button } from "../ui/Button";
import type { Choice } from "../ui/ChoiceField";
import { FileDrop } from "../ui/FileDrop";
import { MatchTable } from "../ui/MatchTable";
import { Progress, Told } from "../ui/States";

type Read = Schemas["PortfolioTableOut"];
type Taking = "nothing" | "new" | "all";

/** Which table of the file, and what its columns are taken for. */
interface How {
  sheet: number;
  head?: number;
  columns?: (string | null)[];
}

interface Props {
  client: string;
  /** Something was taken: what is shown of the client is asked for again. */
  done: () => void;
  close: () => void;
}

const KINDS = {
  "text/csv": [".csv"],
  "text/plain": [".txt", ".csv"],
  "application/vnd.ms-excel": [".csv"],
  "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet": [".xlsx"],
};

export function ImportTable({ client, done, close }: Props) {
  const [file, setFile] = useState<File | null>(null);
  const [read, setRead] = useState<Read | null>(null);
  const [busy, setBusy] = useState("");
  const [trouble, setTrouble] = useState("");
  const send = async (chosen: File, taking: Taking, how?: How) => {
    setBusy(taking === "nothing" ? `Reading ${chosen.name} …` : "Importing …");
    setTrouble("");
    try {
      const query = {
        name: chosen.name.slice(0, 200),
        taking,
        ...(how && { sheet: how.sheet }),
        // Of another sheet nothing is known yet: the server guesses.
        ...(how?.columns && { head: how.head, columns: how.columns.map((key) => key ?? "").join(",") }),
      };
      const table = await answer(
        api.POST("/api/portfolio/{client_id}/table", {
          params: { path: { client_id: client }, query },
          body: chosen as never,
          bodySerializer: (body: unknown) => body as never,
          headers: { "Content-Type": "application/octet-stream" },
        }),
      );
      setRead(table);
      if (taking !== "nothing") done();
    } catch (error) {
      setTrouble(explain(error));
    }
    setBusy("");
  };
  const choose = ([chosen]: File[]) => {
    if (!chosen) return;
    setFile(chosen);
    setRead(null);
    void send(chosen, "nothing");
  };
  const taken = read !== null && read.added + read.changed > 0;
  return (
    <Box>
      {!taken && (
        <FileDrop
          label="Table of properties"
          title="Choose a table, or drop it here"
          line="CSV or XLSX, a row for each property"
          accept={KINDS}
          take={choose}
        />
      )}
      {busy && <Progress label={busy} />}
      {trouble && <Told trouble>{trouble}</Told>}
      {read && file && !taken && (
        <Matching
          read={read}
          busy={!!busy}
          change={(how) => send(file, "nothing", how)}
          take={(taking) => send(file, taking, read)}
        />
      )}
      {read && taken && <Taken read={read} close={close} />}
    </Box>
  );
}

interface MatchingProps {
  read: Read;
  busy: boolean;
  change: (how: How) => void;
  take: (taking: Taking) => void;
}

function Matching({ read, busy, change, take }: MatchingProps) {
  const targets: Choice[] = [["", "left out"], ...read.targets.map((one): Choice => [one.key, one.label])];
  const rows = read.sample.map((cells, at) => {
    const number = read.sample_rows[at] ?? 0;
    return { number, cells, mistakes: read.mistakes.filter((one) => one.row === number) };
  });
  const sound = read.new + read.known;
  return (
    <Box mt="4">
      {read.sheets.length > 1 && (
        <Flex wrap="wrap" gap="2" mb="3" role="group" aria-label="Sheet">
          {read.sheets.map((sheet, at) => (
            <Button key={sheet} variant="choice" pressed={at === read.sheet} onClick={() => change({ sheet: at })}>
              {sheet || `Table ${at + 1}`}
            </Button>
          ))}
        </Flex>
      )}
      {read.problem && <Told trouble>{read.problem}</Told>}
      <MatchTable
        heads={read.heads}
        columns={read.columns}
        targets={targets}
        rows={rows}
        match={(column, key) =>
          change({
            sheet: read.sheet,
            head: read.head,
            columns: read.columns.map((one, at) => (at === column ? key : one)),
          })
        }
      />
      <Text my="3" data-figure="import">
        <b>
          {read.rows.toLocaleString()} rows: {read.new.toLocaleString()} new, {read.known.toLocaleString()} known
          {read.different > 0 && ` (${read.different.toLocaleString()} with other values)`}
        </b>
        {read.elsewhere_count > 0 &&
          `. ${read.elsewhere_count} belong to another client and are left out (${read.elsewhere.slice(0, 3).join(", ")}).`}
      </Text>
      {read.mistake_rows > 0 && (
        <Told trouble>
          {read.mistake_rows} {read.mistake_rows === 1 ? "row holds" : "rows hold"} a mistake and would be left out.
          Correct the file and choose it again, or import the others now. Known rows are found again.
          <Mistakes read={read} />
        </Told>
      )}
      {read.cleaned > 0 && (
        <Text color="quiet">{read.cleaned} cells hold a character that cannot be saved; it shows as &#xFFFD;.</Text>
      )}
      <Flex gap="2" wrap="wrap" mt="3">
        <Button variant="action" disabled={busy || read.new === 0} onClick={() => take("new")}>
          Import {read.new.toLocaleString()} new
        </Button>
        {read.different > 0 && (
          <Button disabled={busy || sound === 0} onClick={() => take("all")}>
            Import new, update {read.different.toLocaleString()} known
          </Button>
        )}
      </Flex>
    </Box>
  );
}

/** So many mistakes are told by name. */
const TOLD = 8;

function Mistakes({ read }: { read: Read }) {
  return (
    <Box as="ul" listStyleType="none" mt="2" aria-label="Mistakes">
      {read.mistakes.slice(0, TOLD).map((one) => (
        <li key={`${one.row} ${one.column}`}>
          Row {one.row}, {read.heads[one.column] || `column ${one.column + 1}`}
          {one.text && <> “{one.text.slice(0, 40)}”</>}: {one.reason}
        </li>
      ))}
      {read.mistakes.length > TOLD && <li>and {read.mistakes.length - TOLD} more</li>}
    </Box>
  );
}

function Taken({ read, close }: { read: Read; close: () => void }) {
  return (
    <Told>
      <b>
        {read.added.toLocaleString()} {read.added === 1 ? "property" : "properties"} added
        {read.changed > 0 && `, ${read.changed.toLocaleString()} updated`}.
      </b>{" "}
      {read.mistake_rows > 0 && `${read.mistake_rows} rows with mistakes were left out.`}
      <Box mt="3">
        <Button onClick={close}>Close</Button>
      </Box>
    </Told>
  );
}
