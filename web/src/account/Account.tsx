/** One's own account: password, second factor, and where one is signed in. */
import { Box, Flex, Image, Text } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, answer, type Me, type Schemas } from "../api/client";
import { explain, fieldErrors } from "../api/errors";
import { program } from "../ui/agent";
import { Button } from "../ui/Button";
import { Page, Section } from "../ui/Page";
import { Loading, Told, Trouble } from "../ui/States";
import { TextField } from "../ui/TextField";
import { moment } from "../ui/when";

const QUERY = ["account"];

export default function Account({ me }: { me: Me }) {
  const account = useQuery({ queryKey: QUERY, queryFn: () => answer(api.GET("/api/account")), staleTime: 0 });
  if (account.isPending) return <Loading what="your account" />;
  if (account.isError) return <Trouble message={explain(account.error)} again={() => account.refetch()} />;
  return (
    <Page title={me.name}>
      <Text color="quiet" mb="2">
        {me.email} · {me.role}, {me.firm_name}
      </Text>
      <Section title="Second factor">
        <SecondFactor account={account.data} />
      </Section>
      <Section title="Where you are signed in">
        <Sessions sessions={account.data.sessions} />
      </Section>
      <Section title="Password">
        <Password />
      </Section>
    </Page>
  );
}

function Password() {
  const queries = useQueryClient();
  const [old, setOld] = useState("");
  const [next, setNext] = useState("");
  const [refused, setRefused] = useState<Record<string, string>>({});
  const [message, setTold] = useState("");
  async function submit(event: FormEvent) {
    event.preventDefault();
    setTold("");
    try {
      queries.setQueryData(["session"], await answer(api.PUT("/api/account/password", { body: { old, new: next } })));
      await queries.invalidateQueries({ queryKey: QUERY });
      setOld("");
      setNext("");
      setRefused({});
      setTold("The new password is kept. You are signed out everywhere else.");
    } catch (error) {
      const fields = fieldErrors(error);
      setRefused(Object.keys(fields).length ? fields : { old: explain(error) });
    }
  }
  return (
    <Box as="form" onSubmit={submit} maxW="24rem">
      <Flex direction="column" gap="4" align="flex-start">
        <TextField
          label="Password now"
          type="password"
          autoComplete="current-password"
          value={old}
          change={setOld}
          refused={refused.old}
          required
        />
        <TextField
          label="New password"
          type="password"
          autoComplete="new-password"
          value={next}
          change={setNext}
          refused={refused.new}
          hint="Ten characters or more; four or five words make a good one."
          required
        />
        <Button type="submit" disabled={!old || !next}>
          Change the password
        </Button>
      </Flex>
      {message && <Told>{message}</Told>}
    </Box>
  );
}

