/** Signing in; also used over an open inspection when its session has ended. */
import { Box, Button, Heading, Text, VStack } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";
import { api, answer, type Me, Refused } from "../api/client";
import { TextField } from "../ui/TextField";

export function SignInForm({ done, email: known = "" }: { done: (me: Me) => void; email?: string }) {
  const [email, setEmail] = useState(known);
  const [password, setPassword] = useState("");
  const [code, setCode] = useState("");
  const [asksCode, setAsksCode] = useState(false);
  const [trouble, setTrouble] = useState("");
  const [told, setTold] = useState("");
  const [busy, setBusy] = useState(false);

  async function submit(event: FormEvent) {
    event.preventDefault();
    setBusy(true);
    setTrouble("");
    try {
      done(await answer(api.POST("/api/session", { body: { email, password, code: asksCode && code.trim() ? code : null } })));
    } catch (error) {
      const what = error instanceof Refused ? (error.body as { code?: string } | null)?.code : "";
      if (what === "code" && !asksCode) setAsksCode(true);
      else setTrouble(error instanceof Refused ? error.message : "The server cannot be reached. Try again in a moment.");
    }
    setBusy(false);
  }

  async function forgotten() {
    setTrouble("");
    try {
      const { mail } = await answer(api.POST("/api/account/forgotten", { body: { email } }));
      setTold(mail ? "If somebody signs in with that address, a link is on its way to it." : "No mail is set up here: a supervisor of your firm gives you a new link.");
    } catch (error) {
      setTrouble(error instanceof Refused ? error.message : "The server cannot be reached. Try again in a moment.");
    }
  }

  return (
    <form onSubmit={submit}>
      <VStack gap="4" align="stretch">
        <TextField label="Email" type="email" autoComplete="username" value={email} change={setEmail} required />
        <TextField label="Password" type="password" autoComplete="current-password" value={password} change={setPassword} refused={asksCode ? undefined : trouble} required />
        {asksCode && (
          <TextField
            label="Code of your device"
            autoComplete="one-time-code"
            mono
            value={code}
            change={setCode}
            refused={trouble}
            hint="The six figures it shows now, or one of your recovery codes."
            autoFocus
            required
          />
        )}
        <Button type="submit" size="lg" loading={busy} bg="sea" color="onSea">
          Sign in
        </Button>
        {told ? (
          <Text role="status">{told}</Text>
        ) : (
          <Button variant="plain" size="sm" textDecoration="underline" color="quiet" minH="44px" disabled={!email.includes("@")} onClick={forgotten}>
            Forgotten the password?
          </Button>
        )}
      </VStack>
    </form>
  );
}

export function SignIn({ done }: { done: (me: Me) => void }) {
  return (
    <Box minH="100dvh" display="grid" placeItems="center" p="5">
      <Box w="full" maxW="24rem">
        <Wordmark large />
        <Heading as="h1" fontSize="xl" mt="8" mb="5">
          Sign in to your firm
        </Heading>
        <SignInForm done={done} />
        <Text mt="8" fontSize="sm" color="quiet">
          An aid to a competent person. The rule book, local rules and the inspector's judgement decide.
        </Text>
      </Box>
    </Box>
  );
}

export function Wordmark({ large = false }: { large?: boolean }) {
  return (
    <Box display="flex" alignItems="center" gap="2" fontWeight="700" fontSize={large ? "3xl" : "lg"}>
      <Box as="span" w={large ? "16px" : "10px"} h={large ? "16px" : "10px"} borderRadius="full" bg="lamp" border={large ? "4px solid" : "2.5px solid"} borderColor="ink" />
      Dorrik
    </Box>
  );
}
