/** The head of a stage of an inspection: its name, a line about it, and what can be switched; and what stands under it. */
import type { ReactNode } from "react";
import css from "./StageHead.module.css";

interface HeadProps {
  title: string;
  line?: ReactNode;
  /** The line is long: on a phone it stands under name and switches. */
  long?: boolean;
  children?: ReactNode;
}

export function StageHead({ title, line, long, children }: HeadProps) {
  return (
    <div className={css.head} data-long={long || undefined}>
      <h1>{title}</h1>
      <span className={css.about}>{line}</span>
      <div className={css.switches}>{children}</div>
    </div>
  );
}

interface LineProps {
  children: ReactNode;
  /** For who hears the screen: what it is about, where it is a note of its own. */
  label?: string;
}

/** A line under the head: what stands, and at its end what can be done about it. */
export function StageLine({ children, label }: LineProps) {
  return (
    <div className={css.line} role={label && "note"} aria-label={label}>
      {children}
    </div>
  );
}

/** Such lines side by side, as far as there is room. */
export function StageLines({ children }: { children: ReactNode }) {
  return <div className={css.lines}>{children}</div>;
}

/** What stands under the head of a stage. */
export function StageBody({ children, wide }: { children: ReactNode; wide?: boolean }) {
  return <div className={wide ? css.body : `${css.body} ${css.readable}`}>{children}</div>;
}
