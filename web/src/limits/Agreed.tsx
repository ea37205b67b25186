/** Limitations that were agreed: what is left out, why, and with whom. Agreed before the visit or on it. */
import { Box } from "@chakra-ui/react";
import { Fields } from "../fields/Fields";
import { children } from "../inspection/model";
import { add, setField, useInspection } from "../inspection/open";
import { Button } from "../ui/Button";
import { Lines, Section } from "../ui/Page";
import { tell } from "../ui/tell";
import type { Place } from "../inspection/types";

export function Agreed() {
  const model = useInspection((s) => s.model);
  if (!model) return null;
  const takeOut = (id: string) => {
    const removed: Place = { kind: "limitation", id, field: "removed" };
    setField(removed, true);
    tell("The limitation is taken out.", () => setField(removed, null));
  };
  return (
    <Section title="Agreed limitations" lead="What is left out by agreement, with whom, and why.">
      <Lines>
        {children(model, "limitation", model.id).map(({ id }) => (
          <Box as="li" key={id} borderTopWidth="1px" borderColor="line" py="3">
            <Fields
              kind="limitation"
              id={id}
              fields={[{ field: "what", label: "Left out" }, "reason", "agreed_with", "agreed_on"]}
            />
            <Button variant="quiet" onClick={() => takeOut(id)}>
              Remove limitation
            </Button>
          </Box>
        ))}
      </Lines>
      <Button onClick={() => add("limitation", model.id, {})}>Add a limitation</Button>
    </Section>
  );
}
