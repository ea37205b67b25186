/** Who takes the readings while somebody learns beside, and the readings that a competent person has yet to sign for. */
import { useEffect, useState } from "react";
import { useShallow } from "zustand/react/shallow";
import type { Me, Schemas } from "../api/client";
import { readBy, useDesk } from "../inspection/desk";
import { useInspection } from "../inspection/open";
import { Button } from "../ui/Button";
import { OnNarrow, OnWide } from "../ui/ByWidth";
import { loaded } from "../ui/Loaded";
import { withLooks } from "../ui/withLooks";
import { nameOfTrainee as name, trainees } from "./trainees";

const TraineeDialog = loaded(
  null,
  withLooks(() => import("./TraineeDialog").then((m) => m.TraineeDialog)),
);

const NONE: Schemas["ToCountersignView"][] = [];

export function TraineeButton({ me }: { me: Me }) {
  const [opened, setOpened] = useState(false);
  const reading = useDesk((s) => s.readBy);
  const open = useInspection((s) => s.model?.judgement?.to_countersign) ?? NONE;
  const here = useInspection(useShallow(trainees));
  const trainee = here.find((entity) => entity.id === reading);
  // Who has left, or was taken out, reads nothing more.
  const gone = reading !== null && !trainee;
  useEffect(() => {
    if (gone) readBy(null);
  }, [gone]);
  const count = open.reduce((sum, toCountersign) => sum + toCountersign.figures.length, 0);
  if (!here.length && !count) return null;
  const words = trainee ? `${name(trainee)} reads` : count ? `${count} to sign` : "Trainee";
  return (
    <>
      <Button
        size="sm"
        variant="choice"
        pressed={!!trainee}
        label={`Trainee: ${words}${trainee && count ? `, ${count} to countersign` : ""}`}
        onClick={() => setOpened(true)}
      >
        <OnWide>{words}</OnWide>
        <OnNarrow aria-hidden>t{count > 0 && ` ${count}`}</OnNarrow>
      </Button>
      {opened && <TraineeDialog me={me} here={here} open={open} close={() => setOpened(false)} />}
    </>
  );
}
