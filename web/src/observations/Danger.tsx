/** C1: told there and then, made safe with consent, and confirmed in writing. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import { api, answer } from "../api/client";
import { draftHere } from "../drafts/draft";
import { PaperButton } from "../drafts/PaperButton";
import { explain } from "../api/errors";
import { Fields } from "../fields/Fields";
import { NOT_YOURS, useMayChange } from "../fields/mayChange";
import { notLeft } from "../letters/told";
import { setField, settled, useInspection } from "../inspection/open";
import type { FieldOf, Entity } from "../inspection/types";
import { Button } from "../ui/Button";
import { TextField } from "../ui/TextField";
import { Told } from "../ui/States";
import { tell } from "../ui/tell";
import { moment } from "../ui/when";

export function Danger({ observation }: { observation: Entity }) {
  const inspection = useInspection((s) => s.model?.id) ?? "";
  const [to, setTo] = useState("");
  const [trouble, setTrouble] = useState("");
  const [busy, setBusy] = useState(false);
  const v = observation.values;
  const may = useMayChange("observation", "told_at");
  const set = (field: FieldOf<"observation">, value: string | null) =>
    setField({ kind: "observation", id: observation.id, field }, value);
  const mail = async () => {
    setTrouble("");
    setBusy(true);
    try {
      // What was typed a moment ago stands in the notice.
      await settled();
      const sent = await answer(
        api.POST("/api/inspections/{inspection_id}/observations/{observation_id}/notice", {
          params: { path: { inspection_id: inspection, observation_id: observation.id } },
          body: { to },
        }),
      );
      if (sent.state === "sent") tell(`The notice was mailed to ${to}.`);
      setTrouble(notLeft(sent));
    } catch (error) {
      setTrouble(explain(error));
    }
    setBusy(false);
  };
  return (
    <Box
      as="section"
      aria-label="Danger present"
      borderWidth="2px"
      borderColor="ink"
      borderRadius="lg"
      px="4"
      py="3"
      mb="4"
    >
      <Text fontWeight="bold" mb="2">
        C1: tell the person in charge now. Make it safe if they agree. Confirm it in writing.
      </Text>
      <Flex gap="3" align="center" wrap="wrap" mb="3">
        {v.told_at ? (
          <Text>
            Told on <b>{moment(String(v.told_at))}</b>
          </Text>
        ) : may ? (
          <Button variant="action" onClick={() => set("told_at", new Date().toISOString())}>
            Record: told now
          </Button>
        ) : (
          <Text color="quiet">{NOT_YOURS.decide}</Text>
        )}
        {v.told_at && may && (
          <Button size="sm" variant="quiet" onClick={() => set("told_at", null)}>
            Undo
          </Button>
        )}
      </Flex>
      <Fields
        kind="observation"
        id={observation.id}
        fields={[
          "told_to",
          { field: "told_said", wide: true },
          { field: "made_safe", wide: true },
          v.made_safe === "made safe" && "consent_of",
          v.made_safe != null && "made_safe_how",
        ]}
      />
      <Flex gap="3" align="flex-end" wrap="wrap">
        <PaperButton
          to={`/api/inspections/${inspection}/observations/${observation.id}/notice.pdf`}
          title="Notice of danger"
          make={() => draftHere({ paper: "danger", about: observation.id })}
        >
          Print the notice
        </PaperButton>
        <Box flex="1 1 12rem">
          <TextField label="Mail it to" type="email" value={to} change={setTo} maxLength={190} />
        </Box>
        <Button busy={busy} disabled={!to.trim()} onClick={() => void mail()}>
          Mail the notice
        </Button>
      </Flex>
      {trouble && <Told trouble>{trouble}</Told>}
    </Box>
  );
}
