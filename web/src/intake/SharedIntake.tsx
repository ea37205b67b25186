/** One intake, several homes: with whom it is shared, where homes disagree, what this home has for itself. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, answer, Refused, type Schemas } from "../api/client";
import { explain } from "../api/errors";
import { useReference } from "../api/reference";
import { Mark } from "../drawings/Mark";
import { refresh, settled, useInspection } from "../inspection/open";
import { Button } from "../ui/Button";
import { Fold } from "../ui/Fold";
import { Link } from "../ui/Link";
import { Section } from "../ui/Page";
import { Told } from "../ui/States";
import { tell } from "../ui/tell";

type Shared = Schemas["SharedIntakeOut"];
type Home = Schemas["SharingHome"];
type Answer = Promise<Shared>;

const named = (home: Home) =>
  [home.reference, home.installation, home.property_address].filter(Boolean).join(" · ") || "Home without a reference";

const keyOf = (inspection: string, seq: number) => ["shared-intake", inspection, seq];

/** With whom the intake is shared, as of the last entry. */
function useShared(inspection: string) {
  const seq = useInspection((s) => s.model?.seq) ?? 0;
  return useQuery({
    queryKey: keyOf(inspection, seq),
    queryFn: () =>
      answer(
        api.GET("/api/inspections/{inspection_id}/shared-intake", {
          params: { path: { inspection_id: inspection } },
        }),
      ),
    enabled: seq > 0,
    placeholderData: (before) => before,
    staleTime: 0,
  });
}

/** What stands under a field of the supply that is entered for other homes too; '' under one of this home alone. */
export function useSharedHint(inspection: string): (field: string) => string {
  const shared = useShared(inspection).data;
  const homes = shared?.homes.filter((home) => home.id !== inspection) ?? [];
  const own = shared?.homes.find((home) => home.id === inspection)?.own ?? [];
  if (homes.length === 0) return () => "";
  const sentence = `Shared with ${homes.map((home) => home.reference || "another home").join(", ")}.`;
  return (field) => (shared?.fields.includes(field) && !own.includes(field) ? sentence : "");
}

export function SharedIntake({ inspection }: { inspection: string }) {
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState("");
  const path = { inspection_id: inspection };
  const shared = useShared(inspection);
  /** What was typed a moment ago goes with it; what comes of it is fetched at once. Returns the fields that homes
   * disagree on. */
  const ask = async (call: () => Answer): Promise<Disputed[]> => {
    setTrouble("");
    try {
      await settled();
      const now = await call();
      await refresh();
      queries.setQueryData(keyOf(inspection, useInspection.getState().model?.seq ?? 0), now);
      return [];
    } catch (error) {
      const body = error instanceof Refused ? (error.body as { code?: string; fields?: Disputed[] } | null) : null;
      if (body?.code === "disagree" && body.fields) return body.fields;
      setTrouble(explain(error));
      return [];
    }
  };
  const share = (other: string, taken: Record<string, string> = {}) =>
    ask(() =>
      answer(api.POST("/api/inspections/{inspection_id}/shared-intake", { params: { path }, body: { other, taken } })),
    );
  const part = async () => {
    const other = shared.data?.homes.find((home) => home.id !== inspection)?.id;
    await ask(() => answer(api.DELETE("/api/inspections/{inspection_id}/shared-intake", { params: { path } })));
    if (other) tell("This home has its supply for itself; what was entered stays.", () => void share(other));
  };
  const shown = shared.data;
  if (!shown) return null;
  return (
    <Section title="Shared supply" lead="One intake for several homes: entered once, there at each.">
      {trouble && <Told trouble>{trouble}</Told>}
      {shown.homes.length > 0 ? (
        <Sharing shown={shown} inspection={inspection} ask={ask} part={part} />
      ) : (
        <Fold small title="Share with another home">
          <Others shown={shown} inspection={inspection} share={share} />
        </Fold>
      )}
      {shown.homes.length > 0 && (
        <Fold small title="Share with one more home">
          <Others shown={shown} inspection={inspection} share={share} />
        </Fold>
      )}
    </Section>
  );
}

interface SharingProps {
  shown: Shared;
  inspection: string;
  ask: (call: () => Answer) => Promise<Disputed[]>;
  part: () => Promise<void>;
}

