/** A word that stands beside a thing: what kind it is, what state it is in. */
import type { ReactNode } from "react";
import css from "./Tag.module.css";

export const Tag = ({ children }: { children: ReactNode }) => <span className={css.tag}>{children}</span>;
