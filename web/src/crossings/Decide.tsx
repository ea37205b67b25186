/** Choosing what stands: entry by entry, with what each device said side by side, and one tap to take either. */
import { Flex, Grid, Text } from "@chakra-ui/react";
import { Button } from "../ui/Button";
import { Dialog } from "../ui/Dialog";
import { Doubled } from "./Doubled";
import { Choice, Question } from "./Question";
import { type Crossings, type Entry, useDecide } from "./useCrossings";
import { byWhom, useInWords } from "./words";

export default function Decide({ crossings, close }: { crossings: Crossings; close: () => void }) {
  const { fields, removals, doubled, seq } = crossings;
  return (
    <Dialog title="Choose what to keep" close={close} width="52rem">
      <Text mb="3">
        Two devices worked here without seeing each other. Nothing is lost: both entries stay in the history, whichever
        you take.
      </Text>
      {doubled.map((pair) => (
        <Doubled key={pair.second.entity_id} pair={pair} seq={seq} />
      ))}
      {removals.map(({ removed, entered }) => (
        <Removal key={removed.entity_id} removed={removed} entered={entered} seq={seq} />
      ))}
      {fields.map(({ stands, others }) => (
        <CrossedField key={stands.entity_id + stands.field} stands={stands} others={others} seq={seq} />
      ))}
    </Dialog>
  );
}

function CrossedField({ stands, others, seq }: { stands: Entry; others: Entry[]; seq: number }) {
  const decide = useDecide();
  const words = useInWords();
  const { entity, entity_id, field } = stands;
  const take = ({ value }: Entry) => decide([{ entity, entity_id, field, value }], seq);
  return (
    <Question title={`${words.where(entity_id)} · ${words.label(entity, field)}`}>
      <Grid templateColumns="repeat(auto-fit, minmax(min(14rem, 100%), 1fr))" gap="3">
        {[stands, ...others].map((entry, at) => (
          <Choice
            key={entry.made_at + entry.author + String(at)}
            value={words.value(entry.value)}
            line={byWhom(entry) + (at === 0 ? " · used now" : "")}
            act={at === 0 ? "Keep this" : "Take this"}
            marked={at === 0}
            take={() => take(entry)}
          />
        ))}
      </Grid>
    </Question>
  );
}

/** Removed by one while another worked on it: brought back with what was entered, or left out knowingly. */
function Removal({ removed, entered, seq }: { removed: Entry; entered: Entry[]; seq: number }) {
  const decide = useDecide();
  const words = useInWords();
  const { entity, entity_id } = removed;
  const what = words.where(entity_id);
  const say = (value: boolean | null) => decide([{ entity, entity_id, field: "removed", value }], seq);
  return (
    <Question title={`${what} was removed, and worked on`}>
      <Text mb="2">
        Removed by {byWhom(removed)}. Entered there without knowing:{" "}
        {entered
          .toReversed()
          .slice(0, 8)
          .map((entry) => `${words.label(entry.entity, entry.field)} ${words.value(entry.value)}`)
          .join(", ")}
        {entered.length > 8 && ` and ${entered.length - 8} more`} ({[...new Set(entered.map(byWhomShort))].join(", ")}).
      </Text>
      <Flex gap="3" wrap="wrap">
        <Button variant="action" label={`Bring ${what} back`} onClick={() => say(null)}>
          Bring it back
        </Button>
        <Button label={`Leave ${what} removed`} onClick={() => say(true)}>
          Leave it removed
        </Button>
      </Flex>
    </Question>
  );
}

const byWhomShort = ({ author, mine }: Entry): string => (mine ? "you" : author);
