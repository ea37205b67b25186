/** The key `?` opens help over whatever screen is open; what is being typed keeps its question marks. */
import { useEffect, useState } from "react";
import { loaded } from "../ui/Loaded";
import { withLooks } from "../ui/withLooks";

const HelpDialog = loaded<{ close: () => void }>(
  null,
  withLooks(() => import("./HelpDialog").then((m) => m.default)),
);

export default function HelpKey() {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      const typing = target.matches("input, textarea, select, [contenteditable]");
      if (event.key !== "?" || typing || target.closest("[role=dialog]")) return;
      event.preventDefault();
      setOpen(true);
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, []);
  return open && <HelpDialog close={() => setOpen(false)} />;
}
