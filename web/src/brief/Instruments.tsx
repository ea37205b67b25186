/** Instruments of this inspection, taken from the firm's register as it is today; their numbers go into the report. */
import { Box, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { api, answer } from "../api/client";
import { remembered } from "../api/remembered";
import { Mark } from "../drawings/Mark";
import { children } from "../inspection/model";
import { takeInstrument } from "../inspection/instruments";
import { setField, useInspection } from "../inspection/open";
import { Button, LinkButton } from "../ui/Button";
import { Line, Lines, Section } from "../ui/Page";
import { Empty } from "../ui/States";

export function Instruments({ inspection }: { inspection: string }) {
  const model = useInspection((s) => s.model);
  const register = useQuery({
    queryKey: ["instruments"],
    queryFn: () => remembered("instruments", () => answer(api.GET("/api/instruments"))),
    retry: false,
  });
  if (!model) return null;
  const used = children(model, "instrument_used", inspection);
  const notes = model.judgement?.notes ?? [];
  const others = (register.data?.instruments ?? []).filter(
    ({ entry }) =>
      !entry.values.retired && !used.some((instrumentUsed) => instrumentUsed.values.register_id === entry.id),
  );
  const takeOut = (id: string) => setField({ kind: "instrument_used", id, field: "removed" }, true);
  return (
    <Section title="Instruments">
      <Lines label="Instruments of this inspection">
        {used.map((instrumentUsed) => {
          const note = notes.find((n) => n.id === instrumentUsed.id);
          return (
            <Line key={instrumentUsed.id}>
              <Box flex="1 1 16rem">
                <b>{String(instrumentUsed.values.name ?? "Instrument")}</b> {String(instrumentUsed.values.serial ?? "")}{" "}
                {note && (
                  <>
                    <Mark status={note.status} /> {note.reason}
                  </>
                )}
              </Box>
              <Button variant="quiet" onClick={() => takeOut(instrumentUsed.id)}>
                Remove
              </Button>
            </Line>
          );
        })}
      </Lines>
      <Flex wrap="wrap" gap="2">
        {others.map(({ entry, calibration }) => (
          <Button key={entry.id} onClick={() => takeInstrument(inspection, entry)}>
            + {String(entry.values.name ?? "Instrument")} {String(entry.values.serial ?? "")}
            {calibration.status !== "pass" && <Mark status={calibration.status} />}
          </Button>
        ))}
      </Flex>
      {register.data && register.data.instruments.length === 0 && (
        <Empty act={<LinkButton to="/instruments">Enter them once</LinkButton>}>
          No instrument in the register yet. Once entered, they are taken with a tap.
        </Empty>
      )}
      {register.isError && <Box color="quiet">The register cannot be reached now; instruments can be added later.</Box>}
    </Section>
  );
}
