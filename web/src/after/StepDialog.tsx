/** What was done about an item: who is to do it, that it is done, a figure tested again, what was found, or why not. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, answer, type Schemas } from "../api/client";
import { explain, fieldErrors } from "../api/errors";
import { useReference } from "../api/reference";
import { CodeMark, Mark } from "../drawings/Mark";
import { useSettled } from "../ui/useSettled";
import { Button } from "../ui/Button";
import { Check, CheckGroup } from "../ui/CheckField";
import { DateField } from "../ui/DateField";
import { Dialog } from "../ui/Dialog";
import { SelectField } from "../ui/SelectField";
import { Told } from "../ui/States";
import { TextField } from "../ui/TextField";
import { today } from "../ui/when";
import { Evidence, type SentFile } from "./Evidence";
import { type After, type Item, sendFile, type StepIn, takeStep } from "./steps";

/** A figure is judged when nothing was typed for so long (ms). */
const QUIET_MS = 250;

export type DialogKind = Exclude<StepIn["kind"], "accepted">;

const TITLES: Record<DialogKind, string> = {
  booked: "Book the work",
  done: "Record work done",
  retest: "Retest",
  found: "What the investigation found",
  refused: "Not accepted",
  reopened: "Reopen",
};
const BUTTONS: Record<DialogKind, string> = {
  booked: "Book",
  done: "Record as done",
  retest: "Record the retest",
  found: "Record the finding",
  refused: "Do not accept",
  reopened: "Reopen",
};

interface Props {
  after: After;
  item: Item;
  kind: DialogKind;
  close: () => void;
  taken: (after: After) => void;
}

type Typed = {
  by: string;
  on: string;
  words: string;
  certificate: string;
  reading: string;
  code: string;
  own: boolean;
};

export function StepDialog({ after, item, kind, close, taken }: Props) {
  const others = after.items.filter((one) => one.id !== item.id && one.state !== "cleared" && one.counts);
  const [typed, setTyped] = useState<Typed>({
    by: kind === "done" ? item.booked_by : "",
    on: kind === "booked" ? "" : today(),
    words: "",
    certificate: item.own_certificates[0] ?? "",
    reading: "",
    code: "",
    own: false,
  });
  const [also, setAlso] = useState<string[]>([]);
  const [files, setFiles] = useState<SentFile[]>([]);
  const [figure, setFigure] = useState(item.figures[0] ? key(item.figures[0]) : "");
  const path = `/api/inspections/${after.inspection_id}/after/files`;
  const step = useMutation({
    mutationFn: () => takeStep(after, [item.id, ...also], made(kind, typed, figure, files)),
    onSuccess: (next) => {
      taken(next);
      close();
    },
  });
  const refused = fieldErrors(step.error);
  const of = (field: keyof Typed & string) => ({
    value: String(typed[field]),
    change: (value: string) => setTyped({ ...typed, [field]: value }),
    refused: refused[`step.${field}`] ?? refused[`step.${kind}.${field}`],
  });
  const message = Object.keys(refused).length > 0 && step.error ? "" : step.error ? explain(step.error) : "";
  return (
    <Dialog
      title={TITLES[kind]}
      close={close}
      width="36rem"
      footer={
        <>
          <Button variant="quiet" onClick={close}>
            Cancel
          </Button>
          <Button variant="action" busy={step.isPending} onClick={() => step.mutate()}>
            {BUTTONS[kind]}
          </Button>
        </>
      }
    >
      <Flex gap="3" align="baseline" mb="4">
        <CodeMark code={item.now} />
        <b>{item.title}</b>
      </Flex>
      <Flex direction="column" gap="4">
        {(kind === "booked" || kind === "done") && (
          <TextField label={kind === "booked" ? "Who does it" : "Who did it"} maxLength={120} {...of("by")} />
        )}
        {kind !== "refused" && kind !== "reopened" && (
          <DateField label={kind === "retest" ? "Tested on" : kind === "booked" ? "Day" : "Done on"} {...of("on")} />
        )}
        {kind === "booked" && (
          <Check checked={typed.own} change={(own) => setTyped({ ...typed, own })}>
            Return visit of ours
          </Check>
        )}
        {kind === "retest" && (
          <Figures after={after} item={item} chosen={figure} choose={setFigure} reading={of("reading")} />
        )}
        {kind === "found" && (
          <SelectField
            label="It is"
            choices={[
              ["", "choose"],
              ["none", "no defect"],
              ["C1", "C1, danger present"],
              ["C2", "C2, potentially dangerous"],
              ["C3", "C3, improvement recommended"],
            ]}
            {...of("code")}
          />
        )}
        {kind === "done" && (
          <TextField
            label="Number of the certificate"
            maxLength={60}
            hint="where there is one"
            {...of("certificate")}
          />
        )}
        {kind !== "booked" && (
          <TextField
            label={
              kind === "refused" || kind === "reopened" ? "Why" : kind === "found" ? "What was found" : "What was done"
            }
            rows={3}
            maxLength={1000}
            {...of("words")}
          />
        )}
        {(kind === "done" || kind === "found" || kind === "retest") && (
          <Evidence files={files} change={setFiles} send={(file, evidence) => sendFile(path, file, evidence)} />
        )}
        {(kind === "done" || kind === "booked") && others.length > 0 && (
          <CheckGroup
            label="The same for"
            values={also}
            change={setAlso}
            choices={others.map((other) => [other.id, `${other.now} ${other.title}`] as const)}
          />
        )}
      </Flex>
      {refused["step.files"] && <Told trouble>{refused["step.files"]}</Told>}
      {refused.step && <Told trouble>{refused.step}</Told>}
      {message && <Told trouble>{message}</Told>}
    </Dialog>
  );
}

