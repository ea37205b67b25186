/** Who takes the readings while somebody learns beside, and what a competent person countersigns. */
import { Box, Flex } from "@chakra-ui/react";
import type { Me, Schemas } from "../api/client";
import { useReference } from "../api/reference";
import { NOT_YOURS, useMayChange } from "../fields/mayChange";
import { readBy, useDesk } from "../inspection/desk";
import { setField, useInspection } from "../inspection/open";
import { type Entity, valueIn } from "../inspection/types";
import { useTranslate, whereOf } from "../inspection/words";
import { Button } from "../ui/Button";
import { Dialog } from "../ui/Dialog";
import { nameOfTrainee as name } from "./trainees";

interface Props {
  me: Me;
  here: readonly Entity[];
  open: readonly Schemas["ToCountersignView"][];
  close: () => void;
}

export function TraineeDialog({ me, here, open, close }: Props) {
  const reading = useDesk((s) => s.readBy);
  const may = useMayChange("attendance", "countersigned_at");
  const sign = (id: string) => {
    setField({ kind: "attendance", id, field: "countersigned_by" }, me.name);
    setField({ kind: "attendance", id, field: "countersigned_at" }, new Date().toISOString());
  };
  return (
    <Dialog title="Readings by a trainee" close={close} width="34rem">
      {here.length > 0 && (
        <Flex role="group" aria-label="Who takes the readings" gap="2" wrap="wrap" mb="4">
          <Button variant="choice" pressed={reading === null} onClick={() => readBy(null)}>
            I read
          </Button>
          {here.map((entity) => (
            <Button key={entity.id} variant="choice" pressed={reading === entity.id} onClick={() => readBy(entity.id)}>
              {name(entity)} reads
            </Button>
          ))}
        </Flex>
      )}
      {open.length === 0 && <p>Every reading of a trainee is countersigned.</p>}
      {open.map((toCountersign) => (
        <Box key={toCountersign.attendance_id} mb="4">
          <b>
            {toCountersign.figures.length} by {toCountersign.who}, not countersigned
          </b>
          <Box as="ul" listStyleType="none" maxH="40vh" overflow="auto" my="2">
            {toCountersign.figures.map(({ id, field }) => (
              <Figure key={`${id} ${field}`} id={id} field={field} />
            ))}
          </Box>
          <Button variant="action" disabled={!may} onClick={() => sign(toCountersign.attendance_id)}>
            Countersign {toCountersign.figures.length === 1 ? "it" : `all ${toCountersign.figures.length}`}
          </Button>
        </Box>
      ))}
      {open.length > 0 && !may && <Box color="quiet">{NOT_YOURS.decide}</Box>}
    </Dialog>
  );
}

function Figure({ id, field }: { id: string; field: string }) {
  const translate = useTranslate();
  const fields = useReference()?.fields;
  const entity = useInspection((s) => s.model?.entities[id]);
  if (!entity) return null;
  const spec = fields?.[entity.kind]?.[field];
  return (
    <Flex as="li" gap="3" align="center" py="1" borderTopWidth="1px" borderColor="line">
      <Box flex="1" minW="0">
        {whereOf(entity)} · {translate(spec?.label ?? field)}
      </Box>
      <Box fontFamily="mono" fontWeight="bold">
        {String(valueIn(entity, field) ?? "–")} {spec?.unit}
      </Box>
    </Flex>
  );
}
