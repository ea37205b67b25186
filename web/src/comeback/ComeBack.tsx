/** What to come back to, beside the work: how many in sight, the list at a tap, and a word and a photo for the latest. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { Me } from "../api/client";
import { showList, stopAdding, useComingBack, useToComeBack } from "../inspection/comeBack";
import { children } from "../inspection/model";
import { setField, useInspection, useMay } from "../inspection/open";
import { Photos } from "../photos/Photos";
import { Button } from "../ui/Button";
import { Dialog, Drawer } from "../ui/Dialog";
import { TextField } from "../ui/TextField";
import { ComeBackList } from "./ComeBackList";
import { OpenConcerns } from "./OpenConcerns";
import type { FieldOf } from "../inspection/types";

export default function ComeBack() {
  const { adding, listed } = useComingBack();
  if (adding) return <Adding key={adding} id={adding} />;
  return listed ? <List /> : null;
}

function List() {
  const things = useToComeBack();
  return (
    <Drawer title="Come back to" leads close={() => showList(false)}>
      <Text color="quiet" mb="2">
        In walking order.
      </Text>
      {things.length === 0 && <p>Nothing is left open.</p>}
      <ComeBackList things={things} />
      <OpenConcerns />
    </Drawer>
  );
}

/** Words that are said most: a tap, in gloves. */
const USUAL = ["Look closer", "Not traced", "Locked", "Photo is blurred", "Measure again", "Ask the client"];

function Adding({ id }: { id: string }) {
  const model = useInspection((s) => s.model);
  const thing = useToComeBack().find((toComeBack) => toComeBack.id === id);
  const [words, setWords] = useState(thing?.what ?? "");
  const reviews = useMay("review");
  const submitted = model?.state === "in review";
  const me = useQueryClient().getQueryData<Me>(["session"]);
  const at = (field: FieldOf<"come_back">) => ({ kind: "come_back" as const, id, field });
  const keep = (said: string) => setField(at("what"), said.trim() || null);
  if (!model || !thing) return null;
  const close = () => {
    keep(words);
    stopAdding();
  };
  const count = children(model, "photo", model.id).filter((photo) => photo.values.about_id === id).length;
  const footer = (
    <>
      <Button
        variant="quiet"
        onClick={() => {
          setField(at("removed"), true);
          stopAdding();
        }}
      >
        Remove
      </Button>
      <Box flex="1" />
      <Button variant="action" onClick={close}>
        {words.trim() || count > 0 ? "Save" : "Save without a word"}
      </Button>
    </>
  );
  return (
    <Dialog title={`Come back to: ${thing.where}`} close={close} width="34rem" footer={footer}>
      <Flex wrap="wrap" gap="2" mb="3" role="group" aria-label="Usual words">
        {USUAL.map((phrase) => (
          <Button key={phrase} variant="choice" pressed={words === phrase} onClick={() => setWords(phrase)}>
            {phrase}
          </Button>
        ))}
      </Flex>
      <TextField
        label="What is still to do"
        value={words}
        change={setWords}
        leave={() => keep(words)}
        enter={close}
        maxLength={300}
      />
      {reviews && me && (submitted || thing.asked_by) && (
        <Box mt="3">
          <Button
            variant="choice"
            pressed={!!thing.asked_by}
            onClick={() => setField(at("asked_by"), thing.asked_by ? null : me.name)}
          >
            Ask whoever inspected
          </Button>
        </Box>
      )}
      <Box mt="3">
        <Photos kind="come_back" id={id} shows="defect" label="Photo" inline />
      </Box>
    </Dialog>
  );
}
