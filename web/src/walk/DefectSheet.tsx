/** What is wrong with a point: the entries that are met there, one tap each, coded by its place. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useEffect } from "react";
import { useReference } from "../api/reference";
import { CodeMark } from "../drawings/Mark";
import { useCatalogue } from "../inspection/catalogue";
import { observe } from "../inspection/desk";
import { useInspection, useMay } from "../inspection/open";
import { Button } from "../ui/Button";
import { Dialog } from "../ui/Dialog";
import { Said } from "../ui/Said";
import { nameWithin, usePointView } from "./points";
import { choose, mark, recordDefect, useWalking } from "./walking";

export function DefectSheet({ id }: { id: string }) {
  const point = useInspection((s) => s.model?.entities[id]);
  const judgement = useInspection((s) => s.model?.judgement);
  const room = useInspection((s) => s.model?.entities[String(point?.values.room_id ?? "")]);
  const catalogue = useCatalogue();
  const decides = useMay("decide");
  const view = usePointView(id);
  // A point that was counted a moment ago is not judged yet: its kind alone says what is met there.
  const kind = String(point?.values.kind ?? "point");
  const usual = useReference()?.looks ?? {};
  const met = ((view && judgement?.looks[view.look]) ?? usual[kind] ?? usual.point)?.met ?? [];
  const name = useInspection((s) => (s.model && point ? nameWithin(s.model, point) : ""));
  const entries = met.flatMap((key) => catalogue.find((one) => one.key === key) ?? []);
  const codeOf = (key: string) => {
    const usually = judgement?.starting_codes[key] ?? entries.find((one) => one.key === key)?.code ?? "";
    return view?.moved[key] ?? { code: usually, why: "" };
  };

  const pressed = useWalking((s) => s.pressed);
  useEffect(() => {
    const entry = pressed === null ? undefined : entries[pressed - 1];
    if (entry && point) recordDefect(point, name, room, entry, decides ? codeOf(entry.key) : null);
  });

  if (!point) return null;
  const other = () => {
    choose(null);
    if (point.values.looked !== "defect") mark(point, "looked", "defect");
    observe({ kind: "point", id, field: "looked" });
  };
  return (
    <Dialog
      title={`What is wrong: ${name}`}
      close={() => choose(null)}
      width="32rem"
      footer={
        <>
          {point.values.looked === "defect" && (
            <Button
              variant="quiet"
              onClick={() => {
                mark(point, "looked", "defect");
                choose(null);
              }}
            >
              No defect after all
            </Button>
          )}
          <Box flex="1" />
          <Button onClick={() => choose(null)} hotkey="Esc">
            Back
          </Button>
        </>
      }
    >
      <Flex direction="column" gap="2">
        {entries.map((entry, at) => {
          const code = codeOf(entry.key);
          return (
            <Button key={entry.key} wide onClick={() => recordDefect(point, name, room, entry, decides ? code : null)}>
              <Said words={`${entry.title}, ${code.code}`}>
                <Flex as="span" flex="1" gap="3" align="center" textAlign="start" py="1" minW="0">
                  <CodeMark code={code.code} />
                  <Box as="span" flex="1" minW="0">
                    {entry.title}
                    {code.why && (
                      <Text as="small" display="block" color="quiet" fontWeight="normal">
                        {code.why}
                      </Text>
                    )}
                  </Box>
                  <Box as="kbd" color="quiet" fontFamily="mono" hideBelow="md">
                    {at + 1}
                  </Box>
                </Flex>
              </Said>
            </Button>
          );
        })}
        <Button variant="action" wide onClick={other}>
          Something else …
        </Button>
        {entries.length > 0 && (
          <Text color="quiet" fontSize="sm">
            {decides
              ? "A tap records it with that code; what would move it is asked under Observations. You decide."
              : "A tap records it; an inspector or a supervisor gives it its code."}
          </Text>
        )}
      </Flex>
    </Dialog>
  );
}
