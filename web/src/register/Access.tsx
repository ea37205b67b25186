/** When a property can be entered, where its keys are, and where it is: what planning goes by. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { explain } from "../api/errors";
import { Button } from "../ui/Button";
import { type Choice } from "../ui/ChoiceField";
import { SelectField } from "../ui/SelectField";
import { Told } from "../ui/States";
import { tell } from "../ui/tell";
import { day } from "../ui/when";
import { addEntry, changeEntry, type Entry, EntryFields, textOf } from "./entry";

interface Props {
  property: Entry;
  windows: Entry[];
  query: string[];
}

const FIELDS = ["access", "weekday", "from_time", "until_time", "first_day", "last_day"] as const;

export function AccessWindows({ property, windows, query }: Props) {
  const queries = useQueryClient();
  const [opened, setOpened] = useState("");
  const [trouble, setTrouble] = useState("");
  const act = async (work: () => Promise<unknown>) => {
    try {
      await work();
      setTrouble("");
    } catch (error) {
      setTrouble(explain(error));
    }
    await queries.invalidateQueries({ queryKey: query });
  };
  const remove = (window: Entry) =>
    act(async () => {
      await changeEntry(window, { removed: true });
      tell("Access time removed.", () => void act(() => changeEntry(window, { removed: false })));
    });
  return (
    <Box mb="4">
      <Text color="quiet" mb="2">
        {windows.length === 0
          ? "Any time. Add a time when somebody can let in, or cannot."
          : "Visits are planned within these times."}
      </Text>
      {trouble && <Told trouble>{trouble}</Told>}
      {windows.map((window) => (
        <Box key={window.id} borderTopWidth="1px" borderColor="line" py="2">
          <Flex align="center" gap="2" wrap="wrap">
            <Box flex="1 1 10rem">{said(window)}</Box>
            <Button
              size="sm"
              expanded={opened === window.id}
              onClick={() => setOpened(opened === window.id ? "" : window.id)}
            >
              Change
            </Button>
            <Button size="sm" variant="quiet" onClick={() => remove(window)} label={`Remove ${said(window)}`}>
              Remove
            </Button>
          </Flex>
          {opened === window.id && (
            <Box mt="3">
              <EntryFields entry={window} query={query} fields={FIELDS} />
            </Box>
          )}
        </Box>
      ))}
      <Button
        size="sm"
        onClick={() =>
          act(async () => setOpened((await addEntry("access_window", property.id, { access: "possible" })).id))
        }
      >
        Add access time
      </Button>
    </Box>
  );
}

/** An access time in words. */
function said(window: Entry): string {
  const [first, last] = [textOf(window, "first_day"), textOf(window, "last_day")];
  const days = [
    textOf(window, "weekday") ? `${textOf(window, "weekday")}s` : "every day",
    first && (last && last !== first ? `from ${day(first)} to ${day(last)}` : `from ${day(first)}`),
    !first && last && `until ${day(last)}`,
  ].filter(Boolean);
  const [from, until] = [textOf(window, "from_time"), textOf(window, "until_time")];
  const times = from && until ? `${from} to ${until}` : from ? `from ${from}` : until ? `until ${until}` : "";
  const not = textOf(window, "access") === "not possible" ? "not " : "";
  return [`${not}${days.join(" ")}`, times].filter(Boolean).join(", ");
}

interface KeyProps {
  property: Entry;
  holders: Entry[];
  query: string[];
}

/** Where its keys are fetched, of the places that the firm knows. */
export function KeyPlace({ property, holders, query }: KeyProps) {
  const queries = useQueryClient();
  const [refused, setRefused] = useState("");
  const choices: Choice[] = [
    ["", "nowhere: somebody lets in"],
    ...holders.map((one): Choice => [one.id, textOf(one, "name") || "Key place without a name"]),
  ];
  const change = async (chosen: string) => {
    try {
      await changeEntry(property, { key_holder_id: chosen || null });
      setRefused("");
    } catch (error) {
      setRefused(explain(error));
    }
    await queries.invalidateQueries({ queryKey: query });
  };
  return (
    <SelectField
      label="Keys are fetched from"
      hint={holders.length === 0 ? "Add key places under Planner, Inspectors and keys." : undefined}
      refused={refused || undefined}
      value={textOf(property, "key_holder_id")}
      choices={choices}
      change={change}
    />
  );
}
