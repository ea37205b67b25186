/** Left disconnected by consent, or out of scope: said of a circuit, a point, a board or a room, and listed for all. */
import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";
import { api, answer } from "../api/client";
import { draftHere } from "../drafts/draft";
import { PaperButton } from "../drafts/PaperButton";
import { explain } from "../api/errors";
import { Fields } from "../fields/Fields";
import { NOT_YOURS, useMayChange } from "../fields/mayChange";
import { useAside } from "../inspection/aside";
import { children } from "../inspection/model";
import { add, setField, settled, useInspection } from "../inspection/open";
import { nameOf } from "../inspection/words";
import { notLeft } from "../letters/told";
import { Button } from "../ui/Button";
import { Section } from "../ui/Page";
import { Told } from "../ui/States";
import { TextField } from "../ui/TextField";
import { tell } from "../ui/tell";
import type { Place } from "../inspection/types";

type Of = "circuit" | "point" | "board" | "room";

export function SetAside({ kind, id }: { kind: Of; id: string }) {
  const model = useInspection((s) => s.model);
  const may = useMayChange("set_aside", "state");
  const by = useAside(id);
  if (!model) return null;
  const own = children(model, "set_aside", model.id).find((setAside) => setAside.values.about_id === id);
  if (!own) {
    // It goes with what it belongs to; on its own it can still be said otherwise.
    return (
      <Box my="2">
        {by && (
          <Box color="quiet">
            With {by.name}: {by.says}.
          </Box>
        )}
        {may ? (
          <Button
            variant="quiet"
            label={`Leave out by agreement: ${nameOf(model.entities[id])}`}
            onClick={() => add("set_aside", model.id, begun(kind, id))}
          >
            Leave out by agreement …
          </Button>
        ) : (
          <Box color="quiet">{NOT_YOURS.decide}</Box>
        )}
      </Box>
    );
  }
  return (
    <Box as="section" aria-label="Left out by agreement" my="3" pl="3" borderLeftWidth="4px" borderColor="ink">
      <Agreement id={own.id} />
    </Box>
  );
}

const begun = (kind: Of, id: string) => ({
  about_entity: kind,
  about_id: id,
  since: new Date().toISOString(),
});

function Agreement({ id }: { id: string }) {
  const stands = useInspection((s) => s.model?.judgement?.set_aside.find((aside) => aside.id === id));
  const may = useMayChange("set_aside", "state");
  const end = () => {
    const removed: Place = { kind: "set_aside", id, field: "removed" };
    setField(removed, true);
    tell("It is in scope again: its tests are asked for.", () => setField(removed, null));
  };
  return (
    <>
      <Fields
        kind="set_aside"
        id={id}
        fields={[
          { field: "state", wide: true },
          { field: "agreed_with", hint: "Without somebody who agreed its tests are still asked for." },
          "until",
          { field: "why", wide: true },
        ]}
      />
      <Flex wrap="wrap" gap="2" align="center" role="status">
        <Box flex="1 1 14rem">
          {stands?.in_force ? "Asks for no test; printed under extent. What was read is judged as found." : ""}
        </Box>
        {may && (
          <Button variant="quiet" onClick={end}>
            End agreement
          </Button>
        )}
      </Flex>
    </>
  );
}

/** Everything that is left out by agreement, and the letter that says in writing what that means. */
export function SetAsides() {
  const model = useInspection((s) => s.model);
  const [to, setTo] = useState("");
  const [trouble, setTrouble] = useState("");
  const [busy, setBusy] = useState(false);
  if (!model) return null;
  const all = children(model, "set_aside", model.id);
  if (all.length === 0) return null;
  const stands = model.judgement?.set_aside.some((aside) => aside.in_force && !aside.gone);
  const mail = async () => {
    setTrouble("");
    setBusy(true);
    try {
      // What was typed a moment ago stands in the letter.
      await settled();
      const params = { path: { inspection_id: model.id } };
      const sent = await answer(api.POST("/api/inspections/{inspection_id}/set-aside", { params, body: { to } }));
      if (sent.state === "sent") tell(`The letter was mailed to ${to}.`);
      setTrouble(notLeft(sent));
    } catch (error) {
      setTrouble(explain(error));
    }
    setBusy(false);
  };
  return (
    <Section title="Left disconnected, out of scope" lead="By agreement: neither tested nor passed.">
      {all.map((setAside) => {
        const known = model.judgement?.set_aside.find(({ id }) => id === setAside.id);
        return (
          <Box key={setAside.id} borderTopWidth="1px" borderColor="line" py="2.5">
            <b>{known?.name ?? nameOf(model.entities[String(setAside.values.about_id)])}</b>
            <Agreement id={setAside.id} />
          </Box>
        );
      })}
      {stands && (
        <Flex gap="3" align="flex-end" wrap="wrap" mt="2">
          <PaperButton
            to={`/api/inspections/${model.id}/set-aside.pdf`}
            title="Letter on what is left by agreement"
            make={() => draftHere({ paper: "set aside" })}
          >
            Print the letter
          </PaperButton>
          <Box flex="1 1 12rem">
            <TextField label="Mail it to" type="email" value={to} change={setTo} maxLength={190} />
          </Box>
          <Button busy={busy} disabled={!to.trim()} onClick={() => void mail()}>
            Mail the letter
          </Button>
        </Flex>
      )}
      {trouble && <Told trouble>{trouble}</Told>}
    </Section>
  );
}
