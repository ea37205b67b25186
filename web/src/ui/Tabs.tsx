/** Parts of one screen, one at a time. */
import { Tabs as ChakraTabs } from "@chakra-ui/react";
import type { ReactNode } from "react";

interface Props {
  label: string;
  chosen: string;
  choose: (key: string) => void;
  parts: readonly { key: string; name: string; children: ReactNode }[];
}

export function Tabs({ label, chosen, choose, parts }: Props) {
  return (
    <ChakraTabs.Root value={chosen} onValueChange={({ value }) => choose(value)} lazyMount>
      <ChakraTabs.List aria-label={label}>
        {parts.map((part) => (
          <ChakraTabs.Trigger key={part.key} value={part.key}>
            {part.name}
          </ChakraTabs.Trigger>
        ))}
      </ChakraTabs.List>
      {parts.map((part) => (
        <ChakraTabs.Content key={part.key} value={part.key}>
          {part.children}
        </ChakraTabs.Content>
      ))}
    </ChakraTabs.Root>
  );
}
