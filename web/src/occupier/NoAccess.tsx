/** Nobody opened: when, what was done, and a photo of the door; what counts is said by the server. */
import { Box } from "@chakra-ui/react";
import { useState } from "react";
import { api, answer, type Schemas } from "../api/client";
import { explainField } from "../api/errors";
import { PHOTO_FILES, shrink } from "../photos/photos";
import { Button } from "../ui/Button";
import { DateField } from "../ui/DateField";
import { FileDrop } from "../ui/FileDrop";
import { TextField } from "../ui/TextField";
import { readTime, today } from "../ui/when";

interface Props {
  visit: string;
  /** The day on which somebody was to come, if any. */
  on: string | null;
  took: (now: Schemas["OccupierOut"]) => void;
}

export function NoAccess({ visit, on, took }: Props) {
  const [date, setDate] = useState(on && on <= today() ? on : today());
  const [time, setTime] = useState("");
  const [words, setWords] = useState("");
  const [photo, setPhoto] = useState<File | null>(null);
  const [trouble, setTrouble] = useState("");
  const [busy, setBusy] = useState(false);
  const save = async () => {
    const at = readTime(time);
    if (!at) {
      setTrouble("Enter a time, such as 09:10.");
      return;
    }
    setBusy(true);
    setTrouble("");
    try {
      const path = { visit_id: visit };
      const made = await answer(
        api.POST("/api/visits/{visit_id}/no-access", {
          params: { path },
          body: { at: `${date}T${at.padStart(5, "0")}`, words },
        }),
      );
      took(made.occupier);
      if (photo) {
        const content = await shrink(photo);
        took(
          await answer(
            api.POST("/api/visits/{visit_id}/steps/{step_id}/photos", {
              params: { path: { ...path, step_id: made.step_id }, query: { name: photo.name.slice(0, 190) } },
              body: content as never,
              bodySerializer: (body: unknown) => body as never,
              headers: { "Content-Type": "application/octet-stream" },
            }),
          ),
        );
      }
    } catch (error) {
      setTrouble(explainField(error, "at"));
    }
    setBusy(false);
  };
  return (
    <Box display="grid" gap="2" mt="1">
      <DateField label="Day" value={date} change={setDate} />
      <TextField label="Time at the door" value={time} change={setTime} refused={trouble || undefined} />
      <TextField label="What you did" rows={2} maxLength={500} value={words} change={setWords} />
      <FileDrop
        label="Photo of the door"
        title={photo ? photo.name : "Add photo"}
        line="shows that somebody was there"
        accept={PHOTO_FILES}
        take={([file]) => setPhoto(file ?? null)}
      />
      <Button size="sm" busy={busy} onClick={save}>
        Save “no access”
      </Button>
    </Box>
  );
}
