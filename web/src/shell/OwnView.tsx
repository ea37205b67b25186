/** The inspector sees a figure otherwise: taken for what, and why. The verdict stays beside it, here and in the report. */
import { useState } from "react";
import type { Note } from "../api/client";
import { children } from "../inspection/model";
import { add, setField, useInspection } from "../inspection/open";
import { Button } from "../ui/Button";
import { Segments } from "../ui/Segments";
import { TextField } from "../ui/TextField";
import { valueIn } from "../inspection/types";
import css from "./OwnView.module.css";

const VIEWS = [
  ["pass", "pass"],
  ["attention", "attention"],
  ["fail", "fail"],
] as const;

export function OwnView({ note }: { note: Note }) {
  const [opened, setOpened] = useState(false);
  const [view, setView] = useState<string>("pass");
  const [reason, setReason] = useState("");
  const inspection = useInspection((s) => s.model?.id) ?? "";
  const own = useInspection(
    (s) =>
      s.model &&
      children(s.model, "overruling", s.model.id).find(
        (o) => o.values.about_id === note.id && o.values.field === note.field,
      ),
  );
  if (own) {
    const takeBack = () => setField({ kind: "overruling", id: own.id, field: "removed" }, true);
    return (
      <Button size="sm" onClick={takeBack}>
        Take my view back
      </Button>
    );
  }
  if (!opened) {
    return (
      <Button size="sm" onClick={() => setOpened(true)}>
        Disagree …
      </Button>
    );
  }
  const keep = () => {
    // Of the figure as it reads now: another reading is judged anew.
    const now = valueIn(useInspection.getState().model?.entities[note.id], note.field);
    const read: Record<string, string> = typeof now === "string" ? { of_reading: now } : {};
    add("overruling", inspection, {
      about_id: note.id,
      field: note.field,
      status: view,
      reason: reason.trim(),
      ...read,
    });
    setOpened(false);
  };
  return (
    <div className={css.view}>
      <Segments label="My verdict" value={view} choices={VIEWS} change={setView} />
      <TextField
        quiet
        rows={2}
        label="Reason (printed in the report)"
        placeholder="Why"
        value={reason}
        change={setReason}
        maxLength={500}
      />
      <div className={css.acts}>
        <Button size="sm" disabled={!reason.trim()} onClick={keep}>
          Keep my view
        </Button>
        <Button size="sm" onClick={() => setOpened(false)}>
          Leave it
        </Button>
      </div>
    </div>
  );
}
