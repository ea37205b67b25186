/** "I had something done": what, by whom, when, with its certificate or photos. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { Evidence, type SentFile } from "../after/Evidence";
import { sendFile } from "../after/steps";
import { answer } from "../api/client";
import { explain, fieldErrors } from "../api/errors";
import { Button } from "../ui/Button";
import { CheckGroup } from "../ui/CheckField";
import { DateField } from "../ui/DateField";
import { Dialog } from "../ui/Dialog";
import { fieldsOf } from "../ui/fields";
import { Told } from "../ui/States";
import { TextField } from "../ui/TextField";
import { today } from "../ui/when";
import { bearer, shared, type SharedReport } from "./api";

interface Props {
  report: SharedReport;
  close: () => void;
  taken: (report: SharedReport) => void;
}

export function DoneDialog({ report, close, taken }: Props) {
  const open = report.items.filter((sharedItem) => sharedItem.state !== "cleared");
  const [items, setItems] = useState<string[]>(open.length === 1 && open[0] ? [open[0].id] : []);
  const [typed, setTyped] = useState({ by: "", on: today(), words: "", certificate: "" });
  const [files, setFiles] = useState<SentFile[]>([]);
  const path = `/api/shared/homes/${report.id}/files`;
  const done = useMutation({
    mutationFn: () =>
      answer(
        shared.POST("/api/shared/homes/{inspection_id}/done", {
          params: { path: { inspection_id: report.id } },
          body: { ...typed, items, files: files.map((sentFile) => sentFile.id) },
        }),
      ),
    onSuccess: (next) => {
      taken(next);
      close();
    },
  });
  const refused = fieldErrors(done.error);
  const of = fieldsOf(typed, setTyped, refused);
  return (
    <Dialog
      title="Report work done"
      close={close}
      width="34rem"
      footer={
        <>
          <Button variant="quiet" onClick={close}>
            Cancel
          </Button>
          <Button variant="action" busy={done.isPending} disabled={items.length === 0} onClick={() => done.mutate()}>
            Send
          </Button>
        </>
      }
    >
      <Flex direction="column" gap="4">
        <CheckGroup
          label="What was done"
          values={items}
          change={setItems}
          choices={open.map((sharedItem) => [sharedItem.id, `${sharedItem.code} ${sharedItem.title}`] as const)}
        />
        <TextField label="Who did it" maxLength={120} hint="the electrician or the firm" {...of("by")} />
        <DateField label="Done on" {...of("on")} />
        <TextField label="What they did" rows={2} maxLength={1000} {...of("words")} />
        <TextField label="Number of the certificate" maxLength={60} hint="where there is one" {...of("certificate")} />
        <Evidence files={files} change={setFiles} send={(file, kind) => sendFile(path, file, kind, bearer())} />
        <Text color="quiet">{report.firm} looks at it, and accepts it or asks.</Text>
      </Flex>
      <Box aria-live="polite">
        {refused.files && <Told trouble>{refused.files}</Told>}
        {done.isError && Object.keys(refused).length === 0 && <Told trouble>{explain(done.error)}</Told>}
      </Box>
    </Dialog>
  );
}
