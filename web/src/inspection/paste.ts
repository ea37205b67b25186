/** A block copied from a spreadsheet, put into the figures from the one in focus on: row by row, column by column.
 *
 * Gaps stay gaps. What no figure takes is told; what a figure refuses stands at it, as if it had been typed there.
 */
import { tell } from "../ui/tell";
import { focusOn, useDesk } from "./desk";
import { setField, useInspection } from "./open";
import type { Place, Value } from "./types";

/** Rows and columns as they stand on screen; null where a test does not apply. */
export type Block = readonly (readonly (Place | null)[])[];

/** No board is larger; what is, was copied by mistake. */
const MOST_CELLS = 4000;
const LONGEST = 20_000;

/** Is it more than one cell? */
export const isBlock = (text: string): boolean => /[\t\n]/.test(text.replace(/\r?\n$/, ""));

/** The cells of what a spreadsheet copies: parted by tabs and lines, in quotes where they hold either. */
export function cellsOf(text: string): string[][] {
  const rows: string[][] = [[]];
  let cell = "";
  let quoted = false;
  const put = () => {
    rows.at(-1)?.push(cell.replace(/\s+/g, " ").trim());
    cell = "";
  };
  for (let at = 0; at < text.length; at++) {
    const letter = text[at] as string;
    if (quoted) {
      if (letter !== '"') cell += letter;
      else if (text[at + 1] === '"') cell += text[at++];
      else quoted = false;
    } else if (letter === '"' && cell === "") quoted = true;
    else if (letter === "\t") put();
    else if (letter === "\n") {
      put();
      rows.push([]);
    } else if (letter !== "\r") cell += letter;
  }
  put();
  return rows.at(-1)?.every((one) => one === "") ? rows.slice(0, -1) : rows;
}

const CORRECT = /^(?:correct|yes|y|ok|pass|passed|✓|✔|√|tick)$/i;
const INCORRECT = /^(?:incorrect|no|n|fail|failed|✗|✘|x|not correct)$/i;

/** What is kept of a cell: words for a tick are ticks, a dash is nothing. */
export function meant(cell: string, check: boolean): string {
  if (/^[-–—]$/.test(cell)) return "";
  if (!check) return cell;
  return CORRECT.test(cell) ? "correct" : INCORRECT.test(cell) ? "incorrect" : cell;
}

/** Put a block in from a place on, and say what became of it. checks: fields that are ticked. */
export function paste(text: string, block: Block, from: Place, checks: ReadonlySet<string>): void {
  const top = block.findIndex((row) => row.some((place) => place?.id === from.id));
  const left = block[top]?.findIndex((place) => place?.field === from.field) ?? -1;
  if (top < 0 || left < 0) return;
  const cells = cellsOf(text);
  const before = useInspection.getState().model?.entities ?? {};
  const width = Math.max(...cells.map((row) => row.length));
  if (text.length > LONGEST * 20 || cells.length * width > MOST_CELLS) {
    tell(`That is a block of ${cells.length} rows by ${width}: nothing was taken.`);
    return;
  }
  focusOn(from);
  // Whose readings they are: those of a trainee are countersigned, however they came in.
  const readBy = useDesk.getState().readBy ?? undefined;
  const undo: [Place, Value][] = [];
  let outside = 0;
  let idle = 0;
  for (const [down, row] of cells.entries()) {
    for (const [right, cell] of row.entries()) {
      const place = block[top + down]?.[left + right];
      if (cell === "" || (place && meant(cell, checks.has(place.field)) === "")) continue;
      if (place === undefined) outside++;
      else if (place === null) idle++;
      else {
        undo.push([place, before[place.id]?.values[place.field] ?? null]);
        const value = meant(cell, checks.has(place.field)).slice(0, LONGEST);
        setField(place, value, { remember: false, origin: { readBy } });
      }
    }
  }
  const replaced = undo.filter(([, value]) => value !== null).length;
  const sentences = [
    `${undo.length} ${undo.length === 1 ? "figure" : "figures"} pasted`,
    replaced && `${replaced} of them over others`,
    idle && `${idle} left out: that test does not apply there`,
    outside && `${outside} left out: beyond the table`,
  ].filter(Boolean);
  tell(`${sentences.join("; ")}.`, () => {
    for (const [place, value] of undo) setField(place, value, { remember: false });
  });
}
