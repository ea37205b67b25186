/** A line across the work that asks for something: said plainly, answered with a tap, never over what is worked on. */
import type { ReactNode } from "react";
import css from "./Banner.module.css";

interface Props {
  role: "note" | "status" | "alert";
  children: ReactNode;
  acts?: ReactNode;
  /** From edge to edge, rather than framed. */
  edge?: boolean;
}

export function Banner({ role, children, acts, edge }: Props) {
  return (
    <div role={role} className={`${css.banner} ${edge ? css.edge : css.framed}`}>
      <div className={css.words}>{children}</div>
      {acts}
    </div>
  );
}
