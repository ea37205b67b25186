/** Every observation, the most pressing first, with the coding desk beside it; and what waits to be taken or refused. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { Fragment, type ReactNode } from "react";
import { useSearchParams } from "react-router";
import type { Me } from "../api/client";
import { useReference } from "../api/reference";
import { CodeMark } from "../drawings/Mark";
import { observe } from "../inspection/desk";
import { children } from "../inspection/model";
import { useInspection } from "../inspection/open";
import type { Entity } from "../inspection/types";
import { Button } from "../ui/Button";
import { loaded } from "../ui/Loaded";
import { useNarrow } from "../ui/layout";
import { Lines } from "../ui/Page";
import { Said } from "../ui/Said";
import { StageHead } from "../ui/StageHead";
import { Empty } from "../ui/States";
import { CodingDesk } from "./CodingDesk";
import { isBlind } from "./opinions";
import { Suggested } from "./Suggested";

const Price = loaded("the prices", () => import("../price/Price").then((m) => m.default));

export default function Observations({ me }: { me: Me }) {
  const model = useInspection((s) => s.model);
  const order = useReference()?.code_order ?? [];
  const [params, setParams] = useSearchParams();
  const narrow = useNarrow();
  if (!model) return null;
  // The most pressing first; what has no code yet comes last.
  const weight = (code: unknown) => (order.includes(String(code ?? "")) ? order.indexOf(String(code)) : order.length);
  const observations = children(model, "observation", model.id).sort(
    (a, b) => weight(a.values.code) - weight(b.values.code),
  );
  // Building by building, the home first; in each the most pressing first.
  const stands = new Map(model.judgement?.recorded.map((recorded) => [recorded.id, recorded.building]));
  const building = (entity?: Entity) => stands.get(entity?.id ?? "") ?? "";
  const grouped = [...observations].sort((a, b) => building(a).localeCompare(building(b)));
  const several = grouped.some((observation) => building(observation) !== "");
  const outcome = model.judgement?.outcome_says;
  const because = model.judgement?.outcome_because.length ?? 0;
  const asked = params.get("of");
  const open = observations.find((observation) => observation.id === asked) ?? (narrow ? undefined : observations[0]);
  const show = (id: string | null) => setParams(id ? { of: id } : {}, { replace: true });
  if (params.has("price")) return <Price close={() => show(null)} />;
  const list = (
    <>
      {outcome && (
        <Text fontSize="lg" mb="3">
          Result from the codes: <b>{outcome}</b>
          {because > 0 && `, because of ${because} ${because === 1 ? "observation" : "observations"}`}
        </Text>
      )}
      {observations.length === 0 && (
        <Empty>
          Press O wherever you are when you see something: where and what are taken from the figure in focus.
        </Empty>
      )}
      <Lines label="Recorded">
        {grouped.map((observation, at) => (
          <Fragment key={observation.id}>
            {several && (at === 0 || building(grouped[at - 1]) !== building(observation)) && (
              <Box as="li" fontWeight="bold" pt="3" pb="1">
                {building(observation) || "The home"}
              </Box>
            )}
            <Recorded one={observation} open={observation.id === open?.id} show={() => show(observation.id)} />
          </Fragment>
        ))}
      </Lines>
      <Suggested weight={weight} />
    </>
  );
  return (
    <>
      <StageHead title="Observations" line={observations.length === 0 ? "none yet" : `${observations.length} recorded`}>
        {narrow && open ? (
          <Button onClick={() => show(null)}>Back to the list</Button>
        ) : (
          <>
            {observations.length > 0 && (
              <Button onClick={() => setParams({ price: "" }, { replace: true })}>Price for repairs</Button>
            )}
            <Button hotkey="O" onClick={() => observe({ kind: "inspection", id: model.id })}>
              Add one
            </Button>
          </>
        )}
      </StageHead>
      {narrow ? (
        <Box px="3" pb="7">
          {open ? <CodingDesk key={open.id} observation={open} me={me} /> : list}
        </Box>
      ) : (
        <Box
          display="grid"
          gridTemplateColumns={open ? "minmax(15rem, 2fr) minmax(0, 3fr)" : "minmax(0, 1fr)"}
          gap="6"
          px="4"
          pb="7"
        >
          <Box>{list}</Box>
          {open && <CodingDesk key={open.id} observation={open} me={me} />}
        </Box>
      )}
    </>
  );
}

interface RecordedProps {
  one: Entity;
  open: boolean;
  show: () => void;
}

function Recorded({ one, open, show }: RecordedProps) {
  const v = one.values;
  const blind = useInspection((s) => !!s.model && isBlind(s.model, one));
  const stands = useInspection((s) => s.model?.judgement?.recorded.find((known) => known.id === one.id));
  const notes: ReactNode[] = [
    stands?.made_good && "put right on the day",
    v.opinion_asked_at && blind && "waits for your opinion",
    ...(stands?.lacking ?? []),
    stands?.hint,
  ].filter(Boolean) as ReactNode[];
  return (
    <Box as="li" borderTopWidth="1px" borderColor="line" bg={open ? "lampWash" : undefined}>
      <Button variant="plain" size="bare" wide pressed={open} onClick={show}>
        <Said words={`${blind ? "" : String(v.code ?? "no code")} ${String(v.text ?? "No words yet")}`}>
          <Flex as="span" flex="1" align="center" gap="3" py="2.5" px="1.5" textAlign="start" minW="0">
            <CodeMark code={blind ? "?" : String(v.code ?? "?")} large />
            <Box as="span" flex="1" minW="0">
              <b>{String(v.text ?? "No words yet")}</b>
              <Box as="small" display="block" color="quiet" fontWeight="normal">
                {[v.place, ...notes].filter(Boolean).join(" · ")}
              </Box>
            </Box>
          </Flex>
        </Said>
      </Button>
    </Box>
  );
}
