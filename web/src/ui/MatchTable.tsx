/** A table from elsewhere: over each column what it is taken for, and every mistake at its cell. */
import { Box, Table } from "@chakra-ui/react";
import { type Choice } from "./ChoiceField";
import { SelectField } from "./SelectField";

export interface MatchRow {
  /** As the file counts it. */
  number: number;
  cells: readonly string[];
  mistakes: readonly { column: number; reason: string }[];
}

interface Props {
  heads: readonly string[];
  /** What each column is taken for; null for one that is left out. */
  columns: readonly (string | null)[];
  targets: readonly Choice[];
  rows: readonly MatchRow[];
  match: (column: number, key: string | null) => void;
}

export function MatchTable({ heads, columns, targets, rows, match }: Props) {
  return (
    <Box overflow="auto" maxH="26rem" borderWidth="1.5px" borderColor="line" borderRadius="lg" fontSize="sm">
      <Table.Root>
        <Table.Header>
          <Table.Row>
            <Table.ColumnHeader {...STUCK}>Row</Table.ColumnHeader>
            {columns.map((key, i) => (
              <Table.ColumnHeader key={i} {...STUCK} minW="10rem" color={key ? "ink" : "quiet"}>
                {heads[i] || `column ${i + 1}`}
                <SelectField
                  quiet
                  label={`What column ${i + 1} is`}
                  value={key ?? ""}
                  choices={targets}
                  change={(chosen) => match(i, chosen || null)}
                />
              </Table.ColumnHeader>
            ))}
          </Table.Row>
        </Table.Header>
        <Table.Body>
          {rows.map((row) => (
            <Table.Row key={row.number} data-wrong={row.mistakes.length > 0 || undefined}>
              <Table.Cell>{row.number}</Table.Cell>
              {columns.map((key, i) => {
                const mistake = row.mistakes.find((one) => one.column === i);
                return (
                  <Table.Cell
                    key={i}
                    color={key ? "ink" : "quiet"}
                    whiteSpace="nowrap"
                    data-wrong={mistake ? true : undefined}
                    {...(mistake && WRONG)}
                  >
                    {row.cells[i]}
                    {mistake && (
                      <Box as="small" display="block" fontWeight="normal">
                        {mistake.reason}
                      </Box>
                    )}
                  </Table.Cell>
                );
              })}
            </Table.Row>
          ))}
        </Table.Body>
      </Table.Root>
    </Box>
  );
}

const STUCK = { position: "sticky", top: "0", bg: "sand", zIndex: "1" } as const;
const WRONG = {
  whiteSpace: "normal",
  minWidth: "12rem",
  borderLeftWidth: "4px",
  borderColor: "ink",
  fontWeight: "bold",
} as const;
