/** What a property tells: the years on a line, the readings of each circuit from then to now, and what stands out. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useNavigate } from "react-router";
import type { Schemas } from "../api/client";
import { Mark } from "../drawings/Mark";
import { Spark } from "../drawings/Spark";
import { Timeline } from "../drawings/Timeline";
import { Table } from "../ui/Table";
import { Empty } from "../ui/States";

type StoryOut = Schemas["StoryOut"];
type Circuit = Schemas["CircuitStoryOut"];

export function Story({ story }: { story: StoryOut }) {
  const navigate = useNavigate();
  const { events, circuits, notes, followed } = story;
  const visited = events.some((event) => event.kind === "inspection");
  const installations = new Set(events.map((event) => event.installation).filter(Boolean));
  const fields = Object.keys(followed);
  const boards = new Set(circuits.map((circuit) => circuit.inspection_id + circuit.board));
  const noted = (circuit: Circuit, field: string) =>
    notes.find((note) => note.circuit_id === circuit.circuit_id && note.field === field);
  return (
    <>
      {events.length > 0 && (
        <Timeline events={events} named={installations.size > 1} open={(id) => navigate(`/inspection/${id}/report`)} />
      )}
      {!visited && (
        <Empty title="No visit yet">
          With its first inspection the circuits stand here, and from the second on how they change.
        </Empty>
      )}
      {circuits.length > 0 && (
        <Table
          caption="Circuits over the years"
          columns={[{ name: "Circuit" }, ...fields.map((field) => ({ name: followed[field] ?? field }))]}
          rows={circuits.map((circuit) => ({
            key: circuit.inspection_id + circuit.circuit_id,
            cells: [
              <Box key="name">
                <b>
                  {circuit.way} {circuit.name ?? "Unnamed"}
                </b>
                {boards.size > 1 && (
                  <Box as="span" color="quiet" fontSize="sm">
                    {" "}
                    {circuit.board}
                  </Box>
                )}
              </Box>,
              ...fields.map((field) => {
                const points = circuit.figures[field] ?? [];
                const note = noted(circuit, field);
                return (
                  <Flex key={field} align="center" gap="2.5" bg={note ? "lampWash" : undefined} px="1">
                    <Spark points={points} ratio={field.startsWith("insulation")} />
                    <Box as="span" fontFamily="mono" fontVariantNumeric="tabular-nums">
                      {points.at(-1)?.text ?? "–"}
                    </Box>
                    {note && <Mark status={note.status} />}
                  </Flex>
                );
              }),
            ],
          }))}
        />
      )}
      {notes.length > 0 && (
        <Flex wrap="wrap" gap="3" mt="4">
          {notes.map((note) => (
            <Box
              key={note.circuit_id + note.field}
              flex="1 1 18rem"
              bg="sheet"
              borderWidth="1px"
              borderColor="line"
              borderRadius="lg"
              px="4"
              py="3"
            >
              <b>
                <Mark status={note.status} /> {note.title}
              </b>
              <Text color="quiet">{note.reason}</Text>
            </Box>
          ))}
        </Flex>
      )}
    </>
  );
}
