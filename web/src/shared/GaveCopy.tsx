/** A landlord or agent says to whom they gave a copy. */
import { Flex } from "@chakra-ui/react";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { answer } from "../api/client";
import { explain, fieldErrors } from "../api/errors";
import type { Schemas } from "../api/client";
import { Button } from "../ui/Button";
import { DateField } from "../ui/DateField";
import { Dialog } from "../ui/Dialog";
import { SelectField } from "../ui/SelectField";
import { fieldsOf } from "../ui/fields";
import { Told } from "../ui/States";
import { TextField } from "../ui/TextField";
import { today } from "../ui/when";
import { shared, type SharedReport } from "./api";

interface Props {
  report: SharedReport;
  close: () => void;
  taken: (report: SharedReport) => void;
}

export function GaveCopy({ report, close, taken }: Props) {
  const [typed, setTyped] = useState({
    of: report.confirmed_on ? "confirmation" : "report",
    role: "occupier",
    name: "",
    how: "by hand",
    on: today(),
  });
  const given = useMutation({
    mutationFn: () =>
      answer(
        shared.POST("/api/shared/homes/{inspection_id}/copies", {
          params: { path: { inspection_id: report.id } },
          body: typed as Schemas["SharedCopyIn"],
        }),
      ),
    onSuccess: (next) => {
      taken(next);
      close();
    },
  });
  const refused = fieldErrors(given.error);
  const of = fieldsOf(typed, setTyped, refused);
  return (
    <Dialog
      title="Copy given"
      close={close}
      footer={
        <>
          <Button variant="quiet" onClick={close}>
            Cancel
          </Button>
          <Button variant="action" busy={given.isPending} disabled={!typed.name.trim()} onClick={() => given.mutate()}>
            Record copy
          </Button>
        </>
      }
    >
      <Flex direction="column" gap="4">
        {report.confirmed_on && (
          <SelectField
            label="Paper"
            choices={[
              ["report", "report"],
              ["confirmation", "confirmation that all is put right"],
            ]}
            {...of("of")}
          />
        )}
        <SelectField
          label="Given to"
          choices={[
            ["occupier", "whoever lives there"],
            ["authority", "local authority"],
          ]}
          {...of("role")}
        />
        <TextField label="Name" maxLength={120} {...of("name")} />
        <SelectField
          label="How"
          choices={[
            ["by hand", "by hand"],
            ["post", "by post"],
            ["link", "by link"],
          ]}
          {...of("how")}
        />
        <DateField label="Day" {...of("on")} />
        {given.isError && Object.keys(refused).length === 0 && <Told trouble>{explain(given.error)}</Told>}
      </Flex>
    </Dialog>
  );
}
