/** What of a portfolio is shown: by where it stands, who has it, what is late, by when it is due, and by words. */
import { Box, Flex } from "@chakra-ui/react";
import { useEffect, useState } from "react";
import type { Schemas } from "../api/client";
import { StateMark } from "../drawings/StateMark";
import { Button } from "../ui/Button";
import { type Choice } from "../ui/ChoiceField";
import { DateField } from "../ui/DateField";
import { SelectField } from "../ui/SelectField";
import { TextField } from "../ui/TextField";
import type { Looked } from "./query";

interface Props {
  looked: Looked;
  look: (change: Partial<Looked>) => void;
  portfolio: Schemas["PortfolioOut"];
}

const HOLDERS: readonly Choice[] = [
  ["", "anybody"],
  ["office", "office"],
  ["inspector", "inspector"],
  ["client", "client"],
  ["network operator", "network operator"],
];
const ORDERS: readonly Choice[] = [
  ["", "most urgent first"],
  ["due", "due first"],
  ["address", "by address"],
  ["client", "by client"],
];
/** So long after the last letter the server is asked (ms). */
const PAUSE = 180;

export function Filters({ looked, look, portfolio }: Props) {
  const toggle = (state: Looked["states"][number]) =>
    look({
      states: looked.states.includes(state) ? looked.states.filter((one) => one !== state) : [...looked.states, state],
    });
  // What is chosen stays there to be taken back, also where nothing is in it any more.
  const shown = portfolio.states.map(({ state }) => state);
  const states = [...shown, ...looked.states.filter((state) => !shown.includes(state))];
  const count = (state: string) => portfolio.states.find((one) => one.state === state)?.count ?? 0;
  return (
    <Box mb="3">
      <Flex gap="2" wrap="wrap" mb="3" role="group" aria-label="State">
        {states.map((state) => (
          <Button
            key={state}
            variant="choice"
            size="sm"
            pressed={looked.states.includes(state)}
            onClick={() => toggle(state)}
          >
            <StateMark state={state} /> {state} {count(state)}
          </Button>
        ))}
        <Button variant="choice" size="sm" pressed={looked.late} onClick={() => look({ late: !looked.late })}>
          late {portfolio.late}
        </Button>
      </Flex>
      <Flex gap="3" wrap="wrap" align="flex-end">
        <Box flex="1 1 14rem">
          <Words text={looked.text} look={(text) => look({ text })} />
        </Box>
        <Box width="10rem">
          <SelectField
            label="Who has it"
            value={looked.holder}
            choices={HOLDERS}
            change={(holder) => look({ holder })}
          />
        </Box>
        {portfolio.nations.length > 1 && (
          <Box width="10rem">
            <SelectField
              label="Nation"
              value={looked.nation}
              choices={[["", "all"], ...portfolio.nations.map((nation): Choice => [nation, nation])]}
              change={(nation) => look({ nation })}
            />
          </Box>
        )}
        <Box width="10.5rem">
          <DateField label="Due until" value={looked.due_until} change={(due_until) => look({ due_until })} />
        </Box>
        <Box width="11.5rem">
          <SelectField label="Order" value={looked.order} choices={ORDERS} change={(order) => look({ order })} />
        </Box>
      </Flex>
    </Box>
  );
}

/** Words that are looked for, once somebody pauses. */
function Words({ text, look }: { text: string; look: (text: string) => void }) {
  const [typed, setTyped] = useState(text);
  useEffect(() => {
    if (typed === text) return;
    const later = setTimeout(() => look(typed), PAUSE);
    return () => clearTimeout(later);
  });
  return <TextField label="Address, client or reference" value={typed} change={setTyped} />;
}
