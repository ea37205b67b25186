/** One day of an inspector: visits are dragged along it and onto it, or moved by keyboard. */
import { Box, Flex, Text } from "@chakra-ui/react";
import type { KeyboardEvent } from "react";
import { useDragged, useDropPlace } from "../ui/Drag";
import { day as dayWords } from "../ui/when";
import { along, clockOf, type Span } from "../ui/minutes";
import type { Plan, PlanDay, PlanInspector, Planning, PlanStop, PlanVisit } from "./usePlanner";
import styles from "./Strip.module.css";

interface Props {
  day: PlanDay;
  inspector: PlanInspector;
  plan: Plan;
  span: Span;
  planning: Planning;
  chosen: string;
  choose: (id: string) => void;
}

/** By so many minutes a key moves a visit. */
const STEP = 15;
const SHORT = { weekday: "short", day: "numeric" } as const;

/** A strip as a place onto which visits are dragged. */
export const stripId = (inspectorId: string, day: string) => `strip ${inspectorId} ${day}`;

export function Strip({ day, inspector, plan, span, planning, chosen, choose }: Props) {
  const { ref, isOver } = useDropPlace(stripId(inspector.id, day.day), day.off !== null || day.day < plan.earliest);
  const visits = new Map(plan.visits.map((visit) => [visit.id, visit]));
  return (
    <Flex align="stretch" data-day={day.day}>
      <Text width="4.5rem" flex="none" fontSize="sm" pt="2" color={day.day < plan.earliest ? "quiet" : undefined}>
        {dayWords(day.day, SHORT)}
      </Text>
      <Box
        ref={ref}
        className={styles.strip}
        data-over={isOver || undefined}
        data-off={day.off !== null || undefined}
        data-strip={`${inspector.name} ${day.day}`}
      >
        {day.off !== null && <span className={styles.off}>{day.off === "day off" ? "day off" : ""}</span>}
        <Ways day={day} span={span} />
        {day.stops.map((stop) =>
          stop.task === "visit" ? (
            <Bar
              key={stop.id}
              stop={stop}
              visit={visits.get(stop.id)}
              span={span}
              planning={planning}
              at={{ inspector: inspector.id, day: day.day }}
              chosen={stop.id === chosen}
              choose={choose}
            />
          ) : (
            <KeyTick key={`${stop.task} ${stop.id}`} stop={stop} span={span} />
          ),
        )}
      </Box>
    </Flex>
  );
}

/** The way there, between, and home again. */
function Ways({ day, span }: { day: PlanDay; span: Span }) {
  if (day.leaves === null || day.back === null) return null;
  return (
    <span
      className={styles.way}
      style={{ left: `${along(day.leaves, span)}%`, width: `${along(day.back, span) - along(day.leaves, span)}%` }}
      title={`Leaves ${clockOf(day.leaves)}, home ${clockOf(day.back)}, ${day.km.toFixed(1)} km`}
    />
  );
}

function KeyTick({ stop, span }: { stop: PlanStop; span: Span }) {
  const what = stop.task === "fetch key" ? "Fetch keys" : "Return keys";
  return (
    <span
      className={styles.tick}
      style={{ left: `${along((stop.begins + stop.ends) / 2, span)}%` }}
      title={`${what}: ${stop.name}, ${clockOf(stop.begins)}`}
    />
  );
}

interface BarProps {
  stop: PlanStop;
  visit: PlanVisit | undefined;
  span: Span;
  planning: Planning;
  at: { inspector: string; day: string };
  chosen: boolean;
  choose: (id: string) => void;
}

function Bar({ stop, visit, span, planning, at, chosen, choose }: BarProps) {
  const fixed = stop.booked || !visit || stop.way_min === null;
  const { style, ...dragged } = useDragged(`bar ${stop.id}`, fixed);
  const pickUp = "onKeyDown" in dragged ? (dragged.onKeyDown as (event: KeyboardEvent) => void) : undefined;
  const key = (event: KeyboardEvent) => {
    const by = { ArrowLeft: -STEP, ArrowRight: STEP }[event.key];
    if (!event.shiftKey || by === undefined || !visit || fixed) return;
    event.preventDefault();
    void planning.move(visit, { inspector_id: at.inspector, day: at.day, begins: stop.begins + by });
  };
  const times = `${clockOf(stop.begins)} to ${clockOf(stop.ends)}`;
  const more = [stop.booked && "booked", stop.pinned && "kept by hand", stop.wrong].filter(Boolean).join(", ");
  return (
    <Box
      as="button"
      {...dragged}
      onKeyDown={(event) => {
        key(event);
        pickUp?.(event);
      }}
      onClick={() => choose(stop.id)}
      className={styles.bar}
      aria-pressed={chosen}
      aria-label={[stop.name, times, more].filter(Boolean).join(", ")}
      title={[stop.name, times, more].filter(Boolean).join(" · ")}
      data-fixed={stop.booked || stop.pinned || undefined}
      data-wrong={stop.wrong ? true : undefined}
      style={{
        ...style,
        left: `${along(stop.begins, span)}%`,
        width: `${along(stop.ends, span) - along(stop.begins, span)}%`,
        position: "absolute",
      }}
    >
      {stop.name}
    </Box>
  );
}