const key = (figure: { entity_id: string; field: string }) => `${figure.entity_id} ${figure.field}`;

function made(kind: DialogKind, typed: Typed, figure: string, sent: SentFile[]): StepIn {
  const { by, on, words, certificate, reading, code, own } = typed;
  const files = sent.map((sentFile) => sentFile.id);
  const [entity_id = "", field = ""] = figure.split(" ");
  switch (kind) {
    case "booked":
      return { kind, by, on, own };
    case "done":
      return { kind, by, on, words, certificate, files };
    case "retest":
      return { kind, entity_id, field, reading, on, words, files };
    case "found":
      return { kind, code: code as Schemas["FoundIn"]["code"], words, on, files };
    default:
      return { kind, words };
  }
}

interface FiguresProps {
  after: After;
  item: Item;
  chosen: string;
  choose: (figure: string) => void;
  reading: { value: string; change: (value: string) => void; refused?: string };
}

/** The figures behind an item, before and after; how the new one is judged comes from the server as it is typed. */
function Figures({ after, item, chosen, choose, reading }: FiguresProps) {
  const figure = item.figures.find((itemFigure) => key(itemFigure) === chosen);
  const choices = useReference()?.fields[figure?.entity ?? ""]?.[figure?.field ?? ""]?.choices;
  const typed = useSettled(reading.value.trim(), QUIET_MS);
  const { entity_id = "", field = "" } = figure ?? {};
  const judged = useQuery({
    queryKey: ["retest", after.inspection_id, entity_id, field, typed],
    queryFn: () =>
      answer(
        api.POST("/api/inspections/{inspection_id}/after/retest", {
          params: { path: { inspection_id: after.inspection_id } },
          body: { entity_id, field, reading: typed },
        }),
      ),
    enabled: Boolean(field && typed && typed === reading.value.trim()),
    retry: false,
  });
  return (
    <>
      {item.figures.length > 1 && (
        <SelectField
          label="Reading"
          value={chosen}
          change={choose}
          choices={item.figures.map((itemFigure) => [key(itemFigure), itemFigure.label] as const)}
        />
      )}
      {figure && (
        <Flex gap="4" align="flex-end" wrap="wrap">
          <Box>
            <Text color="quiet" fontSize="sm">
              {figure.label}, before
            </Text>
            <Box fontFamily="mono" fontSize="2xl">
              {figure.value} {figure.unit}
            </Box>
          </Box>
          <Box fontSize="2xl" aria-hidden="true">
            →
          </Box>
          <Box flex="1 1 10rem">
            {choices?.length ? (
              <SelectField
                label="Now"
                {...reading}
                choices={[["", "choose"], ...choices.map((choice) => [choice, choice] as const)]}
              />
            ) : (
              <TextField label="Now" unit={figure.unit} figure maxLength={40} {...reading} />
            )}
          </Box>
        </Flex>
      )}
      <Box minH="6" aria-live="polite">
        {judged.data && (
          <>
            <Mark status={judged.data.status as never} size={14} /> {judged.data.says}
          </>
        )}
      </Box>
    </>
  );
}
