/** Through which server the firm's mail leaves, tried with a trial letter. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, answer, type Schemas } from "../api/client";
import { explain, fieldErrors } from "../api/errors";
import { Mark, Tick } from "../drawings/Mark";
import { Button } from "../ui/Button";
import { Section } from "../ui/Page";
import { SelectField } from "../ui/SelectField";
import { Progress, Told } from "../ui/States";
import { TextField } from "../ui/TextField";

type Server = Schemas["MailServerOut"];

export function MailServer() {
  const queries = useQueryClient();
  const mailServer = useQuery({
    queryKey: ["mail server"],
    queryFn: () => answer(api.GET("/api/firm/mail")),
    staleTime: 0,
  });
  if (mailServer.isError) return <Told trouble>{explain(mailServer.error)}</Told>;
  if (!mailServer.data) return <Progress label="Loading …" />;
  return (
    <Settings
      key={String(mailServer.data.own)}
      server={mailServer.data}
      take={(next) => queries.setQueryData(["mail server"], next)}
    />
  );
}

function Settings({ server, take }: { server: Server; take: (server: Server) => void }) {
  const [typed, setTyped] = useState({
    host: server.host,
    port: String(server.port),
    security: String(server.security),
    user: server.user,
    password: "",
    sender: server.own ? server.sender : "",
  });
  const [own, setOwn] = useState(server.own);
  const save = useMutation({
    mutationFn: () =>
      answer(
        api.PUT("/api/firm/mail", {
          body: { ...typed, port: Number(typed.port), password: typed.password || null } as Schemas["MailServerIn"],
        }),
      ),
    onSuccess: (next) => {
      setTyped({ ...typed, password: "" });
      take(next);
    },
  });
  const remove = useMutation({
    mutationFn: () => answer(api.DELETE("/api/firm/mail")),
    onSuccess: (next) => {
      setOwn(false);
      take(next);
    },
  });
  const refused = fieldErrors(save.error);
  const disabled = !server.may_change;
  const of = (field: keyof typeof typed) => ({
    value: typed[field],
    change: (value: string) => setTyped({ ...typed, [field]: value }),
    refused: refused[field],
    disabled,
  });
  return (
    <Section
      title="Mail server"
      first
      lead="Reports, letters and reminders leave through it. Passwords are never shown."
    >
      <Flex gap="2" role="group" aria-label="Mail server" mb="4" wrap="wrap">
        <Button
          variant="choice"
          pressed={!own}
          disabled={disabled}
          onClick={() => (server.own ? remove.mutate() : setOwn(false))}
        >
          {server.there || server.own ? "Server of this installation" : "None"}
        </Button>
        <Button variant="choice" pressed={own} disabled={disabled} onClick={() => setOwn(true)}>
          Server of our own
        </Button>
      </Flex>
      {!own && (
        <Text mb="4">
          {server.there ? `Mail comes from ${server.sender}.` : "No mail can be sent: letters are printed."}
        </Text>
      )}
      {own && (
        <>
          <Box display="grid" gridTemplateColumns={{ base: "1fr", md: "1fr 1fr" }} gap="4" mb="4">
            <TextField label="Server" maxLength={190} hint="such as mail.example" spellCheck={false} {...of("host")} />
            <SelectField label="Port" choices={PORTS} {...of("port")} />
            <SelectField label="Encryption" choices={SECURITY} {...of("security")} />
            <TextField label="Mail comes from" type="email" maxLength={190} {...of("sender")} />
            <TextField label="User" maxLength={190} spellCheck={false} {...of("user")} />
            <TextField
              label="Password"
              type="password"
              maxLength={190}
              autoComplete="new-password"
              hint={server.has_password ? "saved; leave empty to keep it" : undefined}
              {...of("password")}
            />
          </Box>
          {!disabled && (
            <Button busy={save.isPending} onClick={() => save.mutate()}>
              Save mail server
            </Button>
          )}
          {save.isError && Object.keys(refused).length === 0 && <Told trouble>{explain(save.error)}</Told>}
          {server.own && !save.isError && (
            <Text mt="3">
              {server.tried ? (
                <>
                  <Tick /> A trial letter has left through it.
                </>
              ) : (
                <>
                  <Mark status="unknown" /> Not tried yet: send a trial letter.
                </>
              )}
            </Text>
          )}
        </>
      )}
      {!disabled && (server.there || server.own) && <Trial own={server.own} take={take} />}
    </Section>
  );
}

const PORTS = [
  ["587", "587"],
  ["465", "465"],
  ["25", "25"],
  ["2525", "2525"],
] as const;
const SECURITY = [
  ["starttls", "STARTTLS (usual on 587)"],
  ["tls", "TLS (usual on 465)"],
  ["none", "none"],
] as const;

function Trial({ own, take }: { own: boolean; take: (server: Server) => void }) {
  const [to, setTo] = useState("");
  const trial = useMutation({
    mutationFn: async () => {
      const trial = await answer(api.POST("/api/firm/mail/trial", { body: { to } }));
      if (own) take(await answer(api.GET("/api/firm/mail")));
      return trial;
    },
  });
  const refused = fieldErrors(trial.error).to;
  return (
    <Box mt="6">
      <Flex gap="3" align="flex-end" wrap="wrap">
        <Box flex="1 1 16rem" maxW="24rem">
          <TextField label="Trial letter to" type="email" maxLength={190} value={to} change={setTo} refused={refused} />
        </Box>
        <Button busy={trial.isPending} disabled={!to.trim()} onClick={() => trial.mutate()}>
          Send trial letter
        </Button>
      </Flex>
      {trial.data && (
        <Told trouble={!trial.data.left}>
          {trial.data.left ? "The server took the trial letter. Look whether it arrives." : trial.data.told}
        </Told>
      )}
      {trial.isError && !refused && <Told trouble>{explain(trial.error)}</Told>}
    </Box>
  );
}
