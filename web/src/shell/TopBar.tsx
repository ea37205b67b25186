/** The line across the top: where this is, whether everything is kept, and the theme. */
import { Box, Flex } from "@chakra-ui/react";
import type { Me } from "../api/client";
import { ComeBackButton } from "../comeback/ComeBackButton";
import { useInspection } from "../inspection/open";
import { useOutbox } from "../inspection/waiting";
import { useDeviceRules } from "../judge/device";
import { useReach } from "../inspection/transport";
import { Link } from "../ui/Link";
import { InstrumentButton } from "./InstrumentButton";
import { TraineeButton } from "./TraineeButton";
import { ThemeButton } from "../ui/ThemeButton";
import { clock } from "../ui/when";
import { Wordmark } from "../ui/Wordmark";

export function TopBar({ me }: { me: Me }) {
  const address = useInspection((s) => s.model?.entities[s.model.id]?.values.property_address);
  const reference = useInspection((s) => s.model?.entities[s.model.id]?.values.reference);
  const [first, ...rest] = String(address ?? "New inspection").split(",");
  return (
    <Flex
      as="header"
      gridArea="top"
      align="center"
      gap={{ base: "2.5", md: "4" }}
      px={{ base: "2.5", md: "4" }}
      borderBottomWidth="1px"
      borderColor="line"
      minW="0"
    >
      <Link to="/" aria-label="Dorrik, home">
        <Wordmark />
      </Link>
      <Box flex="1" minW="0" truncate>
        <b>{first}</b>
        <Box as="span" color="quiet" display={{ base: "none", md: "inline" }}>
          {rest.length > 0 && ` · ${rest.join(",").trim()}`}
          {reference ? ` · ${String(reference)}` : ""}
        </Box>
      </Box>
      <KeptLine />
      <ComeBackButton />
      <TraineeButton me={me} />
      <InstrumentButton />
      <ThemeButton />
    </Flex>
  );
}

function KeptLine() {
  const waiting = useInspection((s) => s.model?.pending.filter((p) => !p.refused).length ?? 0);
  const refused = useInspection((s) => s.model?.pending.filter((p) => p.refused).length ?? 0);
  const photos = useOutbox((s) => Object.values(s.photos).filter((refused) => !refused).length);
  const reach = useReach((s) => s.reach);
  const keptAt = useOutbox((s) => s.keptAt);
  const rules = useDeviceRules((s) => s.stand);
  const deviceFailed = useOutbox((s) => s.deviceFailed);
  return (
    <Box
      role="status"
      data-waiting={waiting || undefined}
      data-refused={refused || undefined}
      data-rules={rules}
      flex="none"
      maxW={{ base: "22vw", md: "none" }}
      truncate
      color="quiet"
      fontSize={{ base: "xs", md: "sm" }}
      css={{ "& b": { color: "sea" } }}
    >
      {waiting ? (
        <>
          <b>{waiting} to send</b>
          {deviceFailed ? ", not saved: keep this page open" : " on this device"}
        </>
      ) : (
        <>
          <b>Saved</b>
          {keptAt ? ` on the server · ${clock(keptAt)}` : " on the server"}
        </>
      )}
      {refused > 0 && <b>{` · ${refused} not accepted`}</b>}
      {photos > 0 && ` · ${photos === 1 ? "a photo" : `${photos} photos`} to send`}
      {reach === "slow" && " · the server is slow"}
      {reach === "unreachable" && " · no connection"}
      {reach === "failing" && " · the server is in trouble"}
      {reach === "signed-out" && " · signed out"}
    </Box>
  );
}
