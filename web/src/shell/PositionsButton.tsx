/** Opens how switches, breakers and isolators stand at a reading, at the figure itself. */
import { usePositionsOf } from "../inspection/positions";
import type { Place } from "../inspection/types";
import { Button } from "../ui/Button";
import { loaded } from "../ui/Loaded";
import { Popover } from "../ui/Popover";

const Positions = loaded(null, () => import("./Positions").then((m) => m.Positions));

export function PositionsButton({ place, label }: { place: Place; label: string }) {
  const words = usePositionsOf(place);
  return (
    <Popover
      label={`Positions of switches at ${label}`}
      trigger={
        <Button
          variant="quiet"
          size="bare"
          label={`Positions of switches at ${label}${words.length ? `: ${words.join(", ")}` : ""}`}
        >
          switches
        </Button>
      }
    >
      {(close) => <Positions place={place} close={close} />}
    </Popover>
  );
}
