/** Matching the columns of a table with what they are, with every row as it would be taken over and every mistake in it. */
import { Box, Flex } from "@chakra-ui/react";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, answer, type Schemas } from "../api/client";
import { explain } from "../api/errors";
import { Button } from "../ui/Button";
import type { Choice } from "../ui/ChoiceField";
import { DateField } from "../ui/DateField";
import { MatchTable } from "../ui/MatchTable";
import { Told } from "../ui/States";
import { TextField } from "../ui/TextField";

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
  const [measuredOn, setMeasuredOn] = useState("");
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
  const match = (column: number, key: string | null) =>
    setMatched({ ...matched, [sheet]: columns.map((one, i) => (i === column ? key : one)) });
  const startAt = (row: string) => {
    const at = (Number.parseInt(row, 10) || 1) - 1;
    setHeads({ ...heads, [sheet]: Math.min(Math.max(at, 0), table.rows.length - 1) });
  };
  const left = columns.filter((key, i) => !key && table.rows.some((row) => row[i])).length;
  const targets: Choice[] = [["", "left out"], ...paper.targets.map((target): Choice => [target.key, target.label])];
  return (
    <Box mt="4">
      {paper.tables.length > 1 && (
        <Flex wrap="wrap" gap="2" mb="3" role="group" aria-label="Sheet">
          {paper.tables.map((paperTable, i) => (
            <Button key={paperTable.sheet} variant="choice" pressed={i === sheet} onClick={() => setSheet(i)}>
              {paperTable.sheet || `Table ${i + 1}`}
            </Button>
          ))}
        </Flex>
      )}
      <Flex wrap="wrap" align="flex-end" gap="4" mb="3">
        <Box width="9rem">
          <TextField label="Row with the heads" figure value={String(head + 1)} change={startAt} />
        </Box>
        <Box flex="1 1 16rem">Say what each column is. {left > 0 && <b>{left} not matched: left out.</b>}</Box>
      </Flex>
      {preview.isError && <Told trouble>{explain(preview.error)}</Told>}
      <MatchTable
        heads={table.rows[head] ?? []}
        columns={columns}
        targets={targets}
        rows={lines.slice(0, SHOWN).map((line) => ({
          number: line.row,
          cells: table.rows[line.row - 1] ?? [],
          mistakes: line.wrong,
        }))}
        match={match}
      />
      {lines.length > SHOWN && <p>and {lines.length - SHOWN} rows more</p>}
      {wrong.length > 0 && (
        <Told trouble>
          {wrong.length} {wrong.length === 1 ? "row holds" : "rows hold"} a mistake and would be left out (row{" "}
          {wrong
            .slice(0, 6)
            .map((line) => line.row)
            .join(", ")}
          {wrong.length > 6 ? " …" : ""}). Correct the file, or choose another column.
        </Told>
      )}
      <Flex wrap="wrap" gap="4" align="flex-end" mt="3">
        <Box width="14rem">
          <DateField label="Day of its figures, for comparison" value={measuredOn} change={setMeasuredOn} />
        </Box>
        <Button
          variant="action"
          disabled={busy || !lines.some((line) => !line.wrong.length)}
          onClick={() => carry({ chart, measured_on: measuredOn || null, source: paper.name.slice(0, 120) })}
        >
          Copy {lines.length - wrong.length} circuits
        </Button>
      </Flex>
    </Box>
  );
}
