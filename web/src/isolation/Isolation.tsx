/** Safe isolation: each board guided step by step, every step with its time, until it is restored. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { type ReactNode, useState } from "react";
import type { Me, Schemas } from "../api/client";
import { ComeBackReminder } from "../comeback/Reminder";
import { Fields } from "../fields/Fields";
import { NOT_YOURS, useMayChange } from "../fields/mayChange";
import { children } from "../inspection/model";
import { add, setField, useInspection } from "../inspection/open";
import type { FieldOf, Entity, Place } from "../inspection/types";
import { nameOf } from "../inspection/words";
import { PutBackList } from "../putback/PutBackList";
import { usePuttingBack } from "../putback/usePuttingBack";
import { Button } from "../ui/Button";
import { Section } from "../ui/Page";
import { StageBody, StageHead } from "../ui/StageHead";
import { Empty } from "../ui/States";
import { clock, moment } from "../ui/when";
import { Pairings } from "./Pairings";
import { nameOfPairing } from "./pairings";

const time = (iso: unknown) => clock(String(iso));
const dayOf = (iso: unknown) => moment(String(iso), { day: "numeric", month: "short" });
const now = () => new Date().toISOString();

export default function Isolation({ me }: { me: Me }) {
  const model = useInspection((s) => s.model);
  if (!model) return null;
  const boards = children(model, "board", model.id);
  const stay = model.entities[model.id]?.values.must_stay_on;
  const agreed = model.entities[model.id]?.values.power_off;
  return (
    <>
      <StageHead title="Isolation" line="proved dead before covers and conductors are touched" />
      <StageBody>
        <Text color="quiet" mb="3">
          Agree the power-off with the occupier first: medical equipment, freezer, fish.
          {agreed ? ` Agreed: ${String(agreed)}.` : ""} {stay ? <b>Must stay on: {String(stay)}.</b> : null}
        </Text>
        {boards.length === 0 && (
          <Empty title="No board yet">Add one under Boards, then record its isolation here.</Empty>
        )}
        {boards.map((board) => (
          <OfBoard key={board.id} board={board} me={me} />
        ))}
      </StageBody>
    </>
  );
}

function OfBoard({ board, me }: { board: Entity; me: Me }) {
  const model = useInspection((s) => s.model);
  const may = useMayChange("isolation", "proved_at");
  if (!model) return null;
  const made = children(model, "isolation", board.id);
  const open = made.find((isolation) => !isolation.values.restored_at);
  // Which pairings there are to prove comes with the judgement, way by way.
  const wanted = model.judgement?.boards.find((boardState) => boardState.board_id === board.id)?.pairings ?? [];
  const begin = !open && may && (
    <Button variant="action" onClick={() => add("isolation", board.id, { by: me.name, proved_at: now() })}>
      {made.length ? "Isolate again: tester proved now" : "Begin: tester proved now"}
    </Button>
  );
  return (
    <Section title={`Isolation of ${nameOf(board)}`} tools={begin} first>
      {!open && <LeftApart boardId={board.id} />}
      {!open && made.length === 0 && board.values.isolated_at != null && (
        <p>
          Proved dead {time(board.values.isolated_at)}, {dayOf(board.values.isolated_at)}
          {board.values.isolated_lock ? `, ${String(board.values.isolated_lock)}` : ""}.
        </p>
      )}
      {!open && made.length === 0 && board.values.isolated_at == null && (
        <Text color="quiet">Nothing recorded yet.</Text>
      )}
      {!may && <Text color="quiet">{NOT_YOURS.decide}</Text>}
      {made.map((isolation) =>
        isolation === open ? (
          <Steps key={isolation.id} isolation={isolation} wanted={wanted} />
        ) : (
          <Done key={isolation.id} isolation={isolation} />
        ),
      )}
    </Section>
  );
}

/** What was never ticked stands here after the board was restored too. */
function LeftApart({ boardId }: { boardId: string }) {
  return usePuttingBack(boardId).some((putBack) => putBack.off) ? <PutBackList boardId={boardId} /> : null;
}

function Done({ isolation }: { isolation: Entity }) {
  const v = isolation.values;
  return (
    <Box py="2.5" borderTopWidth="1px" borderColor="line">
      <b>
        {v.proved_again_at ? `Proved dead ${time(v.proved_again_at)}` : "Begun"}, restored {time(v.restored_at)},{" "}
        {dayOf(v.restored_at)}
      </b>{" "}
      {[v.by, v.lock, v.isolated_where].filter(Boolean).join(" · ")}
    </Box>
  );
}

