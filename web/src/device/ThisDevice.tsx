/** What this device has for a day without signal: the bag, what waits, the rules, and how much room is left. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { askToStay, room } from "../api/application";
import type { Me } from "../api/client";
import { keptWeights } from "../api/kept";
import { Handover } from "../handover/Handover";
import { pack, useBag } from "../inspection/bag";
import { useUnreadable } from "../inspection/device";
import { useGone } from "../inspection/gone";
import { lastOpened } from "../inspection/lastOpened";
import { useOutbox } from "../inspection/waiting";
import { signaturesWaiting, useSigned } from "../inspection/signatures";
import { endRules, startRules, useDeviceRules } from "../judge/device";
import { rulesHere } from "../judge/files";
import { areOff, switchOff } from "../judge/off";
import { typesetterHere } from "../typeset/files";
import { Button } from "../ui/Button";
import { NewVersion } from "../ui/NewVersion";
import { Line, Lines, Page, Section } from "../ui/Page";
import { Told } from "../ui/States";
import { moment } from "../ui/when";
import { Pin } from "./Pin";

/** Bytes in words: nobody counts below a tenth of a megabyte. */
const weight = (bytes: number): string =>
  bytes < 50_000
    ? "less than 0.1 MB"
    : bytes < 10_000_000
      ? `${(bytes / 1e6).toFixed(1)} MB`
      : bytes < 1e9
        ? `${Math.round(bytes / 1e6)} MB`
        : `${(bytes / 1e9).toFixed(1)} GB`;

export default function ThisDevice({ me }: { me: Me }) {
  return (
    <Page title="This device">
      <NewVersion />
      <Section title="The day’s bag" first lead="What today and tomorrow need comes here by itself.">
        <BagNow me={me} />
      </Section>
      <Section title="Waiting to be sent">
        <Waits me={me} />
      </Section>
      <Section title="From device to device" lead="Without the internet: by codes, or by a file.">
        <Handover me={me} />
      </Section>
      <Section title="Who can read it">
        <Pin />
      </Section>
      <Section title="Verdicts without a server">
        <Rules />
      </Section>
      <Section title="Drafts without a server">
        <Papers />
      </Section>
      <Section title="Room">
        <RoomHere />
      </Section>
    </Page>
  );
}

const countOf = (n: number, one: string, many: string) => `${n} ${n === 1 ? one : many}`;

function BagNow({ me }: { me: Me }) {
  const bag = useBag();
  const there = useQuery({ queryKey: ["opened", me.id, bag.at], queryFn: () => lastOpened(me.id) });
  const weights = useQuery({ queryKey: ["weights", bag.at, bag.done], queryFn: keptWeights });
  const of = new Map((weights.data ?? []).map(({ name, bytes }) => [name, bytes]));
  const all = [...of.values()].reduce((sum, bytes) => sum + bytes, 0);
  return (
    <>
      <Flex align="center" gap="4" wrap="wrap" mb="3">
        <Box flex="1 1 16rem" role="status">
          {bag.state === "empty" && "Nothing was packed since this page was opened; what was kept before is listed."}
          {bag.state === "packing" && `Packing: ${bag.done} of ${bag.whole || "…"}`}
          {(bag.state === "packed" || bag.state === "partly") && (
            <>
              <b>
                {countOf(bag.visits, "visit", "visits")}, {countOf(bag.inspections, "inspection", "inspections")}
              </b>{" "}
              · {weight(all)}
              {bag.at !== null && ` · packed ${moment(bag.at)}`}
            </>
          )}
          {bag.state === "partly" && <Text>Some of it could not be had. What was here before stays.</Text>}
        </Box>
        <Button variant="action" busy={bag.state === "packing"} onClick={() => void pack(me)}>
          Pack now
        </Button>
      </Flex>
      <Lines label="Inspections on this device">
        {(there.data ?? []).map(({ id, title, at }) => (
          <Line key={id} to={`/inspection/${id}/brief`}>
            <Box flex="1 1 14rem" fontWeight="700">
              {title}
            </Box>
            <Box color="quiet">as of {moment(at)}</Box>
            <Box minW="5.5rem" textAlign="end" fontVariantNumeric="tabular-nums">
              {weight(of.get(`inspection/${id}`) ?? 0)}
            </Box>
          </Line>
        ))}
      </Lines>
    </>
  );
}

