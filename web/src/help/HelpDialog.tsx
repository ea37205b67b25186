/** Help over another screen. */
import { Dialog } from "../ui/Dialog";
import { HelpParts } from "./Help";

export default function HelpDialog({ close }: { close: () => void }) {
  return (
    <Dialog title="Help" close={close} width="52rem">
      <HelpParts />
    </Dialog>
  );
}
