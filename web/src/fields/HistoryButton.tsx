/** Opens the history of a figure at the place where it is asked for. */
import { Button } from "../ui/Button";
import { loaded } from "../ui/Loaded";
import { Popover } from "../ui/Popover";
import type { About } from "./History";

const History = loaded(null, () => import("./History").then((m) => m.History));

export function HistoryButton({ place, label, words = "history" }: { place: About; label: string; words?: string }) {
  return (
    <Popover
      label={place.field ? "History of this figure" : "History of all its fields"}
      trigger={
        <Button variant="quiet" size="bare" label={label}>
          {words}
        </Button>
      }
    >
      {(close) => <History place={place} close={close} />}
    </Popover>
  );
}
