/** Rows and columns: words to the left, figures to the right; a narrow screen scrolls the table, not the page. */
import { Box, Table as ChakraTable } from "@chakra-ui/react";
import type { ReactNode } from "react";

interface Column {
  name: string;
  figure?: boolean;
}

interface Props {
  /** What it shows, for a screen reader, or above it. */
  caption: string;
  columns: readonly Column[];
  rows: readonly { key: string; cells: readonly ReactNode[] }[];
  foot?: readonly ReactNode[];
}

export function Table({ caption, columns, rows, foot }: Props) {
  const cells = (of: readonly ReactNode[]) =>
    of.map((cell, at) => (
      <ChakraTable.Cell key={columns[at]?.name} data-figure={columns[at]?.figure ?? false}>
        {cell}
      </ChakraTable.Cell>
    ));
  return (
    <Box overflowX="auto" width="full" tabIndex={0} role="region" aria-label={caption}>
      <ChakraTable.Root>
        <ChakraTable.Header>
          <ChakraTable.Row>
            {columns.map((column) => (
              <ChakraTable.ColumnHeader key={column.name} textAlign={column.figure ? "end" : undefined}>
                {column.name}
              </ChakraTable.ColumnHeader>
            ))}
          </ChakraTable.Row>
        </ChakraTable.Header>
        <ChakraTable.Body>
          {rows.map((row) => (
            <ChakraTable.Row key={row.key}>{cells(row.cells)}</ChakraTable.Row>
          ))}
        </ChakraTable.Body>
        {foot && (
          <ChakraTable.Footer>
            <ChakraTable.Row fontWeight="bold" borderTopWidth="2px" borderColor="ink">
              {cells(foot)}
            </ChakraTable.Row>
          </ChakraTable.Footer>
        )}
      </ChakraTable.Root>
    </Box>
  );
}
