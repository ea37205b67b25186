/** What is seldom wanted, folded under its title. */
import { type ReactNode, useState } from "react";
import css from "./Fold.module.css";

interface Props {
  title: ReactNode;
  children: ReactNode;
  small?: boolean;
  /** Unfolded when it first appears; from then on the person folds it. */
  opened?: boolean;
}

export function Fold({ title, children, small, opened }: Props) {
  const [open] = useState(opened);
  // What nobody has opened is not drawn: a stage has many folds, and most of them stay shut.
  const [drawn, draw] = useState(!!opened);
  return (
    <details
      className={small ? undefined : css.fold}
      open={open}
      onToggle={(event) => event.currentTarget.open && draw(true)}
    >
      <summary className={small ? css.small : css.title}>{title}</summary>
      {drawn && children}
    </details>
  );
}
