/** The points where inspectors differ, each with its choices and why; used for an inspection and for the firm. */
import { Box } from "@chakra-ui/react";
import { useReference } from "../api/reference";
import { SelectField } from "../ui/SelectField";

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
    <Box
      display="grid"
      gridTemplateColumns="repeat(auto-fill, minmax(min(16rem, 100%), 1fr))"
      gap="4.5"
      rowGap="5"
      alignItems="start"
      mb="6"
    >
      {options.map((option) => {
        const now = chosen[option.name] ?? option.default;
        return (
          <Box
            key={option.name}
            data-other={now === option.default ? undefined : true}
            pl="2.5"
            borderLeftWidth="3px"
            borderColor={now === option.default ? "transparent" : "ink"}
          >
            <SelectField
              label={option.label}
              hint={option.why}
              disabled={disabled}
              value={String(option.choices.indexOf(now))}
              choices={option.choices.map((choice, at) => [
                String(at),
                `${String(choice)}${choice === option.default ? " (usual)" : ""}`,
              ])}
              change={(at) => {
                const value = option.choices[Number(at)] as string | number;
                const rest = Object.entries(chosen).filter(([name]) => name !== option.name);
                choose(Object.fromEntries(value === option.default ? rest : [...rest, [option.name, value]]));
              }}
            />
          </Box>
        );
      })}
    </Box>
  );
}
