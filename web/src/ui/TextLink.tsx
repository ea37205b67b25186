/** Words that lead to another screen. */
import type { ReactNode } from "react";
import { Link } from "./Link";
import css from "./TextLink.module.css";

interface Props {
  to: string;
  children: ReactNode;
  /** `place`: as high as a thumb, in a row of places; `bold`: what a line is about. */
  look?: "place" | "bold";
}

export const TextLink = ({ to, children, look }: Props) => (
  <Link to={to} className={look ? `${css.link} ${css[look]}` : css.link}>
    {children}
  </Link>
);
