/** A switch between a few ways to see the same; one of them always stands.
 *
 * Radio buttons of the browser's own: several stand at the head of each stage, and none of them is measured to be drawn.
 */
import { useId, useState } from "react";
import type { Choice } from "./ChoiceField";
import css from "./Segments.module.css";

interface Props {
  label: string;
  value: string;
  choices: readonly Choice[];
  change: (value: string) => void;
}

export function Segments({ label, value, choices, change }: Props) {
  const name = useId();
  // What was tapped stands at once; what it shows may take a slow tablet a moment more.
  const [[given, picked], pick] = useState([value, value]);
  if (given !== value) pick([value, value]);
  return (
    <div role="radiogroup" aria-label={label} className={css.segments}>
      {choices.map(([key, said]) => (
        <label key={key} className={css.segment}>
          <input
            type="radio"
            name={name}
            value={key}
            checked={key === picked}
            onChange={() => {
              pick([value, key]);
              change(key);
            }}
          />
          <span>{said}</span>
        </label>
      ))}
    </div>
  );
}
