/** The demo's inbox: every mail that its own mail server has taken, as whoever it went to reads it. */
import { Box, Flex, Heading, Link as ChakraLink, Text } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { api, answer, type Schemas } from "../api/client";
import { explain } from "../api/errors";
import { Button } from "../ui/Button";
import { Empty, Loading, Trouble } from "../ui/States";
import { moment } from "../ui/when";
import { Wordmark } from "../ui/Wordmark";

type Mail = Schemas["CaughtOut"];

export default function Inbox() {
  const inbox = useQuery({ queryKey: ["inbox"], queryFn: () => answer(api.GET("/api/demo/inbox")), staleTime: 0 });
  if (inbox.isPending) return <Loading what="the inbox" />;
  if (inbox.isError) return <Trouble message={explain(inbox.error)} again={() => inbox.refetch()} />;
  return (
    <Box as="main" maxW="48rem" mx="auto" px="4" pb="16" pt="3">
      <Flex justify="space-between" align="center" mb="4">
        <Wordmark />
        <Button onClick={() => void inbox.refetch()}>Look again</Button>
      </Flex>
      <Heading as="h1" mb="1">
        Demo inbox
      </Heading>
      <Text color="quiet" mb="4">
        Mail that this demo has sent. Nothing leaves the machine.
      </Text>
      {inbox.data.length === 0 && <Empty title="No mail yet">Mail a letter, and it is listed here.</Empty>}
      {inbox.data.map((mail) => (
        <One key={mail.id} mail={mail} />
      ))}
    </Box>
  );
}

/** Where a text has an address, it can be followed. */
const ADDRESS = /(https?:\/\/\S+)/;

function One({ mail }: { mail: Mail }) {
  return (
    <Box
      as="article"
      aria-label={mail.subject}
      bg="sheet"
      borderWidth="1px"
      borderColor="line"
      borderRadius="lg"
      p="4"
      mb="4"
    >
      <Text color="quiet" fontSize="sm" overflowWrap="anywhere">
        {mail.sender} to {mail.to} · {moment(mail.at)}
      </Text>
      <Heading as="h2" size="md" my="1">
        {mail.subject}
      </Heading>
      <Box whiteSpace="pre-wrap" overflowWrap="anywhere" my="2">
        {mail.text.split(ADDRESS).map((part, at) =>
          ADDRESS.test(part) ? (
            <ChakraLink key={at} href={part}>
              {part}
            </ChakraLink>
          ) : (
            part
          ),
        )}
      </Box>
      {mail.files.map((file, place) => (
        <ChakraLink key={place} href={`/api/demo/inbox/${mail.id}/${place}`} download mr="4">
          {file}
        </ChakraLink>
      ))}
    </Box>
  );
}