function Waits({ me }: { me: Me }) {
  const changes = useOutbox((s) => s.changes);
  const photos = useOutbox((s) => s.photos);
  const unreadable = useUnreadable((s) => s.entries);
  const mine = changes.filter((p) => (p.author ?? me.id) === me.id);
  const refused = mine.filter((p) => p.refused);
  const pictures = Object.values(photos).filter((why) => !why).length;
  const stuck = Object.values(photos).filter(Boolean);
  const signed = useSigned(signaturesWaiting);
  const gone = useGone();
  const lost = (
    <>
      {gone.gone > 0 && (
        <Told trouble>
          <b>The browser cleared what was kept here.</b> {countOf(gone.gone, "thing", "things")} had not arrived when
          this device was last in touch{gone.since && `, ${moment(gone.since)}`}. A supervisor sees which, under People.
        </Told>
      )}
      {stuck.length > 0 && (
        <Told trouble>
          <b>{countOf(stuck.length, "photo stays", "photos stay")} on this device.</b> {[...new Set(stuck)].join(" ")}
        </Told>
      )}
      {unreadable > 0 && (
        <Told trouble>
          {countOf(unreadable, "entry", "entries")} on this device cannot be read any more: the browser lost the key to
          {unreadable === 1 ? " it" : " them"}.
        </Told>
      )}
    </>
  );
  if (!mine.length && !pictures && !signed && (gone.gone || unreadable || stuck.length)) return lost;
  if (!mine.length && !pictures && !signed) return <Text color="quiet">Everything has arrived at the server.</Text>;
  return (
    <>
      {lost}
      <Text>
        <b>{countOf(mine.length - refused.length, "entry", "entries")}</b> and{" "}
        <b>{countOf(pictures, "photo", "photos")}</b> wait
        {signed > 0 && `, and ${countOf(signed, "signature", "signatures")}`}
        {refused.length > 0 && `; ${countOf(refused.length, "entry was", "entries were")} not accepted`}. They are sent
        as soon as the server answers.
      </Text>
    </>
  );
}

function Rules() {
  const { stand, startedMs, weight: bytes, heap, trouble } = useDeviceRules();
  const [off, setOff] = useState(areOff);
  const packed = useBag((s) => s.at);
  const kept = useQuery({
    queryKey: ["rules-here", packed, stand],
    queryFn: rulesHere,
    // What was fetched is put away in its own time.
    refetchInterval: ({ state }) => state.data === false && 2000,
  });
  const change = (next: boolean) => {
    switchOff(next);
    setOff(next);
    if (next) endRules();
    else void startRules();
  };
  return (
    <>
      <Flex align="center" gap="4" wrap="wrap">
        <Box flex="1 1 16rem" role="status">
          {off && "Switched off: this device asks the server for every verdict."}
          {!off &&
            stand === "off" &&
            "The rules are not on this device yet. They come once the application is kept here."}
          {!off && stand === "starting" && "The rules are being started …"}
          {!off && stand === "failed" && "The rules could not be started here. The server’s verdicts are shown."}
          {!off && stand === "warm" && (
            <>
              {kept.data === false ? (
                <>
                  <b>Ready until this page is closed:</b> the browser has not kept the rules.{" "}
                </>
              ) : (
                <>
                  <b>Ready.</b> This device judges by itself, by the same rules as the server.{" "}
                </>
              )}
              <Box as="span" color="quiet">
                {weight(bytes)} kept, {weight(heap)} of memory, started in {((startedMs ?? 0) / 1000).toFixed(1)} s
              </Box>
            </>
          )}
        </Box>
        <Button onClick={() => change(!off)}>{off ? "Switch on" : "Switch off on this device"}</Button>
      </Flex>
      {!off && trouble && stand === "failed" && <Told trouble>{trouble}</Told>}
    </>
  );
}

/** Reports and letters are drafted here by what the server sets them with. */
function Papers() {
  const packed = useBag((s) => s.at);
  const there = useQuery({ queryKey: ["typesetter", packed], queryFn: typesetterHere });
  return (
    <Box role="status">
      {there.data?.whole ? (
        <>
          <b>Ready.</b> The report and letters are drafted on this device.{" "}
          <Box as="span" color="quiet">
            {weight(there.data.bytes)} kept
          </Box>
        </>
      ) : (
        "The typesetter is not on this device yet. It comes with the day’s bag."
      )}
    </Box>
  );
}

function RoomHere() {
  const [space, setFound] = useState<Awaited<ReturnType<typeof room>>>(null);
  const packed = useBag((s) => s.at);
  // What was packed meanwhile weighs.
  useEffect(() => void room().then(setFound, () => undefined), [packed]);
  if (!space) return <Text color="quiet">This browser does not say how much room there is.</Text>;
  const left = Math.max(0, space.whole - space.used);
  return (
    <Flex align="center" gap="4" wrap="wrap">
      <Box flex="1 1 16rem">
        <b>{weight(left)} left</b>, {weight(space.used)} used by Dorrik.{" "}
        {space.stays
          ? "The browser keeps it even when room is short."
          : "The browser may clear it when room is short: put Dorrik on the home screen, or ask it to keep this."}
      </Box>
      {!space.stays && (
        <Button onClick={() => void askToStay().then(() => room().then(setFound))}>Ask to keep it</Button>
      )}
    </Flex>
  );
}
