/** A room that is not there yet: the usual ones in one tap, another by its name. */
import { Box } from "@chakra-ui/react";
import { useState } from "react";
import { useReference } from "../api/reference";
import { useInspection } from "../inspection/open";
import { Button } from "../ui/Button";
import { TextField } from "../ui/TextField";
import { addRoom, roomsOf } from "./walking";

export function NewRoom({ done }: { done?: () => void }) {
  const reference = useReference();
  const usual = reference?.usual_rooms ?? [];
  const length = reference?.fields.room?.name?.max_length;
  const model = useInspection((s) => s.model);
  const [name, setName] = useState("");
  if (!model) return null;
  const there = new Set(roomsOf(model).map((room) => String(room.values.name)));
  const make = (fields: { name: string; kind?: string; floor?: string }) => {
    addRoom(fields);
    done?.();
  };
  return (
    <>
      <Box display="grid" gridTemplateColumns="repeat(auto-fill, minmax(8.5rem, 1fr))" gap="2" mb="4">
        {usual
          .filter((usualRoom) => !there.has(usualRoom.name))
          .map(({ name: called, kind, floor }) => (
            <Button key={called} onClick={() => make({ name: called, kind, floor })}>
              {called}
            </Button>
          ))}
      </Box>
      <Box
        as="form"
        display="flex"
        gap="2"
        alignItems="flex-end"
        onSubmit={(event: React.FormEvent) => {
          event.preventDefault();
          if (name.trim()) make({ name: name.trim() });
        }}
      >
        <Box flex="1">
          <TextField label="Another room" value={name} change={setName} maxLength={length} />
        </Box>
        <Button type="submit" disabled={!name.trim()}>
          Add
        </Button>
      </Box>
    </>
  );
}
