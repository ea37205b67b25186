/** Words for a screen reader alone. */
import type { ReactNode } from "react";
import css from "./Hidden.module.css";

interface Props {
  children: ReactNode;
  /** status: said as soon as it changes. */
  role?: "status";
  id?: string;
}

export const Hidden = ({ children, role, id }: Props) => (
  <span className={css.hidden} role={role} id={id}>
    {children}
  </span>
);
