/** The points where inspectors differ, each with its choices and why; used for an inspection and for the firm. */
import { useReference } from "../api/reference";
import css from "./HouseRules.module.css";

export type Chosen = Record<string, string | number>;

interface Props {
  chosen: Chosen;
  /** The choices that differ from the usual. */
  choose: (next: Chosen) => void;
  disabled?: boolean;
}

export function HouseRules({ chosen, choose, disabled }: Props) {
  const options = useReference()?.house_rules ?? [];
  return (
    <div className={css.rules}>
      {options.map((option) => {
        const now = chosen[option.name] ?? option.default;
        return (
          <label key={option.name} className={css.rule} data-other={now !== option.default || undefined}>
            <b>{option.label}</b>
            <select
              aria-label={option.label}
              disabled={disabled}
              value={option.choices.indexOf(now)}
              onChange={(e) => {
                const value = option.choices[Number(e.target.value)] as string | number;
                const rest = Object.entries(chosen).filter(([name]) => name !== option.name);
                choose(Object.fromEntries(value === option.default ? rest : [...rest, [option.name, value]]));
              }}
            >
              {option.choices.map((choice, i) => (
                <option key={String(choice)} value={i}>
                  {String(choice)}
                  {choice === option.default ? " (usual)" : ""}
                </option>
              ))}
            </select>
            <small>{option.why}</small>
          </label>
        );
      })}
    </div>
  );
}
