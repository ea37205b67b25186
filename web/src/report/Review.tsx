/** A report on its way: signed and submitted, read, sent back, authorised and issued. What may be done next is served. */
import { Box, Flex } from "@chakra-ui/react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, answer, type Me, type Schemas } from "../api/client";
import { explain, explainField, fieldErrors } from "../api/errors";
import { useGoTo } from "../inspection/goTo";
import { noteState, useInspection, useMay } from "../inspection/open";
import { useSigned } from "../inspection/signatures";
import { isAway, useReach } from "../inspection/transport";
import { Button } from "../ui/Button";
import { Dialog } from "../ui/Dialog";
import { Line, Lines, Section } from "../ui/Page";
import { Told } from "../ui/States";
import { TextField } from "../ui/TextField";
import { moment } from "../ui/when";
import { type Signature, SignatureField } from "./SignatureField";
import { SignHere } from "./SignHere";

type State = Schemas["ReviewOut"];

interface Props {
  me: Me;
  /** What was looked at in the draft; 0 for nothing yet. */
  seq: number;
  /** Something is in the way of signing. */
  hindered: boolean;
  /** The same where the server is away, and what waits here is in nobody's way. */
  hinderedHere: boolean;
  /** Issues so far, and whether the last one says what stands here. */
  issued: number;
  unchanged: boolean;
}

export function Review({ me, seq, hindered, hinderedHere, issued, unchanged }: Props) {
  const queries = useQueryClient();
  const id = useInspection((s) => s.model?.id) ?? "";
  const known = useInspection((s) => s.model?.seq) ?? 0;
  // A step is taken without a change of the inspection: by a signature that waited here, or elsewhere.
  const stage = useInspection((s) => s.model?.state) ?? null;
  const signedHere = useSigned((s) => s[id]);
  const keyAt = (at: typeof stage) => ["review", id, known, at];
  const params = { path: { inspection_id: id } };
  const review = useQuery({
    queryKey: keyAt(stage),
    queryFn: () => answer(api.GET("/api/inspections/{inspection_id}/review", { params })),
    enabled: known > 0 && !signedHere,
    placeholderData: (before) => before,
  });
  const taken = (state: State) => {
    const now = state.in_review ? "in review" : "in hand";
    queries.setQueryData(keyAt(now), state);
    noteState(now);
  };
  const again = () => {
    void queries.invalidateQueries({ queryKey: ["review", id] });
    void queries.invalidateQueries({ queryKey: ["issues", id] });
  };
  const reads = useMay("review");
  const away = useReach((s) => isAway(s.reach));
  if (away || signedHere)
    return (
      <Section title="Review and signatures">
        <SignHere me={me} hindered={hinderedHere} />
      </Section>
    );
  if (review.isError)
    return <Told trouble>{explain(review.error, "What you typed is still here.")} The review cannot be shown.</Told>;
  if (!review.data) return null;
  const { steps, in_review, reopened, since_look } = review.data;
  return (
    <Section title="Review and signatures">
      <Steps steps={steps} />
      {reopened.length > 0 && (
        <Changes title="Changed since it was submitted: it is signed for again" changes={reopened} />
      )}
      {reads && in_review && <Read since={since_look} seq={seq} taken={taken} />}
      {unchanged ? (
        <p>Issue {issued} is up to date. Change something, then issue a correction.</p>
      ) : in_review ? (
        <Authorise {...{ me, seq, hindered, issued, taken, again }} />
      ) : (
        <Submit {...{ me, seq, hindered, issued, taken, again }} />
      )}
    </Section>
  );
}

const DONE = { submitted: "signed and submitted", "sent back": "sent it back", authorised: "authorised it" };

function Steps({ steps }: { steps: State["steps"] }) {
  if (steps.length === 0) return null;
  return (
    <Box as="ol" listStyleType="none" aria-label="Steps so far" mb="3">
      {steps.map((step) => (
        <Box as="li" key={step.number} py="1">
          <b>{step.name}</b> {DONE[step.kind]}, {moment(step.signed_at ?? step.at)}
          {step.signed_at && `, on a device that was away; it arrived ${moment(step.at)}`}
          {step.words && <Box as="blockquote">“{step.words}”</Box>}
        </Box>
      ))}
    </Box>
  );
}

