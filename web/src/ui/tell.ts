/** Tell what was just done, in passing. What draws it comes when there is something to tell. */
import { loaded } from "./Loaded";
import { useLooks } from "./useLooks";
import { withLooks } from "./withLooks";

export const Toaster = loaded(
  null,
  withLooks(() => import("./toaster").then((m) => m.Toaster)),
  { unasked: true },
);

/** undo: it can be taken back for as long as it stands; instead: what was told under the same name gives way to it. */
export function tell(said: string, undo?: () => void, instead?: string): void {
  useLooks.setState({ here: true });
  // Where it cannot be fetched, what was done is on the screen all the same.
  void Promise.all([import("./toaster"), Toaster.fetch()])
    .then(([{ show }]) => show(said, undo, instead))
    .catch(() => undefined);
}
