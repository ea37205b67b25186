/** The law's dates with what shows that each is met, who has a copy, and sending one. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, answer, type Schemas } from "../api/client";
import { explain, fieldErrors } from "../api/errors";
import { Tick } from "../drawings/Mark";
import { Button, IconButton } from "../ui/Button";
import { DateField } from "../ui/DateField";
import { Dialog } from "../ui/Dialog";
import { fieldsOf } from "../ui/fields";
import { Section } from "../ui/Page";
import { SelectField } from "../ui/SelectField";
import { Told } from "../ui/States";
import { TextField } from "../ui/TextField";
import { day, today } from "../ui/when";
import type { After } from "./steps";

type Copy = Schemas["CopyOut"];
type Role = Copy["role"];

export const ROLES: readonly (readonly [Role, string])[] = [
  ["client", "client"],
  ["landlord", "landlord"],
  ["agent", "agent"],
  ["occupier", "occupier"],
  ["authority", "local authority"],
  ["contractor", "contractor"],
  ["other", "somebody else"],
];

export function Duties({ duties, caution }: { duties: Schemas["DutyStateOut"][]; caution: string }) {
  if (duties.length === 0) return null;
  return (
    <Section title="By law" lead={caution}>
      <Box as="ul" listStyleType="none">
        {duties.map((dutyState) => (
          <Flex as="li" key={dutyState.duty + dutyState.counted_from} gap="2" py="1.5" align="baseline">
            <Box w="5" flex="none" color="sea">
              {dutyState.done_on && <Tick />}
            </Box>
            <Box flex="1">{dutyState.duty[0]?.toUpperCase() + dutyState.duty.slice(1)}</Box>
            <Box
              textAlign="right"
              fontWeight={dutyState.due && !dutyState.done_on ? "bold" : undefined}
              whiteSpace="nowrap"
            >
              {dutyState.done_on ? day(dutyState.done_on) : dutyState.due ? `by ${day(dutyState.due)}` : ""}
              {!dutyState.done_on && !dutyState.due && (
                <Text as="span" color="quiet" fontSize="sm">
                  {dutyState.days ? `${dutyState.days} days from ` : ""}
                  {dutyState.counted_from}
                </Text>
              )}
            </Box>
          </Flex>
        ))}
      </Box>
    </Section>
  );
}

export function Copies({ after, changed }: { after: After; changed: (after?: After) => void }) {
  const [open, setOpen] = useState<"mail" | "note" | null>(null);
  const remove = useMutation({
    mutationFn: (copy: Copy) =>
      answer(
        api.DELETE("/api/inspections/{inspection_id}/after/copies/{copy_id}", {
          params: { path: { inspection_id: after.inspection_id, copy_id: copy.id } },
        }),
      ),
    onSuccess: changed,
  });
  return (
    <Section title="Copies sent">
      {after.copies.length === 0 && <Text color="quiet">Nobody has a copy yet. Mail one, or record one given.</Text>}
      <Box as="ul" listStyleType="none" mb="3">
        {after.copies.map((copy) => (
          <Flex as="li" key={copy.id} align="center" gap="2" py="1" borderTopWidth="1px" borderColor="line">
            <Box flex="1" minW="0">
              <b>{copy.name}</b>, {copy.role}
              {copy.of === "confirmation" && ", confirmation"}
              <Text color={copy.arrived ? "quiet" : "ink"} fontSize="sm" fontWeight={copy.arrived ? undefined : "bold"}>
                {copy.how} {day(copy.at.slice(0, 10))}
                {!copy.of_firm && `, says ${copy.by}`}
                {copy.opened_at && `, opened ${day(copy.opened_at.slice(0, 10))}`}
                {!copy.arrived && `: ${MAIL_STATES[copy.mail_state] ?? copy.mail_state}`}
              </Text>
            </Box>
            {after.may_send && (
              <IconButton icon="close" label={`Remove copy of ${copy.name}`} onClick={() => remove.mutate(copy)} />
            )}
          </Flex>
        ))}
      </Box>
      {remove.isError && <Told trouble>{explain(remove.error)}</Told>}
      {after.may_send && (
        <Flex gap="2" wrap="wrap">
          <Button variant={after.copies.length ? "outline" : "action"} onClick={() => setOpen("mail")}>
            Mail a copy …
          </Button>
          <Button onClick={() => setOpen("note")}>Record a copy …</Button>
        </Flex>
      )}
      {open === "mail" && <MailDialog {...{ after, changed }} close={() => setOpen(null)} />}
      {open === "note" && <NoteDialog {...{ after, changed }} close={() => setOpen(null)} />}
    </Section>
  );
}

export const MAIL_STATES: Record<string, string> = {
  waiting: "waiting to be sent",
  leaving: "being sent",
  sent: "sent",
  failed: "not delivered",
  uncertain: "perhaps sent",
  bounced: "came back",
  withdrawn: "stopped",
};

interface DialogProps {
  after: After;
  changed: (after?: After) => void;
  close: () => void;
}

function OfField({ after, of, change }: { after: After; of: string; change: (of: string) => void }) {
  if (!after.confirmed) return null;
  return (
    <SelectField
      label="Paper"
      value={of}
      change={change}
      choices={[
        ["report", "report"],
        ["confirmation", "confirmation that all is put right"],
      ]}
    />
  );
}

function MailDialog({ after, changed, close }: DialogProps) {
  const [typed, setTyped] = useState({
    of: after.confirmed ? "confirmation" : "report",
    role: "client",
    name: after.client,
    to: after.client_email,
    words: "",
  });
  const mail = useMutation({
    mutationFn: () =>
      answer(
        api.POST("/api/inspections/{inspection_id}/after/mail", {
          params: { path: { inspection_id: after.inspection_id } },
          body: typed as Schemas["MailReportIn"],
        }),
      ),
    onSuccess: (sent) => {
      changed();
      if (sent.state === "sent") close();
    },
  });
  const refused = fieldErrors(mail.error);
  const of = fieldsOf(typed, setTyped, refused);
  const notYet = mail.data && mail.data.state !== "sent" ? mail.data : null;
  return (
    <Dialog
      title="Mail a copy"
      close={close}
      width="34rem"
      footer={
        notYet ? (
          <Button variant="action" onClick={close}>
            Close
          </Button>
        ) : (
          <>
            <Button variant="quiet" onClick={close}>
              Cancel
            </Button>
            <Button
              variant="action"
              busy={mail.isPending}
              disabled={!typed.to.trim() || !typed.name.trim()}
              onClick={() => mail.mutate()}
            >
              Send mail
            </Button>
          </>
        )
      }
    >
      {notYet ? (
        <Told trouble>
          <b>{MAIL_STATES[notYet.state]}.</b> {notYet.told}{" "}
          {notYet.state === "waiting" && "It is tried again by itself; see Letters."}
        </Told>
      ) : (
        <Flex direction="column" gap="4">
          <OfField after={after} of={typed.of} change={(paper) => setTyped({ ...typed, of: paper })} />
          <SelectField label="As" choices={ROLES} {...of("role")} />
          <TextField label="Name" maxLength={120} {...of("name")} />
          <TextField label="Email" type="email" maxLength={190} {...of("to")} />
          <TextField label="Your words" rows={3} maxLength={2000} hint="above the firm's text" {...of("words")} />
          <Text color="quiet">The paper goes as a PDF, with a link to a page with pictures and dates.</Text>
          {mail.isError && Object.keys(refused).length === 0 && <Told trouble>{explain(mail.error)}</Told>}
        </Flex>
      )}
    </Dialog>
  );
}

function NoteDialog({ after, changed, close }: DialogProps) {
  const [typed, setTyped] = useState({ of: "report", role: "occupier", name: "", how: "by hand", on: today() });
  const note = useMutation({
    mutationFn: () =>
      answer(
        api.POST("/api/inspections/{inspection_id}/after/copies", {
          params: { path: { inspection_id: after.inspection_id } },
          body: typed as Schemas["CopyIn"],
        }),
      ),
    onSuccess: (next) => {
      changed(next);
      close();
    },
  });
  const refused = fieldErrors(note.error);
  const of = fieldsOf(typed, setTyped, refused);
  return (
    <Dialog
      title="Record a copy"
      close={close}
      footer={
        <>
          <Button variant="quiet" onClick={close}>
            Cancel
          </Button>
          <Button variant="action" busy={note.isPending} disabled={!typed.name.trim()} onClick={() => note.mutate()}>
            Record copy
          </Button>
        </>
      }
    >
      <Flex direction="column" gap="4">
        <OfField after={after} of={typed.of} change={(paper) => setTyped({ ...typed, of: paper })} />
        <SelectField label="Given to" choices={ROLES} {...of("role")} />
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
        {note.isError && Object.keys(refused).length === 0 && <Told trouble>{explain(note.error)}</Told>}
      </Flex>
    </Dialog>
  );
}