function SecondFactor({ account }: { account: Schemas["AccountOut"] }) {
  const queries = useQueryClient();
  const [password, setPassword] = useState("");
  const [begun, setBegun] = useState<Schemas["SecondFactorOut"] | null>(null);
  const [code, setCode] = useState("");
  const [codes, setCodes] = useState<string[]>([]);
  const [refused, setRefused] = useState("");
  const attempt = async (what: () => Promise<void>) => {
    setRefused("");
    try {
      await what();
    } catch (error) {
      setRefused(explain(error));
    }
  };
  const begin = () =>
    attempt(async () => {
      setBegun(await answer(api.POST("/api/account/second-factor", { body: { password } })));
      setPassword("");
    });
  const confirm = () =>
    attempt(async () => {
      setCodes((await answer(api.POST("/api/account/second-factor/confirm", { body: { code } }))).codes);
      setBegun(null);
      setCode("");
      await queries.invalidateQueries({ queryKey: QUERY });
    });
  const stop = () =>
    attempt(async () => {
      await answer(api.POST("/api/account/second-factor/stop", { body: { password } }));
      setPassword("");
      setCodes([]);
      await queries.invalidateQueries({ queryKey: QUERY });
    });
  if (begun) {
    return (
      <Flex as="section" aria-label="Set up the second factor" gap="8" wrap="wrap" align="flex-start">
        <Image
          src={`data:image/svg+xml;utf8,${encodeURIComponent(begun.drawing)}`}
          alt="The secret as a drawing for your device's camera"
          bg="white"
          w="220px"
          h="220px"
        />
        <Flex direction="column" gap="4" align="flex-start" maxW="24rem">
          <Text>Point your authenticator at the drawing, or type this into it:</Text>
          <Text fontFamily="mono" fontSize="lg" overflowWrap="anywhere">
            {begun.secret.match(/.{1,4}/g)?.join(" ")}
          </Text>
          <form
            onSubmit={(event) => {
              event.preventDefault();
              void confirm();
            }}
          >
            <Flex direction="column" gap="4" align="flex-start">
              <TextField
                label="Code it shows now"
                inputMode="numeric"
                autoComplete="one-time-code"
                figure
                value={code}
                change={setCode}
                refused={refused}
                maxLength={8}
                autoFocus
              />
              <Button type="submit" variant="action" disabled={code.trim().length < 6}>
                Confirm
              </Button>
            </Flex>
          </form>
        </Flex>
      </Flex>
    );
  }
  return (
    <Box maxW="46rem">
      {codes.length > 0 && (
        <Told>
          <Text fontWeight="700" mb="2">
            The second factor is on. Write these down: each lets you in once without the device. They are not shown
            again.
          </Text>
          <Box
            as="ul"
            listStyleType="none"
            display="grid"
            gridTemplateColumns="repeat(auto-fill, minmax(9rem, 1fr))"
            gap="1"
            fontFamily="mono"
            fontSize="lg"
            aria-label="Recovery codes"
          >
            {codes.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </Box>
        </Told>
      )}
      <Text mb="4">
        {account.second_factor
          ? `On: a code of your device is asked for when you sign in. ${account.recovery_left} recovery ${account.recovery_left === 1 ? "code is" : "codes are"} left.`
          : "Off. With it, somebody who has learned your password still cannot sign in without your device."}
      </Text>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void (account.second_factor ? stop() : begin());
        }}
      >
        <Flex gap="4" align="flex-end" wrap="wrap">
          <Box flex="0 1 24rem">
            <TextField
              label="Your password, once more"
              type="password"
              autoComplete="current-password"
              value={password}
              change={setPassword}
              refused={refused}
            />
          </Box>
          <Button type="submit" disabled={!password}>
            {account.second_factor ? "Take it off" : "Set it up"}
          </Button>
        </Flex>
      </form>
    </Box>
  );
}

function Sessions({ sessions }: { sessions: Schemas["SessionOut"][] }) {
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState("");
  const end = async (id: string) => {
    try {
      await answer(api.DELETE("/api/account/sessions/{session_id}", { params: { path: { session_id: id } } }));
      setTrouble("");
    } catch (error) {
      setTrouble(explain(error));
    }
    await queries.invalidateQueries({ queryKey: QUERY });
  };
  return (
    <Box as="ul" listStyleType="none" maxW="46rem">
      {trouble && <Told trouble>{trouble}</Told>}
      {sessions.map((session) => (
        <Flex
          as="li"
          key={session.id}
          borderTopWidth="1px"
          borderColor="line"
          py="2"
          minH="3.6rem"
          align="center"
          gap="4"
        >
          <Box flex="1">
            <Text fontWeight="600">
              {program(session.agent)}
              {session.this && " · this one"}
            </Text>
            <Text fontSize="sm" color="quiet">
              from {session.source}, since {moment(session.made_at)}, last used {moment(session.seen_at)}
            </Text>
          </Box>
          {!session.this && (
            <Button
              onClick={() => end(session.id)}
              label={`End the session of ${program(session.agent)} since ${moment(session.made_at)}`}
            >
              End
            </Button>
          )}
        </Flex>
      ))}
    </Box>
  );
}
