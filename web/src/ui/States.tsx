/** What a screen shows while it loads, where there is nothing yet, when something went wrong, and how far it is. */
import {
  Alert,
  Box,
  Center,
  EmptyState,
  Progress as ChakraProgress,
  Skeleton,
  VStack,
  VisuallyHidden,
} from "@chakra-ui/react";
import type { ReactNode } from "react";
import { Button } from "./Button";

/** The lines that are about to stand there, breathing; a screen reader hears what is opened. */
export function Loading({ what, lines = 4 }: { what: string; lines?: number }) {
  return (
    <Box maxW="64rem" mx="auto" px={{ base: "4", md: "8" }} pt="14" role="status">
      <VisuallyHidden>Opening {what} …</VisuallyHidden>
      <VStack gap="5" align="stretch" aria-hidden="true">
        <Skeleton loading height="7" width="14rem" />
        {Array.from({ length: lines }, (_, at) => (
          <Skeleton key={at} loading height="10" />
        ))}
      </VStack>
    </Box>
  );
}

/** A whole screen that could not be opened. */
export function Trouble({
  message,
  again,
  children,
}: {
  message: string;
  again?: () => void;
  /** What can be done all the same. */
  children?: ReactNode;
}) {
  return (
    <Center h="60dvh" p="6">
      <VStack maxW="28rem" gap="4" textAlign="center" role="alert">
        <Box fontSize="lg">{message}</Box>
        {again && (
          <Button variant="action" onClick={again}>
            Try again
          </Button>
        )}
        {children}
      </VStack>
    </Center>
  );
}

/** Something to be told in place: what went wrong, what was done, or what is shown only once. */
export function Told({ children, trouble }: { children: ReactNode; trouble?: boolean }) {
  return (
    <Alert.Root role={trouble ? "alert" : "status"} variant={(trouble ? "trouble" : "told") as never} my="4">
      <Alert.Content>{children}</Alert.Content>
    </Alert.Root>
  );
}

/** Nothing there yet: what would stand here, and what to do first. */
export function Empty({ title, children, act }: { title?: string; children: ReactNode; act?: ReactNode }) {
  return (
    <EmptyState.Root>
      <EmptyState.Content>
        {title && (
          <EmptyState.Title asChild>
            <p>{title}</p>
          </EmptyState.Title>
        )}
        <EmptyState.Description>{children}</EmptyState.Description>
        {act}
      </EmptyState.Content>
    </EmptyState.Root>
  );
}

/** How far something is; without an amount, that it goes on. */
export function Progress({ label, done, of }: { label: string; done?: number; of?: number }) {
  return (
    <ChakraProgress.Root value={done ?? null} max={of ?? 100}>
      <ChakraProgress.Label>{label}</ChakraProgress.Label>
      <ChakraProgress.Track>
        <ChakraProgress.Range />
      </ChakraProgress.Track>
    </ChakraProgress.Root>
  );
}
