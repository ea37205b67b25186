/** The first screen of who is not signed in. */
import { Box, Heading, Text } from "@chakra-ui/react";
import type { Me } from "../api/client";
import { SignInForm } from "../session/SignInForm";
import { Wordmark } from "../ui/Wordmark";

export default function SignIn({ done }: { done: (me: Me) => void }) {
  return (
    <Box as="main" minH="100dvh" display="grid" placeItems="center" p="5">
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
