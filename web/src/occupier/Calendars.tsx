/** Addresses by which calendar programs read visits and days: made, told once, ended at any time. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, answer, type Schemas } from "../api/client";
import { explain } from "../api/errors";
import { Button } from "../ui/Button";
import { Told } from "../ui/States";
import { moment } from "../ui/when";

interface Props {
  whose: Schemas["FeedIn"]["whose"];
  of: string | null;
}

export function Calendars({ whose, of }: Props) {
  const [made, setMade] = useState("");
  const [trouble, setTrouble] = useState("");
  const feeds = useQuery({ queryKey: ["feeds"], queryFn: () => answer(api.GET("/api/feeds")), staleTime: 0 });
  const own = (feeds.data ?? []).filter((feed) => feed.whose === whose && feed.of_id === of);
  const act = async (work: () => Promise<string>) => {
    try {
      setMade(await work());
      setTrouble("");
    } catch (error) {
      setTrouble(explain(error));
    }
    await feeds.refetch();
  };
  const make = () =>
    act(async () => (await answer(api.POST("/api/feeds", { body: { whose, of_id: of } }))).address ?? "");
  const end = (id: string) =>
    act(async () => {
      await answer(api.DELETE("/api/feeds/{feed_id}", { params: { path: { feed_id: id } } }));
      return "";
    });
  return (
    <Box>
      {trouble && <Told trouble>{trouble}</Told>}
      {made && (
        <Told>
          <b>Copy this address now; it is shown once.</b> Whoever has it can read the calendar.
          <Box as="code" display="block" fontFamily="mono" wordBreak="break-all" mt="1">
            {made}
          </Box>
        </Told>
      )}
      {own.map((feed) => (
        <Flex key={feed.id} align="center" gap="3" wrap="wrap" py="1.5">
          <Text flex="1 1 12rem" fontSize="sm">
            Calendar address of {moment(feed.made_at)},{" "}
            {feed.last_read_at ? `last read ${moment(feed.last_read_at)}` : "not read yet"}
          </Text>
          <Button size="sm" onClick={() => end(feed.id)}>
            End address
          </Button>
        </Flex>
      ))}
      <Button size="sm" onClick={make}>
        Make calendar address
      </Button>
    </Box>
  );
}