function Steps({ isolation, wanted }: { isolation: Entity; wanted: Schemas["PairingsView"][] }) {
  const [restoring, setRestoring] = useState(false);
  const may = useMayChange("isolation", "proved_at");
  const at = (field: FieldOf<"isolation">): Place => ({ kind: "isolation", id: isolation.id, field });
  const v = isolation.values;
  const pairings = (v.pairings ?? {}) as Record<string, string>;
  const all = wanted.flatMap((row) => row.between.map((between) => nameOfPairing(row.at, between)));
  const left = all.filter((name) => !pairings[name]).length;
  const live = all.filter((name) => pairings[name] === "live");
  const put = (names: string[], state: string | null) => {
    const others = Object.entries(pairings).filter(([name]) => !names.includes(name));
    const next = Object.fromEntries(state ? [...others, ...names.map((name) => [name, state])] : others);
    setField(at("pairings"), Object.keys(next).length ? next : null);
  };
  const stamp = may ? (field: FieldOf<"isolation">) => setField(at(field), v[field] ? null : now()) : undefined;
  const apart = usePuttingBack(isolation.parentId);
  const open = apart.filter((putBack) => putBack.open);
  const loading = all.length === 0;
  const proved = loading
    ? "Every pairing dead"
    : left
      ? `Every pairing dead: ${left} of ${all.length} left`
      : live.length
        ? "Not dead"
        : `All ${all.length} pairings dead`;
  return (
    <Box as="ol" listStyleType="none" borderTopWidth="2px" borderColor="ink">
      <Step
        n={1}
        title="Tester proved on a known source"
        when={v.proved_at}
        act="Proved now"
        onAct={stamp && (() => stamp("proved_at"))}
      >
        <Fields
          kind="isolation"
          id={isolation.id}
          fields={[{ field: "source", hint: "Proving unit, or a socket known to be live." }, "by"]}
        />
      </Step>
      <Step
        n={2}
        title="Isolated, locked off, tagged; key on you"
        when={v.isolated_at}
        act="Isolated now"
        onAct={stamp && (() => stamp("isolated_at"))}
      >
        <Fields
          kind="isolation"
          id={isolation.id}
          fields={[
            { field: "isolated_where", hint: "Main switch, switch-fuse, or the way that feeds it." },
            { field: "lock", hint: "Which lock, where." },
            "key_with",
          ]}
        />
      </Step>
      <Step n={3} title={proved} done={!loading && left === 0 && !live.length} bad={live.length > 0}>
        {live.length > 0 && (
          <Box role="alert" px="4" py="2.5" borderWidth="3px" borderColor="ink" borderRadius="lg" fontWeight="bold">
            Voltage at {live.join(", ")}. Keep off. Find the second supply or the wrong switch, isolate it, and begin
            again.
          </Box>
        )}
        {wanted.length === 0 && <p>The list of pairings is still loading.</p>}
        <Pairings wanted={wanted} found={pairings} put={may ? put : undefined} />
      </Step>
      <Step
        n={4}
        title="Tester proved again"
        when={v.proved_again_at}
        act="Proved again now"
        onAct={stamp && (() => stamp("proved_again_at"))}
      />
      <Step
        n={5}
        title={apart.length ? `Put back: ${apart.length - open.length} of ${apart.length}` : "Put back"}
        done={apart.length > 0 && open.length === 0}
      >
        <PutBackList boardId={isolation.parentId} />
      </Step>
      <Step
        n={6}
        title="Restored: conductors back, lock off, power on"
        when={v.restored_at}
        act={restoring ? "" : "Restore …"}
        later={!v.proved_again_at}
        onAct={stamp && (() => setRestoring(true))}
      >
        {!v.restored_at && <ComeBackReminder before="before the cover goes on" boardId={isolation.parentId} />}
        {restoring && (
          <Flex wrap="wrap" gap="2" align="center">
            {open.length > 0 && (
              <Box role="alert" flex="1 1 100%" px="4" py="2.5" borderWidth="3px" borderColor="ink" borderRadius="lg">
                <b>{open.length} not ticked as back:</b> {open.map((putBack) => putBack.says).join("; ")}.
              </Box>
            )}
            <p>Every conductor and bond back and checked, covers on, nobody at work?</p>
            <Button variant="action" onClick={() => stamp?.("restored_at")}>
              Yes, restored now
            </Button>
            <Button onClick={() => setRestoring(false)}>Not yet</Button>
          </Flex>
        )}
      </Step>
      {may && (
        <li>
          <Button variant="quiet" onClick={() => setField(at("removed"), true)}>
            Remove record
          </Button>
        </li>
      )}
    </Box>
  );
}

interface StepProps {
  n: number;
  title: string;
  when?: unknown;
  done?: boolean;
  bad?: boolean;
  act?: string;
  /** Its turn has not come: the button stands back. */
  later?: boolean;
  onAct?: () => void;
  children?: ReactNode;
}

function Step({ n, title, when, done, bad, act, later, onAct, children: inside }: StepProps) {
  const inked = !!when || !!done;
  return (
    <Box
      as="li"
      py="2.5"
      borderBottomWidth="1px"
      borderColor="line"
      {...(bad && { pl: "3.5", boxShadow: "inset 6px 0 0 {colors.ink}" })}
    >
      <Flex wrap="wrap" columnGap="3" rowGap="1.5" align="center">
        <Box
          as="span"
          display="grid"
          placeItems="center"
          width="30px"
          height="30px"
          borderWidth="2px"
          borderColor="ink"
          borderRadius="full"
          fontWeight="bold"
          bg={inked ? "ink" : undefined}
          color={inked ? "onInk" : undefined}
        >
          {n}
        </Box>
        <Box as="b" flex="1 1 12rem" fontSize="lg">
          {title}
        </Box>
        {when ? (
          <Box as="span" fontFamily="mono" fontSize="2xl" fontWeight="bold">
            {time(when)}
          </Box>
        ) : null}
        {onAct && act && (
          <Button variant={when ? "quiet" : later ? "outline" : "action"} onClick={onAct}>
            {when ? "Undo" : act}
          </Button>
        )}
      </Flex>
      {inside && (
        <Box pl={{ base: "0", md: "42px" }} pt="2.5">
          {inside}
        </Box>
      )}
    </Box>
  );
}
