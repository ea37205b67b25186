/** Words that are shown on a tablet alone, and the shorter ones that a phone has instead. */
import type { ComponentProps } from "react";
import css from "./ByWidth.module.css";

const joined = (own: string | undefined, more?: string) => [own, more].filter(Boolean).join(" ");

export const OnWide = ({ className, ...rest }: ComponentProps<"span">) => (
  <span {...rest} className={joined(css.wide, className)} />
);
export const OnNarrow = ({ className, ...rest }: ComponentProps<"span">) => (
  <span {...rest} className={joined(css.narrow, className)} />
);
