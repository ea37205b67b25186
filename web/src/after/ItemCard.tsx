/** One item of a report: what was found, how it stands, every step, and what can be done next. */
import { Box, Flex, Image, Link as ChakraLink, Text } from "@chakra-ui/react";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { explain } from "../api/errors";
import { CodeMark, Mark, Tick } from "../drawings/Mark";
import { Button } from "../ui/Button";
import { Told } from "../ui/States";
import { day } from "../ui/when";
import { type DialogKind, StepDialog } from "./StepDialog";
import { type After, type Item, type Step, takeStep } from "./steps";

interface Props {
  after: After;
  item: Item;
  taken: (after: After) => void;
}

export function ItemCard({ after, item, taken }: Props) {
  const [open, setOpen] = useState<DialogKind | null>(null);
  const accept = useMutation({
    mutationFn: () => takeStep(after, [item.id], { kind: "accepted", words: "" }),
    onSuccess: taken,
  });
  const cleared = item.state === "cleared";
  const judges = after.may_decide;
  return (
    <Box
      as="li"
      borderTopWidth="1px"
      borderColor="line"
      py="4"
      aria-label={`${item.code} ${item.title}`}
      listStyleType="none"
    >
      <Flex gap="3" align="flex-start">
        <CodeMark code={item.now} />
        <Box flex="1" minW="0">
          <Flex gap="3" justify="space-between" align="baseline" wrap="wrap">
            <Box as="h3" fontWeight="bold" fontSize="lg" flex="1 1 16rem">
              {item.title}
            </Box>
            <Stands item={item} />
          </Flex>
          {item.text !== item.title && <Text>{item.text}</Text>}
          <Text color="quiet">{[item.place, item.todo].filter(Boolean).join(" · ")}</Text>
          {item.figures.map((itemFigure) => (
            <Text key={itemFigure.entity_id + itemFigure.field} fontSize="sm">
              <Mark status={itemFigure.status as never} /> {itemFigure.label}{" "}
              <Box as="span" fontFamily="mono">
                {itemFigure.value} {itemFigure.unit}
              </Box>
            </Text>
          ))}
          {item.photos.length > 0 && (
            <Flex gap="2" wrap="wrap" mt="2">
              {item.photos.map((sha256) => (
                <Image
                  key={sha256}
                  src={`/api/inspections/${after.inspection_id}/photos/${sha256}?size=small`}
                  alt={item.text || item.title}
                  w="6.5rem"
                  h="4.9rem"
                  objectFit="cover"
                  borderRadius="md"
                />
              ))}
            </Flex>
          )}
          <Steps after={after} steps={item.steps} />
          {item.own_certificates.length > 0 && !cleared && (
            <Text fontSize="sm">Certificate of your own repair: {item.own_certificates.join(", ")}</Text>
          )}
          <Flex gap="2" wrap="wrap" align="center" mt="3">
            {!cleared && (
              <>
                <Button size="sm" onClick={() => setOpen("booked")}>
                  Book …
                </Button>
                {judges && item.code === "FI" && (
                  <Button size="sm" onClick={() => setOpen("found")}>
                    Found …
                  </Button>
                )}
                <Button size="sm" onClick={() => setOpen("done")}>
                  Record work …
                </Button>
                {judges && item.figures.length > 0 && (
                  <Button size="sm" onClick={() => setOpen("retest")}>
                    Retest …
                  </Button>
                )}
                {judges && item.state === "done" && (
                  <Button size="sm" variant="quiet" onClick={() => setOpen("refused")}>
                    Do not accept …
                  </Button>
                )}
                {judges && item.state === "done" && (
                  <Button
                    size="sm"
                    variant="action"
                    disabled={item.lacks.length > 0}
                    busy={accept.isPending}
                    onClick={() => accept.mutate()}
                  >
                    Accept
                  </Button>
                )}
              </>
            )}
            {cleared && judges && (
              <Button size="sm" variant="quiet" onClick={() => setOpen("reopened")}>
                Reopen …
              </Button>
            )}
          </Flex>
          {!cleared && item.state === "done" && item.lacks.length > 0 && (
            <Box as="ul" aria-label="Missing before it can be accepted" mt="2" listStyleType="none">
              {item.lacks.map((lack) => (
                <li key={lack}>
                  <Mark status="attention" /> {lack}
                </li>
              ))}
            </Box>
          )}
          {accept.isError && <Told trouble>{explain(accept.error)}</Told>}
        </Box>
      </Flex>
      {open && <StepDialog {...{ after, item, taken }} kind={open} close={() => setOpen(null)} />}
    </Box>
  );
}

function Stands({ item }: { item: Item }) {
  const stepWords = {
    open: "open",
    booked: item.booked_on ? `booked ${day(item.booked_on)}` : "booked",
    done: "to be accepted",
    cleared: "cleared",
  }[item.state];
  return (
    <Box fontWeight="bold" color={item.state === "cleared" ? "sea" : "ink"} whiteSpace="nowrap">
      {item.state === "cleared" && <Tick />} {stepWords}
    </Box>
  );
}

function Steps({ after, steps }: { after: After; steps: Step[] }) {
  if (steps.length === 0) return null;
  return (
    <Box as="ol" listStyleType="none" aria-label="Steps so far" mt="2" pl="3" borderLeftWidth="2px" borderColor="line">
      {steps.map((step) => (
        <Box as="li" key={step.number} py="0.5">
          <Said step={step} />
          {step.files.map((file) => (
            <ChakraLink
              key={file.id}
              href={`/api/inspections/${after.inspection_id}/after/files/${file.id}`}
              download
              ml="2"
              overflowWrap="anywhere"
            >
              {file.name}
            </ChakraLink>
          ))}
          <Box as="span" color="quiet" fontSize="sm">
            {" "}
            · {step.by}
            {!step.of_firm && ` (${step.role})`}, {day(step.at.slice(0, 10))}
          </Box>
        </Box>
      ))}
    </Box>
  );
}

function Said({ step }: { step: Step }) {
  const { by, on, words, certificate, code, label, before, after, unit, status } = step.what;
  const quoted = words ? `: ${words}` : "";
  switch (step.kind) {
    case "booked":
      return (
        <>
          Booked: {by}, {day(on)}
          {step.what.own && ", return visit"}
        </>
      );
    case "done":
      return (
        <>
          <b>Put right</b> by {by}, {day(on)}
          {certificate && `, certificate ${certificate}`}
          {quoted}
        </>
      );
    case "retest":
      return (
        <>
          <Mark status={status as never} /> {label}{" "}
          <Box as="span" fontFamily="mono">
            {before || "–"} → <b>{after}</b> {unit}
          </Box>
        </>
      );
    case "found":
      return (
        <>
          Found {code === "none" ? "no defect" : code}
          {quoted}
        </>
      );
    case "accepted":
      return <b>Accepted</b>;
    case "refused":
      return <>Not accepted{quoted}</>;
    default:
      return <>Reopened{quoted}</>;
  }
}
