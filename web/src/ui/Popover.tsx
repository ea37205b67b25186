/** A few words more at the place they belong to; made only when it is opened. */
import { cloneElement, type ReactElement, type ReactNode, useState } from "react";
import { loaded } from "./Loaded";
import { withLooks } from "./withLooks";

export interface PopoverProps {
  /** The button that opens it. */
  trigger: ReactElement<{ onClick?: () => void; expanded?: boolean; children?: ReactNode }>;
  title?: string;
  label: string;
  children: (close: () => void) => ReactNode;
}

const PopoverFrame = loaded<PopoverProps & { close: () => void }>(
  null,
  withLooks(() => import("./PopoverFrame").then((m) => m.PopoverFrame)),
  { meanwhile: ({ trigger }) => trigger },
);

export function Popover(props: PopoverProps) {
  const [wanted, want] = useState(false);
  // There are many, and few are ever opened: until then each is its button alone.
  if (!wanted) return cloneElement(props.trigger, { onClick: () => want(true), expanded: false });
  return <PopoverFrame {...props} close={() => want(false)} />;
}
