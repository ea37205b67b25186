/** A visit's dealings with who lives there: times proposed, what they said, the notice, and doors that stayed shut. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, answer, type Schemas } from "../api/client";
import { explain, explainField } from "../api/errors";
import { notLeft } from "../letters/told";
import { Button } from "../ui/Button";
import { Check } from "../ui/CheckField";
import { Fold } from "../ui/Fold";
import { Told } from "../ui/States";
import { TextField } from "../ui/TextField";
import { day, moment } from "../ui/when";
import { clockOf } from "../ui/minutes";
import { NoAccess } from "./NoAccess";

type OccupierOut = Schemas["OccupierOut"];
type Free = Schemas["FreeTimeOut"];

interface Props {
  visit: { id: string; booked: boolean; day: string | null };
  /** Something was booked, asked or freed: the plan is asked for again. */
  changed: () => void;
}

const SHORT = { weekday: "short", day: "numeric", month: "short" } as const;
const CLOCK = { ...SHORT, hour: "2-digit", minute: "2-digit" } as const;

export function Occupier({ visit, changed }: Props) {
  const queries = useQueryClient();
  const query = ["occupier", visit.id];
  const path = { params: { path: { visit_id: visit.id } } };
  const occupier = useQuery({ queryKey: query, queryFn: () => answer(api.GET("/api/visits/{visit_id}", path)) });
  if (!occupier.data) return occupier.isError ? <Text>{explain(occupier.error)}</Text> : null;
  const took = (now: OccupierOut) => {
    queries.setQueryData(query, now);
    changed();
  };
  const { steps, access } = occupier.data;
  return (
    <Box>
      <Text fontWeight="700">{occupier.data.name || "Occupier"}</Text>
      <Text color="quiet" fontSize="sm">
        {[occupier.data.phone, occupier.data.email].filter(Boolean).join(" · ") || "No phone or email yet"}
      </Text>
      {steps.length > 0 && (
        <Box as="ol" listStyleType="none" my="2" aria-label="What happened">
          {steps.map((step) => (
            <Box as="li" key={step.id} fontSize="sm" mb="1">
              <Box as="span" color="quiet">
                {moment(step.at, CLOCK)}
              </Box>{" "}
              {step.says}
              {step.letter && step.letter !== "sent" && <b> · letter {step.letter}</b>}
              {step.photos.map((photo, at) => (
                <a key={photo} href={`/api/visits/photos/${photo}`}>
                  {" "}
                  Photo {at + 1}
                </a>
              ))}
            </Box>
          ))}
        </Box>
      )}
      {access.next_step && (
        <Box borderLeftWidth="3px" borderColor="ink" pl="2.5" my="2">
          <Text fontWeight="700">{access.next_step}</Text>
          {access.tries
            .filter((one) => !one.counts)
            .map((one, at) => (
              <Text key={at} fontSize="sm">
                {day(one.on, SHORT)} does not count: {one.missing.join(", ")}.
              </Text>
            ))}
          <Text fontSize="sm" color="quiet">
            {access.source}
          </Text>
        </Box>
      )}
      {!visit.booked && (
        <Fold title="Propose times …" small>
          <Ask visit={visit.id} email={occupier.data.email} took={took} />
        </Fold>
      )}
      {visit.booked && <Notice visit={visit.id} occupier={occupier.data} took={took} />}
      <Fold title="No access …" small>
        <NoAccess visit={visit.id} on={visit.day} took={took} />
      </Fold>
    </Box>
  );
}

interface PartProps {
  visit: string;
  took: (now: OccupierOut) => void;
}

/** So many times are ticked to begin with. */
const FIRST = 3;

function Ask({ visit, email, took }: PartProps & { email: string }) {
  const [to, setTo] = useState(email);
  const [left, setLeft] = useState<readonly string[] | null>(null);
  const [trouble, setTrouble] = useState("");
  const [busy, setBusy] = useState(false);
  const times = useQuery({
    queryKey: ["free-times", visit],
    queryFn: () => answer(api.GET("/api/visits/{visit_id}/times", { params: { path: { visit_id: visit } } })),
    staleTime: 0,
  });
  if (!times.data) return <Text color="quiet">Looking for free times …</Text>;
  const key = (time: Free) => `${time.inspector_id} ${time.day}`;
  const chosen = left ?? times.data.slice(0, FIRST).map(key);
  const send = async () => {
    setBusy(true);
    setTrouble("");
    const some = times.data.filter((time) => chosen.includes(key(time)));
    try {
      const asked = await answer(
        api.POST("/api/visits/{visit_id}/ask", {
          params: { path: { visit_id: visit } },
          body: { to, times: some.map(({ inspector_id, day: on, begins }) => ({ inspector_id, day: on, begins })) },
        }),
      );
      setTrouble(notLeft(asked.sent));
      took(asked.occupier);
    } catch (error) {
      setTrouble(explainField(error, "to"));
    }
    setBusy(false);
  };
  return (
    <Box display="grid" gap="2" mt="1">
      {times.data.length === 0 && <Text>No time is free. Replan, or make room first.</Text>}
      {times.data.map((time) => (
        <Check
          key={key(time)}
          checked={chosen.includes(key(time))}
          change={(on) => setLeft(on ? [...chosen, key(time)] : chosen.filter((one) => one !== key(time)))}
        >
          {day(time.day, SHORT)}, {clockOf(time.begins)}, {time.inspector}
          {time.own && " (as planned)"}
        </Check>
      ))}
      <TextField label="Mail to" type="email" value={to} change={setTo} refused={trouble || undefined} />
      <Button size="sm" busy={busy} disabled={!to.trim() || chosen.length === 0} onClick={send}>
        Mail times
      </Button>
    </Box>
  );
}

/** The power-off notice of the booked day: by mail, or handed over. */
function Notice({ visit, occupier, took }: PartProps & { occupier: OccupierOut }) {
  const [to, setTo] = useState(occupier.email);
  const [trouble, setTrouble] = useState("");
  const [busy, setBusy] = useState(false);
  const tell = async (body: Schemas["ToldIn"]) => {
    setBusy(true);
    setTrouble("");
    try {
      const telling = await answer(
        api.POST("/api/visits/{visit_id}/told", { params: { path: { visit_id: visit } }, body }),
      );
      if (telling.sent) setTrouble(notLeft(telling.sent));
      took(telling.occupier);
    } catch (error) {
      setTrouble(explainField(error, "to"));
    }
    setBusy(false);
  };
  const now = () => {
    const at = new Date();
    return new Date(at.getTime() - at.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
  };
  if (occupier.told) return <Told>The occupier was told of the power-off.</Told>;
  return (
    <Box display="grid" gap="2" my="2">
      <TextField label="Power-off notice to" type="email" value={to} change={setTo} refused={trouble || undefined} />
      <Flex gap="2" wrap="wrap">
        <Button size="sm" busy={busy} disabled={!to.trim()} onClick={() => tell({ to })}>
          Mail notice
        </Button>
        <Button size="sm" disabled={busy} onClick={() => tell({ handed_at: now() })}>
          Notice handed over
        </Button>
      </Flex>
    </Box>
  );
}
