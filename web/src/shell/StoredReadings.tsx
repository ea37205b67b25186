/** Readings that an instrument has stored: a file of them, looked over beside the figures they belong to, then taken. */
import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";
import { api, answer, type Schemas } from "../api/client";
import { explain } from "../api/errors";
import { setField, settled, useInspection } from "../inspection/open";
import { type Place, type Value, placeOf } from "../inspection/types";
import { Button } from "../ui/Button";
import { FileDrop } from "../ui/FileDrop";
import { Told } from "../ui/States";
import { tell } from "../ui/tell";

type Line = Schemas["StoredOut"];

const KINDS = {
  "text/csv": [".csv"],
  "text/plain": [".txt", ".csv"],
  "application/vnd.ms-excel": [".csv"],
  "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet": [".xlsx"],
};
/** So many lines that were not matched are shown at once. */
const SHOWN = 12;

export function StoredReadings({ instrumentId, close }: { instrumentId: string | null; close: () => void }) {
  const id = useInspection((s) => s.model?.id) ?? "";
  const [lines, setLines] = useState<Line[] | null>(null);
  const [message, setTold] = useState("");
  const read = async (file: File) => {
    setTold(`Reading ${file.name} …`);
    setLines(null);
    try {
      // What was entered here is to be there when the lines are held against it.
      await settled();
      setLines(
        await answer(
          api.POST("/api/inspections/{inspection_id}/stored-readings", {
            params: { path: { inspection_id: id }, query: { name: file.name.slice(0, 200) } },
            body: file as never,
            bodySerializer: (body: unknown) => body as never,
            headers: { "Content-Type": "application/octet-stream" },
          }),
        ),
      );
      setTold("");
    } catch (error) {
      setTold(explain(error));
    }
  };
  const take = (which: Line[]) => {
    const before = useInspection.getState().model?.entities ?? {};
    const undo: [Place, Value][] = which.map((stored) => {
      const place = placeOf(stored.entity, stored.entity_id, stored.field);
      return [place, before[place.id]?.values[place.field] ?? null];
    });
    for (const stored of which) {
      const origin = { instrumentId: instrumentId ?? undefined, at: stored.at ?? undefined };
      setField(placeOf(stored.entity, stored.entity_id, stored.field), stored.text, {
        remember: false,
        origin,
      });
    }
    close();
    tell(`${which.length} stored readings taken.`, () => {
      for (const [place, value] of undo) setField(place, value, { remember: false });
    });
  };
  const of = (state: Line["state"]) => lines?.filter((stored) => stored.state === state) ?? [];
  const fresh = of("new");
  const other = of("other");
  return (
    <Box>
      <FileDrop
        label="File of stored readings"
        title="Stored readings"
        line="a table of circuit, point, test, value, unit, time (CSV, XLSX)"
        accept={KINDS}
        take={([file]) => file && void read(file)}
      />
      {message && <Told>{message}</Told>}
      {lines && (
        <>
          <p role="status">
            <b>{fresh.length} new</b>
            {other.length > 0 && `, ${other.length} where another value is entered`}
            {of("same").length > 0 && `, ${of("same").length} are here already`}
            {of("wrong").length > 0 && `, ${of("wrong").length} without a figure`}.
          </p>
          <Troubles lines={[...other, ...of("wrong")]} />
          <Flex wrap="wrap" gap="2" mt="2">
            <Button variant="action" disabled={fresh.length === 0} onClick={() => take(fresh)}>
              Take the {fresh.length} new
            </Button>
            {other.length > 0 && (
              <Button onClick={() => take([...fresh, ...other])}>Take all {fresh.length + other.length}</Button>
            )}
          </Flex>
        </>
      )}
    </Box>
  );
}

function Troubles({ lines }: { lines: Line[] }) {
  return (
    <Box as="ul" ps="5" fontSize="sm" listStyleType="disc">
      {lines.slice(0, SHOWN).map((stored) => (
        <li key={stored.row}>
          Line {stored.row}, {stored.says}: {stored.why}
        </li>
      ))}
      {lines.length > SHOWN && <li>and {lines.length - SHOWN} more</li>}
    </Box>
  );
}
