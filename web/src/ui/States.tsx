/** What a screen shows while it loads, and when something went wrong. */
import { Button, Center, Text, VStack } from "@chakra-ui/react";

export function Loading({ what }: { what: string }) {
  return (
    <Center h="60dvh" color="quiet" role="status">
      Opening {what} …
    </Center>
  );
}

export function Trouble({ message, again }: { message: string; again?: () => void }) {
  return (
    <Center h="60dvh" p="6">
      <VStack maxW="28rem" gap="4" textAlign="center" role="alert">
        <Text fontSize="lg">{message}</Text>
        {again && (
          <Button onClick={again} bg="sea" color="onSea">
            Try again
          </Button>
        )}
      </VStack>
    </Center>
  );
}
