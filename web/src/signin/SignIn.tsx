/** The first screen of who is not signed in. */
import { Box, Heading, Text } from "@chakra-ui/react";
import { useEffect, useState } from "react";
import type { Me } from "../api/client";
import { isLeaving, tellWhenReachable } from "../api/leaving";
import { WIPED } from "../api/pin";
import { SignInForm } from "../session/SignInForm";
import { moment } from "../ui/when";
import { Wordmark } from "../ui/Wordmark";

export default function SignIn({ done }: { done: (me: Me) => void }) {
  const [leaving, setLeaving] = useState(isLeaving);
  const wiped = localStorage.getItem(WIPED);
  useEffect(() => (leaving ? tellWhenReachable(() => setLeaving(false)) : undefined), [leaving]);
  return (
    <Box as="main" minH="100dvh" display="grid" placeItems="center" p="5">
      <Box w="full" maxW="24rem">
        <Wordmark large />
        <Heading as="h1" fontSize="xl" mt="8" mb="5">
          Sign in to your firm
        </Heading>
        {wiped && (
          <Text role="status" mb="5">
            <b>This device was wiped {moment(wiped)}.</b> What had not been sent is lost; all that had arrived is on the
            server.
          </Text>
        )}
        {leaving && !wiped && (
          <Text role="status" mb="5">
            <b>You are signed out on this device.</b> The server cannot be reached; it is told as soon as it can be.
          </Text>
        )}
        <SignInForm
          done={(me) => {
            localStorage.removeItem(WIPED);
            done(me);
          }}
        />
        <Text mt="8" fontSize="sm" color="quiet">
          An aid to a competent person. The rule book, local rules and the inspector's judgement decide.
        </Text>
      </Box>
    </Box>
  );
}
