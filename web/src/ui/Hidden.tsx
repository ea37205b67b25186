/** Words for a screen reader alone. */
import type { ReactNode } from "react";
import css from "./Hidden.module.css";

export const Hidden = ({ children }: { children: ReactNode }) => <span className={css.hidden}>{children}</span>;
