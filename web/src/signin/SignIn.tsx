/** Signing in; also used over an open inspection when its session has ended. */
import { Box, Button, Field, Heading, Input, Text, VStack } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";
import { api, answer, type Me, Refused } from "../api/client";

export function SignInForm({ done, email: known = "" }: { done: (me: Me) => void; email?: string }) {
  const [email, setEmail] = useState(known);
  const [password, setPassword] = useState("");
  const [trouble, setTrouble] = useState("");
  const [busy, setBusy] = useState(false);

  async function submit(event: FormEvent) {
    event.preventDefault();
    setBusy(true);
    setTrouble("");
    try {
      done(await answer(api.POST("/api/session", { body: { email, password } })));
    } catch (error) {
      setTrouble(error instanceof Refused ? error.message : "The server cannot be reached. Try again in a moment.");
    }
    setBusy(false);
  }

  return (
    <form onSubmit={submit}>
      <VStack gap="4" align="stretch">
        <Field.Root required>
          <Field.Label>Email</Field.Label>
          <Input type="email" autoComplete="username" value={email} onChange={(e) => setEmail(e.target.value)} size="lg" bg="sheet" borderColor="ink" />
        </Field.Root>
        <Field.Root required invalid={!!trouble}>
          <Field.Label>Password</Field.Label>
          <Input type="password" autoComplete="current-password" value={password} onChange={(e) => setPassword(e.target.value)} size="lg" bg="sheet" borderColor="ink" />
          <Field.ErrorText color="ink" fontWeight="600">
            {trouble}
          </Field.ErrorText>
        </Field.Root>
        <Button type="submit" size="lg" loading={busy} bg="sea" color="onSea">
          Sign in
        </Button>
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