function Sharing({ shown, inspection, ask, part }: SharingProps) {
  const labels = useReference()?.fields.inspection ?? {};
  const others = shown.homes.filter((sharingHome) => sharingHome.id !== inspection);
  const own = shown.homes.find((sharingHome) => sharingHome.id === inspection)?.own ?? [];
  const path = { inspection_id: inspection };
  const keepOwn = (field: string) => {
    const next = own.includes(field) ? own.filter((one) => one !== field) : [...own, field];
    void ask(() =>
      answer(api.PUT("/api/inspections/{inspection_id}/shared-intake/own", { params: { path }, body: { own: next } })),
    );
  };
  const align = (field: string) =>
    ask(() =>
      answer(
        api.POST("/api/inspections/{inspection_id}/shared-intake/align", {
          params: { path },
          body: { fields: [field] },
        }),
      ),
    );
  return (
    <>
      <Box as="ul" listStyleType="none" aria-label="Homes that share the supply" mb="3">
        {others.map((sharingHome) => (
          <Flex
            as="li"
            key={sharingHome.id}
            gap="3"
            align="center"
            wrap="wrap"
            borderTopWidth="1px"
            borderColor="line"
            py="2"
          >
            <Box flex="1 1 16rem" minW="0">
              <Link to={`/inspection/${sharingHome.id}/intake`}>{named(sharingHome)}</Link>
            </Box>
            <span>{sharingHome.issued ? "issued: stays as it is" : sharingHome.on_hold ? "on hold" : "shares"}</span>
          </Flex>
        ))}
      </Box>
      {shown.differing.map((differing) => (
        <Box key={differing.field} bg="lampWash" borderLeftWidth="4px" borderColor="ink" px="3" py="2" mb="2">
          <Text>
            <Mark status="attention" size={14} /> <b>{differing.label}:</b>{" "}
            {shown.homes
              .map((home) => `${home.reference || "home"} ${differing.values[home.id] || "not entered"}`)
              .join(", ")}
            {differing.own.length > 0 && " (of its own)"}
          </Text>
          {differing.own.length === 0 && differing.values[inspection] && (
            <Button
              size="sm"
              label={`${differing.label}: take this home's for all`}
              onClick={() => void align(differing.field)}
            >
              Use this home's for all
            </Button>
          )}
        </Box>
      ))}
      <Fold small title={own.length > 0 ? `${own.length} of this home alone` : "All of the supply is shared"}>
        <Text mb="2">Tap what this home has for itself:</Text>
        <Flex gap="2" wrap="wrap" role="group" aria-label="Of this home alone">
          {shown.fields.map((field) => (
            <Button key={field} size="sm" variant="choice" pressed={own.includes(field)} onClick={() => keepOwn(field)}>
              {labels[field]?.label ?? field}
            </Button>
          ))}
        </Flex>
      </Fold>
      <Button onClick={() => void part()}>Remove this home</Button>
    </>
  );
}

interface OthersProps {
  shown: Shared;
  inspection: string;
  share: (other: string, taken?: Record<string, string>) => Promise<Disputed[]>;
}

/** A field on which two homes disagree, as the server says it. */
interface Disputed {
  field: string;
  message: string;
}

/** Who could share: a tap shares, and where homes disagree it is asked field by field which is right. */
function Others({ shown, inspection, share }: OthersProps) {
  const [asked, setAsked] = useState<{ other: Home; disputed: Disputed[] } | null>(null);
  if (shown.others.length === 0) return <Text>No other inspection is in progress.</Text>;
  const begin = async (other: Home) => {
    const disputed = await share(other.id);
    setAsked(disputed.length > 0 ? { other, disputed } : null);
  };
  return (
    <Box as="ul" listStyleType="none" aria-label="Homes that could share">
      {shown.others.map((sharingHome) => (
        <Flex
          as="li"
          key={sharingHome.id}
          gap="3"
          align="center"
          wrap="wrap"
          borderTopWidth="1px"
          borderColor="line"
          py="2"
        >
          <Box flex="1 1 16rem" minW="0">
            {named(sharingHome)}
            {sharingHome.same_property && <Text color="quiet">same property</Text>}
          </Box>
          <Button label={`Share with ${named(sharingHome)}`} onClick={() => void begin(sharingHome)}>
            Share
          </Button>
          {asked?.other.id === sharingHome.id && <Which {...asked} inspection={inspection} share={share} />}
        </Flex>
      ))}
    </Box>
  );
}

interface WhichProps {
  other: Home;
  disputed: Disputed[];
  inspection: string;
  share: OthersProps["share"];
}

/** Which home's fact holds, for each field on which they disagree. */
function Which({ other, disputed, inspection, share }: WhichProps) {
  const [taken, setTaken] = useState<Record<string, string>>({});
  const left = disputed.filter((one) => !taken[one.field]).length;
  return (
    <Box flexBasis="100%" bg="lampWash" borderLeftWidth="4px" borderColor="ink" px="3" py="2">
      <Text mb="2">
        <b>The homes do not agree.</b> Choose which is right; the other stays in the history.
      </Text>
      {disputed.map((one) => (
        <Flex key={one.field} gap="2" wrap="wrap" align="center" mb="2" role="group" aria-label={one.message}>
          <Box flex="1 1 12rem">{one.message}</Box>
          {[inspection, other.id].map((from) => (
            <Button
              key={from}
              variant="choice"
              pressed={taken[one.field] === from}
              onClick={() => setTaken({ ...taken, [one.field]: from })}
            >
              {from === inspection ? "This home's" : "The other home's"}
            </Button>
          ))}
        </Flex>
      ))}
      <Button variant="action" disabled={left > 0} onClick={() => void share(other.id, taken)}>
        {left > 0 ? `Share: ${left} to choose` : "Share"}
      </Button>
    </Box>
  );
}
