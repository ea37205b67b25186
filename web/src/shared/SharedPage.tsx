/** A client's own page, for whoever has its link: one home, or all of a landlord's at once. */
import { Box, Flex, Heading, Text } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { answer } from "../api/client";
import { explain } from "../api/errors";
import { CodeMark, Tick } from "../drawings/Mark";
import { Button } from "../ui/Button";
import { Loading, Trouble } from "../ui/States";
import { ThemeButton } from "../ui/ThemeButton";
import { day } from "../ui/when";
import { Wordmark } from "../ui/Wordmark";
import { shared, type Shared, tokenHere } from "./api";
import { HomeReport } from "./HomeReport";

/** Which home is open stands behind the token, so that the browser's way back leads to the list. */
const homeHere = () => window.location.hash.slice(1).split("/")[1] ?? "";

export default function SharedPage() {
  const [at, setAt] = useState(() => window.location.hash);
  useEffect(() => {
    const look = () => setAt(window.location.hash);
    window.addEventListener("hashchange", look);
    return () => window.removeEventListener("hashchange", look);
  }, []);
  const token = tokenHere();
  const page = useQuery({
    queryKey: ["shared", token],
    queryFn: () => answer(shared.GET("/api/shared")),
    retry: false,
    staleTime: 30_000,
  });
  const open = at && homeHere();
  return (
    <Box as="main" maxW="44rem" mx="auto" px="4" pb="16" pt="3">
      <Flex justify="space-between" align="center" mb="6">
        <Wordmark />
        <ThemeButton />
      </Flex>
      {page.isPending && <Loading what="the page" />}
      {page.isError && <Trouble message={explain(page.error, "Try again in a moment.")} again={() => page.refetch()} />}
      {page.data && <Homes page={page.data} open={open} token={token} />}
    </Box>
  );
}

function Homes({ page, open, token }: { page: Shared; open: string; token: string }) {
  const only = page.one ? (page.homes[0]?.id ?? "") : "";
  const id = only || open;
  if (id)
    return (
      <>
        {!only && (
          <Box mb="3">
            <Button variant="quiet" onClick={() => (window.location.hash = token)}>
              ‹ All homes
            </Button>
          </Box>
        )}
        <HomeReport page={page} id={id} />
      </>
    );
  return (
    <>
      <Text color="quiet">
        {page.firm} for {page.name}
      </Text>
      <Heading as="h1" fontSize="3xl" mb="1">
        {page.homes.length === 1 ? "One home" : `${page.homes.length} homes`}
      </Heading>
      <Text fontSize="lg" mb="4">
        {counted(page.homes)}
      </Text>
      <Box as="ul" listStyleType="none" m="0" p="0">
        {page.homes.map((home, at) => (
          <HomeLine key={home.id ?? at} home={home} token={token} />
        ))}
      </Box>
    </>
  );
}

type Home = Shared["homes"][number];

/** `1 to put right, 2 satisfactory`: how many stand how, in the order of the list. */
function counted(homes: Home[]): string {
  const counts = new Map<string, number>();
  for (const { state } of homes) counts.set(state, (counts.get(state) ?? 0) + 1);
  return [...counts].map(([state, count]) => `${count} ${state}`).join(", ");
}

function HomeLine({ home, token }: { home: Home; token: string }) {
  const fine = home.state === "satisfactory" || home.state === "put right";
  const on = home.due ?? home.copy_due;
  const inside = (
    <Flex gap="4" py="3" px="1" minH="14" align="center" wrap="wrap" _hover={home.id ? { bg: "lampWash" } : undefined}>
      <Box w="2.6rem" flex="none">
        {home.worst && <CodeMark code={home.worst} />}
      </Box>
      <Box flex="1 1 12rem" minW="0" textAlign="left">
        <b>{home.address || "No address"}</b>
        <Text color="quiet" fontSize="sm">
          {[home.reference, home.next_due && `next inspection by ${day(home.next_due)}`].filter(Boolean).join(" · ")}
        </Text>
      </Box>
      <Box textAlign="right">
        <Box fontWeight={home.id ? "bold" : "normal"} color={fine ? "sea" : home.id ? "ink" : "quiet"}>
          {fine && <Tick />} {home.state}
          {home.state === "to put right" && ` (${home.cleared} of ${home.counting} done)`}
        </Box>
        {on && !fine && <Text fontSize="sm">by {day(on)}</Text>}
      </Box>
    </Flex>
  );
  return (
    <Box as="li" borderTopWidth="1px" borderColor="line">
      {home.id ? <a href={`#${token}/${home.id}`}>{inside}</a> : inside}
    </Box>
  );
}