function Changes({ title, changes }: { title: string; changes: Schemas["ChangedOut"][] }) {
  const goTo = useGoTo();
  return (
    <Box as="section" aria-label={title} mb="3">
      <b>{title}</b>
      <Lines label={title}>
        {changes.map((changed) => (
          <Line key={`${changed.entity_id} ${changed.field}`}>
            <Box flex="1 1 18rem" minW="0" overflowWrap="anywhere">
              {changed.where}, {changed.label}: {changed.before && `${changed.before} → `}
              <b>{changed.now}</b>
              <Box color="quiet" fontSize="sm">
                {changed.by}, {moment(changed.at)}
              </Box>
            </Box>
            <Button
              size="sm"
              variant="quiet"
              label={`Open ${changed.where}, ${changed.label}`}
              onClick={() =>
                goTo({ stage: changed.stage, entity: changed.entity, id: changed.entity_id, field: changed.field })
              }
            >
              Open
            </Button>
          </Line>
        ))}
      </Lines>
    </Box>
  );
}

/** What the reviewer finds changed since the last look. */
function Read({ since, seq, taken }: { since: State["since_look"]; seq: number; taken: (state: State) => void }) {
  const id = useInspection((s) => s.model?.id) ?? "";
  const read = useMutation({
    mutationFn: () =>
      answer(
        api.POST("/api/inspections/{inspection_id}/review/looked", {
          params: { path: { inspection_id: id } },
          body: { seq },
        }),
      ),
    onSuccess: taken,
  });
  return (
    <Box mb="3">
      {since === null && <p>You have not read it yet. To ask about a reading, select it and press C.</p>}
      {since?.length === 0 && <p>Nothing changed since you read it last.</p>}
      {since && since.length > 0 && <Changes title="Changed since you read it last" changes={since} />}
      {(since === null || since.length > 0) && (
        <Button disabled={!seq || read.isPending} onClick={() => read.mutate()}>
          I have read it up to here
        </Button>
      )}
    </Box>
  );
}

interface Step extends Omit<Props, "unchanged" | "hinderedHere"> {
  taken: (state: State) => void;
  again: () => void;
}

/** Sign for what was inspected; who may authorise too, can do both in one, openly. */
function Submit({ me, seq, hindered, issued, taken, again }: Step) {
  const id = useInspection((s) => s.model?.id) ?? "";
  const [signature, setSignature] = useState<Signature | null>(null);
  const [reason, setReason] = useState("");
  const [asked, setAsked] = useState(false);
  const signs = useMay("submit");
  const authorises = useMay("issue");
  const submit = useMutation({ mutationFn: (signed: Signature) => submitted(id, seq, signed), onSuccess: taken });
  const both = useMutation({
    mutationFn: async (signed: Signature) => {
      await submitted(id, seq, signed);
      return authorised(id, { seen_seq: seq, reason: reason.trim() || null, signature: signed });
    },
    onSuccess: ({ number }) => noteState("issued", number),
    onSettled: () => {
      setAsked(false);
      again();
    },
  });
  if (!signs) return <p>An inspector or a supervisor signs, while the inspection is not on hold.</p>;
  const ready = !!signature && !hindered && !!seq && !submit.isPending && !both.isPending;
  const error = submit.error ?? both.error;
  return (
    <Box>
      <Box mb="3">
        <SignatureField name={me.name} change={setSignature} refused={refusedOf(error)} />
      </Box>
      {authorises && issued > 0 && <Reason number={issued + 1} reason={reason} change={setReason} />}
      <Flex wrap="wrap" gap="3" align="center">
        <Button variant="action" disabled={!ready} onClick={() => signature && submit.mutate(signature)}>
          Sign and submit for review
        </Button>
        {authorises && (
          <Button disabled={!ready || (issued > 0 && !reason.trim())} onClick={() => setAsked(true)}>
            {issued > 0 ? `Issue correction ${issued + 1}` : "Issue the report"}
          </Button>
        )}
      </Flex>
      {asked && signature && (
        <Dialog title={`Issue ${issued + 1}`} close={() => setAsked(false)} width="30rem">
          <p>
            <b>Issue {issued + 1} cannot be changed afterwards.</b> You sign it as the competent person who inspected,
            and as the one who authorises it. The report says that both are you.
          </p>
          <Flex gap="3" mt="4">
            <Button variant="action" disabled={!ready} onClick={() => both.mutate(signature)}>
              Sign and issue
            </Button>
            <Button onClick={() => setAsked(false)}>Not yet</Button>
          </Flex>
        </Dialog>
      )}
      {error && <Told trouble>{explainField(error, "signature.typed")}</Told>}
    </Box>
  );
}

