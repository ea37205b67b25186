/** What to come back to, in walking order: a tap goes there, another ends it. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import { NOT_YOURS, useMayChange } from "../fields/mayChange";
import { addTo, done, showList, toLimitation, toObservation, type ToComeBack } from "../inspection/comeBack";
import { useGoTo } from "../inspection/goTo";
import { children } from "../inspection/model";
import { setField, useInspection } from "../inspection/open";
import { MarkedPhoto } from "../photos/MarkedPhoto";
import { Button } from "../ui/Button";
import { TextField } from "../ui/TextField";
import { tell } from "../ui/tell";

export function ComeBackList({ things }: { things: ToComeBack[] }) {
  const may = useMayChange("come_back", "done_at");
  return (
    <>
      <Box as="ul" listStyleType="none" aria-label="To come back to">
        {things.map((toComeBack) => (
          <Row key={toComeBack.id} one={toComeBack} may={may} />
        ))}
      </Box>
      {!may && things.length > 0 && <Box color="quiet">{NOT_YOURS.decide}</Box>}
    </>
  );
}

function Row({ one, may }: { one: ToComeBack; may: boolean }) {
  const goTo = useGoTo();
  const [limiting, setLimiting] = useState(false);
  const go = () => {
    showList(false);
    goTo({ stage: one.stage, entity: one.entity, id: one.entity_id, field: one.field || undefined });
  };
  return (
    <Box as="li" borderTopWidth="1px" borderColor="line" py="2.5">
      <b>{one.where}</b>
      {one.gone && <Text>No longer in this inspection: finish it, or move it.</Text>}
      {one.asked_by && (
        <Text>
          <b>{one.asked_by} asks:</b>
        </Text>
      )}
      {one.what && <p>{one.what}</p>}
      {one.asked_by && may && <Answer id={one.id} />}
      <Small of={one.id} />
      {limiting ? (
        <Limiting one={one} close={() => setLimiting(false)} />
      ) : (
        <Flex wrap="wrap" gap="2" mt="1.5">
          {may && (
            <Button variant="action" label={`${one.where}: done`} onClick={() => tell("Done.", done(one.id))}>
              Done
            </Button>
          )}
          {!one.gone && (
            <Button label={`${one.where}: go there`} onClick={go}>
              Go there
            </Button>
          )}
          <Button variant="quiet" label={`${one.where}: word, photo`} onClick={() => addTo(one.id)}>
            Word, photo …
          </Button>
          {may && (
            <>
              <Button variant="quiet" label={`${one.where}: limitation`} onClick={() => setLimiting(true)}>
                Limitation …
              </Button>
              <Button
                variant="quiet"
                label={`${one.where}: observation`}
                onClick={() => tell("Recorded as an observation: give it its code.", toObservation(one))}
              >
                Observation
              </Button>
            </>
          )}
        </Flex>
      )}
    </Box>
  );
}

/** What the reviewer is told; kept as it is left. */
function Answer({ id }: { id: string }) {
  const kept = useInspection((s) => s.model?.entities[id]?.values.answer);
  const [answer, setAnswer] = useState(String(kept ?? ""));
  return (
    <TextField
      label="Answer"
      value={answer}
      change={setAnswer}
      leave={() => setField({ kind: "come_back", id, field: "answer" }, answer.trim() || null)}
      maxLength={500}
    />
  );
}

/** Why it stays undone, from the usual reasons or in own words, and with whom that was agreed. */
const USUAL = ["No access today", "Would need the power off", "Would damage decoration", "Client did not want it"];

function Limiting({ one, close }: { one: ToComeBack; close: () => void }) {
  const [reason, setReason] = useState("");
  const [agreed, setAgreed] = useState("");
  return (
    <Box mt="2">
      <Flex wrap="wrap" gap="1.5" mb="2" role="group" aria-label="Usual reasons">
        {USUAL.map((words) => (
          <Button key={words} variant="choice" pressed={reason === words} onClick={() => setReason(words)}>
            {words}
          </Button>
        ))}
      </Flex>
      <TextField label="Reason" value={reason} change={setReason} maxLength={300} />
      <TextField label="Agreed with" value={agreed} change={setAgreed} maxLength={120} />
      <Flex gap="2" mt="2">
        <Button
          variant="action"
          disabled={!reason.trim()}
          onClick={() => tell("Moved to the limitations.", toLimitation(one, reason.trim(), agreed.trim()))}
        >
          Save limitation
        </Button>
        <Button onClick={close}>Cancel</Button>
      </Flex>
    </Box>
  );
}

function Small({ of }: { of: string }) {
  const model = useInspection((s) => s.model);
  if (!model) return null;
  const photos = children(model, "photo", model.id).filter((photo) => photo.values.about_id === of);
  if (photos.length === 0) return null;
  return (
    <Flex wrap="wrap" gap="2" mt="1.5">
      {photos.map((photo) => (
        <MarkedPhoto
          key={photo.id}
          photo={photo}
          inspection={model.id}
          alt="Photo of what to come back to"
          size="small"
        />
      ))}
    </Flex>
  );
}
