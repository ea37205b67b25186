/** What the client worries about and what the occupier says misbehaves: each is answered before the report is issued. */
import { Box } from "@chakra-ui/react";
import { Answer, isAnswered, removeConcern } from "../comeback/OpenConcerns";
import { Fields } from "../fields/Fields";
import { children } from "../inspection/model";
import { add, useInspection } from "../inspection/open";
import { Button } from "../ui/Button";
import { Lines, Section } from "../ui/Page";

export function Concerns({ inspection }: { inspection: string }) {
  const model = useInspection((s) => s.model);
  if (!model) return null;
  return (
    <Section
      title="What people ask about"
      lead="What the client worries about, what the occupier says misbehaves. Each answer is printed in the report."
    >
      <Lines label="Questions">
        {children(model, "concern", inspection).map((concern, at) => (
          <Box as="li" key={concern.id} borderTopWidth="1px" borderColor="line" py="3">
            <Fields
              kind="concern"
              id={concern.id}
              fields={[
                { field: "what", wide: true },
                { field: "asked_by", wide: true },
              ]}
            />
            <Answer concern={concern} />
            <Box mt="1">
              {!isAnswered(concern) && <b>Not answered yet. </b>}
              <Button variant="quiet" label={`Remove question ${at + 1}`} onClick={() => removeConcern(concern.id)}>
                Remove question
              </Button>
            </Box>
          </Box>
        ))}
      </Lines>
      <Button onClick={() => add("concern", inspection, { asked_by: "client" })}>Add a question</Button>
    </Section>
  );
}
