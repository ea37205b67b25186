/** The head of a stage: its name, a line about it, and what can be switched. */
import type { ReactNode } from "react";
import css from "./StageHead.module.css";

export function StageHead({ title, line, children }: { title: string; line?: ReactNode; children?: ReactNode }) {
  return (
    <div className={css.head}>
      <h1>{title}</h1>
      <span className={css.line}>{line}</span>
      <div className={css.tools}>{children}</div>
    </div>
  );
}

export function Switch({ options, chosen, choose, label }: { options: [string, string][]; chosen: string; choose: (value: string) => void; label: string }) {
  return (
    <div className={css.switch} role="group" aria-label={label}>
      {options.map(([value, said]) => (
        <button key={value} type="button" aria-pressed={value === chosen} onClick={() => choose(value)}>
          {said}
        </button>
      ))}
    </div>
  );
}