function Authorise({ me, seq, hindered, issued, taken, again }: Step) {
  const id = useInspection((s) => s.model?.id) ?? "";
  const [signature, setSignature] = useState<Signature | null>(null);
  const [reason, setReason] = useState("");
  const [back, setBack] = useState<string | null>(null);
  const authorises = useMay("issue");
  const params = { path: { inspection_id: id } };
  const issue = useMutation({
    mutationFn: (signed: Signature) =>
      authorised(id, { seen_seq: seq, reason: reason.trim() || null, signature: signed }),
    onSuccess: ({ number }) => noteState("issued", number),
    onSettled: again,
  });
  const sendBack = useMutation({
    mutationFn: (words: string) =>
      answer(api.POST("/api/inspections/{inspection_id}/review/send-back", { params, body: { words } })),
    onSuccess: (state) => {
      setBack(null);
      taken(state);
    },
  });
  if (!authorises) return <p>A supervisor reads it, and issues it or sends it back. What you change now reopens it.</p>;
  const ready = !!signature && !hindered && !!seq && !issue.isPending && (issued === 0 || !!reason.trim());
  const error = issue.error ?? sendBack.error;
  return (
    <Box>
      <Box mb="3">
        <SignatureField name={me.name} change={setSignature} refused={refusedOf(issue.error)} />
      </Box>
      {issued > 0 && <Reason number={issued + 1} reason={reason} change={setReason} />}
      <p>
        <b>Issue {issued + 1} cannot be changed afterwards.</b> You authorise what was signed for.
      </p>
      <Flex wrap="wrap" gap="3" align="center" mt="3">
        <Button variant="action" disabled={!ready} onClick={() => signature && issue.mutate(signature)}>
          Sign and issue
        </Button>
        <Button onClick={() => setBack("")}>Send back …</Button>
      </Flex>
      {back !== null && (
        <Dialog title="Send back" close={() => setBack(null)} width="32rem">
          <TextField label="What is still to be done" value={back} change={setBack} rows={3} maxLength={1000} />
          <Flex gap="3" mt="4">
            <Button
              variant="action"
              disabled={!back.trim() || sendBack.isPending}
              onClick={() => sendBack.mutate(back.trim())}
            >
              Send back
            </Button>
            <Button onClick={() => setBack(null)}>Cancel</Button>
          </Flex>
        </Dialog>
      )}
      {error && <Told trouble>{explainField(error, "signature.typed")}</Told>}
    </Box>
  );
}

function Reason({ number, reason, change }: { number: number; reason: string; change: (words: string) => void }) {
  return (
    <Box mb="3">
      <TextField label={`What issue ${number} corrects`} value={reason} change={change} maxLength={500} />
    </Box>
  );
}

const submitted = (id: string, seq: number, signature: Signature) =>
  answer(
    api.POST("/api/inspections/{inspection_id}/review/submit", {
      params: { path: { inspection_id: id } },
      body: { seen_seq: seq, signature, with_changes: [] },
    }),
  );

const authorised = (id: string, body: Schemas["IssueIn"]) =>
  answer(api.POST("/api/inspections/{inspection_id}/reports", { params: { path: { inspection_id: id } }, body }));

const refusedOf = (error: unknown): string | undefined => (error ? fieldErrors(error)["signature.typed"] : undefined);
