/** Reference tables as printed, and the cells that the firm reads otherwise, each with its reason and its history. */
import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, answer, type Schemas } from "../api/client";
import { explain } from "../api/errors";
import { Button } from "../ui/Button";
import { Fold } from "../ui/Fold";
import { FieldGrid, Line, Lines, Section, Wide } from "../ui/Page";
import { SelectField } from "../ui/SelectField";
import { TextField } from "../ui/TextField";
import { day } from "../ui/when";

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
export function Corrections({ firm, take }: Props) {
  const tables = useQuery({
    queryKey: ["tables"],
    queryFn: () => answer(api.GET("/api/firm/tables")),
    staleTime: Number.POSITIVE_INFINITY,
  }).data;
  const inForce = firm.corrections.filter((correction) => !correction.withdrawn_at);
  const former = firm.corrections.filter((correction) => correction.withdrawn_at);
  const withdraw = async (correction: Correction) =>
    take(
      await answer(api.DELETE("/api/firm/corrections/{identity}", { params: { path: { identity: correction.id } } })),
    );
  return (
    <Section
      first
      title="Reference tables"
      lead="Where your own copy of a standard says otherwise, correct the cell. What is printed stays beside it."
    >
      {inForce.length === 0 && <Box mb="4">Every table is read as printed.</Box>}
      <Lines label="Corrections in force">
        {inForce.map((correction) => (
          <Line key={correction.id}>
            <Said one={correction} />
            {firm.may_settle && <Button onClick={() => withdraw(correction)}>Use printed value</Button>}
          </Line>
        ))}
      </Lines>
      {firm.may_settle && tables && <Correct tables={tables} take={take} />}
      {former.length > 0 && (
        <Fold title={`Earlier corrections (${former.length})`}>
          <Lines>
            {former.map((correction) => (
              <Line key={correction.id}>
                <Said one={correction} />
              </Line>
            ))}
          </Lines>
        </Fold>
      )}
    </Section>
  );
}

function Said({ one }: { one: Correction }) {
  return (
    <Box flex="1 1 20rem">
      <b>
        {TITLES[one.table] ?? one.table}, {rowName(one.row)}
      </b>
      <p>
        {cellName(one.column)}: <s>{one.printed || "empty"}</s>{" "}
        <Box as="b" fontFamily="mono">
          {one.value || "empty"}
        </Box>
      </p>
      <Box color="quiet" fontSize="sm">
        {one.why} · {one.author}, {day(one.made_at.slice(0, 10))}
        {one.withdrawn_at && `, withdrawn ${day(one.withdrawn_at.slice(0, 10))}`}
      </Box>
    </Box>
  );
}

const NOTHING = { table: "", row: "", column: "", value: "", why: "" };
const CHOOSE = ["", "choose"] as const;

function Correct({ tables, take }: { tables: Schemas["TableOut"][]; take: (next: Firm) => void }) {
  const [typed, setTyped] = useState(NOTHING);
  const [refused, setRefused] = useState("");
  const table = tables.find((one) => one.name === typed.table);
  const printed = table?.rows.find((tableRow) => tableRow.row === typed.row)?.cells[typed.column];
  const type = (part: Partial<typeof NOTHING>) => setTyped((before) => ({ ...before, ...part }));
  const send = async (event: FormEvent) => {
    event.preventDefault();
    try {
      take(await answer(api.POST("/api/firm/corrections", { body: typed })));
      setTyped(NOTHING);
      setRefused("");
    } catch (error) {
      setRefused(explain(error, "What you typed is still here."));
    }
  };
  return (
    <form onSubmit={send}>
      <FieldGrid>
        <SelectField
          label="Table"
          value={typed.table}
          choices={[CHOOSE, ...tables.map((one) => [one.name, TITLES[one.name] ?? one.name] as const)]}
          change={(name) => type({ ...NOTHING, table: name })}
        />
        {table && (
          <>
            <SelectField
              label="Row"
              value={typed.row}
              choices={[CHOOSE, ...table.rows.map((tableRow) => [tableRow.row, rowName(tableRow.row)] as const)]}
              change={(row) => type({ row })}
            />
            <SelectField
              label="Cell"
              value={typed.column}
              choices={[CHOOSE, ...table.columns.map((column) => [column, cellName(column)] as const)]}
              change={(column) => type({ column })}
            />
            <TextField
              label="Read as"
              value={typed.value}
              change={(value) => type({ value })}
              refused={refused}
              hint={printed !== undefined && `printed: ${printed || "empty"}`}
              maxLength={100}
            />
            <Wide>
              <TextField
                label="Reason and source"
                value={typed.why}
                change={(why) => type({ why })}
                hint={table.source}
                maxLength={500}
              />
            </Wide>
            <Wide>
              <Button type="submit" variant="action" disabled={!typed.row || !typed.column}>
                Correct this cell
              </Button>
            </Wide>
          </>
        )}
      </FieldGrid>
    </form>
  );
}
