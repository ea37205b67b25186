/** Moving a visit without dragging it: to whom, which day, from when. */
import { Box } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";
import { Button } from "../ui/Button";
import { DateField } from "../ui/DateField";
import { Fold } from "../ui/Fold";
import { SelectField } from "../ui/SelectField";
import { TextField } from "../ui/TextField";
import { readTime } from "../ui/when";
import { clockOf } from "../ui/minutes";
import type { Plan, Planning, PlanVisit } from "./usePlanner";

interface Props {
  plan: Plan;
  visit: PlanVisit;
  planning: Planning;
}

export function MoveForm({ plan, visit, planning }: Props) {
  const [who, setWho] = useState(visit.inspector_id ?? plan.inspectors[0]?.id ?? "");
  const [on, setOn] = useState(visit.day ?? plan.earliest);
  const [time, setTime] = useState(visit.begins === null ? "" : clockOf(visit.begins));
  const [wrong, setWrong] = useState("");
  const move = (event: FormEvent) => {
    event.preventDefault();
    const read = time.trim() ? readTime(time) : null;
    if (time.trim() && read === null) {
      setWrong("Enter a time, such as 08:30, or leave it empty.");
      return;
    }
    setWrong("");
    const [hour = 0, minute = 0] = (read ?? "0:0").split(":").map(Number);
    void planning.move(visit, { inspector_id: who, day: on, begins: read === null ? null : hour * 60 + minute });
  };
  return (
    <Fold title="Move visit …">
      <form onSubmit={move}>
        <Box display="grid" gap="3">
          <SelectField
            label="Inspector"
            value={who}
            choices={plan.inspectors.map((one) => [one.id, one.name] as const)}
            change={setWho}
          />
          <DateField label="Day" value={on} change={setOn} />
          <TextField label="Begins" hint="empty: any time that day" value={time} change={setTime} refused={wrong} />
          <Button type="submit" disabled={planning.busy || !who || !on}>
            Move visit
          </Button>
        </Box>
      </form>
    </Fold>
  );
}
