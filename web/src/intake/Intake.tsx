/** The intake: the way of the supply as a drawing; a part is tapped, and its few figures are typed beside it. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { Drawing } from "../drawings/Drawing";
import { Fields, type Named } from "../fields/Fields";
import { setOrder, useDesk } from "../inspection/desk";
import { useChildIds } from "../inspection/select";
import { children } from "../inspection/model";
import { add, setField, useInspection } from "../inspection/open";
import type { Place, Value } from "../inspection/types";
import { Button } from "../ui/Button";
import { Section } from "../ui/Page";
import { StageBody, StageHead } from "../ui/StageHead";
import { moment } from "../ui/when";
import { Bond, SERVICES } from "./Bond";
import { FIELDS, isPart, type PartKey, partOf, PARTS } from "./parts";
import { Operator } from "./Operator";
import { RoomForMore } from "./RoomForMore";
import { SharedIntake, useSharedHint } from "./SharedIntake";

const FIGURES = ["ze_ohm", "pscc_ka", "pefc_ka", "leakage_ma"] as const;
const AT = ["at_clamp_ohm", "at_pipe_ohm"] as const;

const TITLES: Record<PartKey, string> = {
  supply: "Supply",
  ze: "Supply",
  head: "Service head",
  meter: "Meter",
  isolator: "Isolator after the meter",
  tails: "Tails",
  "switch-fuse": "Switch-fuse in front of the tails",
  earth: "Earthing",
};

export default function Intake() {
  const navigate = useNavigate();
  const model = useInspection((s) => s.model);
  const id = model?.id ?? "";
  const bonds = useChildIds("bond", id);
  const [tapped, setTapped] = useState<string>("supply");
  const focus = useDesk((s) => s.focus);
  // The pad goes on to the next figure wherever it stands: its part comes with it.
  const [followed, setFollowed] = useState(focus);
  if (focus !== followed) {
    setFollowed(focus);
    const part = focus && partOf(focus);
    if (part) setTapped(part);
  }
  const bondIds = bonds.join();
  useEffect(() => {
    const figures = FIGURES.map((field): Place => ({ kind: "inspection", id, field }));
    const ofBonds = bondIds.split(",").filter(Boolean);
    setOrder([...figures, ...ofBonds.flatMap((bond) => AT.map((field): Place => ({ kind: "bond", id: bond, field })))]);
  }, [id, bondIds]);
  const calls = useChildIds("operator_call", id);
  if (!model) return null;
  const drawing = model.judgement?.intake_drawing;
  const values = model.entities[id]?.values ?? {};
  // Calls of their own say when that was.
  const called = calls.length > 0;
  const choose = (key: string) => {
    setTapped(key);
    const first = isPart(key) ? FIELDS[key][0] : "csa_mm2";
    requestAnimationFrame(() =>
      document
        .querySelector<HTMLElement>(`[data-part="${key}"] [data-field="${first}"] :is(input, button, select)`)
        ?.focus(),
    );
  };
  const addBond = (service: string) =>
    choose(add("bond", id, { position: bonds.length + 1, service, state: "present" }));
  const services = children(model, "bond", id);
  const there = new Set<unknown>(services.map((bond) => bond.values.service));
  const drawn = new Set(drawing?.parts.map((part) => part.key));
  const boards = new Set(children(model, "board", id).map((board) => board.id));
  return (
    <>
      <StageHead title="Intake" line="tap a part to fill it in" />
      <Box px="4" overflowX="auto" tabIndex={0} role="region" aria-label="The way of the supply">
        {drawing && (
          <Drawing
            drawing={drawing}
            chosen={tapped}
            choose={(key) => (boards.has(key) ? void navigate(`/inspection/${id}/boards`) : choose(key))}
            buttons
            style={{ minWidth: "46rem" }}
          />
        )}
        {/* Entered, and not judged yet: the drawing comes with the verdicts. */}
        <NotDrawn
          parts={[
            ...PARTS.map((key) => ({ key: key as string, name: TITLES[key] })),
            ...services.map((bond) => ({ key: bond.id, name: `Bond to ${String(bond.values.service ?? "…")}` })),
          ].filter((one) => !drawn.has(one.key))}
          chosen={tapped}
          choose={choose}
        />
      </Box>
      <StageBody wide>
        {!called && <OperatorCalled id={id} at={values.operator_called_at} />}
        <Flex wrap="wrap" gap="2" align="center" mb="4" role="group" aria-label="Add a bond">
          <Box as="span" color="quiet">
            Main bonds to
          </Box>
          {SERVICES.filter((service) => service === "other" || !there.has(service)).map((service) => (
            <Button key={service} size="sm" onClick={() => addBond(service)}>
              + {service}
            </Button>
          ))}
        </Flex>
        <Box
          as="section"
          aria-label="The part that was tapped"
          data-part={tapped}
          borderWidth="1.5px"
          borderColor="ink"
          borderRadius="lg"
          px="4"
          pt="3"
          mb="6"
        >
          <Chosen part={tapped} id={id} tt={values.earthing === "TT"} isolated={values.isolator !== "none"} />
        </Box>
        <SharedIntake inspection={id} />
        <Operator inspection={id} />
        <RoomForMore inspection={id} />
        <Section title="The home" lead="Moves the code of what depends on it.">
          <Fields kind="inspection" id={id} fields={[{ field: "storey", wide: true }, "flat_above"]} />
        </Section>
      </StageBody>
    </>
  );
}

interface NotDrawnProps {
  parts: readonly { key: string; name: string }[];
  chosen: string;
  choose: (key: string) => void;
}

function NotDrawn({ parts, chosen, choose }: NotDrawnProps) {
  if (parts.length === 0) return null;
  return (
    <Flex gap="2" wrap="wrap" pb="3" role="group" aria-label="Parts not drawn yet">
      {parts.map(({ key, name }) => (
        <Button key={key} variant="choice" pressed={key === chosen} onClick={() => choose(key)}>
          {name}
        </Button>
      ))}
    </Flex>
  );
}

/** When the network operator was called, and back again where that was a slip of the finger. */
function OperatorCalled({ id, at }: { id: string; at: Value | undefined }) {
  if (!at) return null;
  return (
    <Flex gap="3" align="center" wrap="wrap" mb="4" role="status">
      <Text>
        Network operator called on <b>{moment(String(at))}</b>
      </Text>
      <Button
        size="sm"
        variant="quiet"
        onClick={() => setField({ kind: "inspection", id, field: "operator_called_at" }, null)}
      >
        not yet
      </Button>
    </Flex>
  );
}

/** The few fields of the part that was tapped. Service head and tails go together: one reads them in one look. */
function Chosen({ part, id, tt, isolated }: { part: string; id: string; tt: boolean; isolated: boolean }) {
  const shared = useSharedHint(id);
  if (!isPart(part)) return <Bond key={part} id={part} />;
  const key = part;
  const noted = (one: Named): Named => {
    const named = typeof one === "string" ? { field: one } : one;
    return { ...named, hint: [named.hint, shared(named.field)].filter(Boolean).join(" ") || undefined };
  };
  const supply: Named[] = [
    { field: "earthing", label: "Earthing arrangement" },
    { field: "phases", words: { "1": "single phase", "3": "three phase" } },
    { field: "ze_ohm", label: tt ? "Ze, the electrode's RA" : "Ze" },
    { field: "pscc_ka", label: "PSCC, line to neutral" },
    { field: "pefc_ka", label: "PEFC, line to earth" },
    PARALLEL,
    { field: "other_source", hint: "Solar, battery or generator that can feed the home.", wide: true },
    { field: "supply_polarity", label: "Polarity of the supply", wide: true },
    "supply_voltage_v",
    { field: "leakage_ma", hint: "Clamp meter round the tails, everything on." },
  ];
  const fields: Record<PartKey, Named[]> = {
    supply,
    // The same fields: the figure at hand is lit in the drawing, and nothing moves under the hand.
    ze: supply,
    head: [
      { field: "service_fuse_standard", hint: "As marked, or “not verifiable”." },
      "service_fuse_a",
      ...TAILS,
      "overhead_supply",
      { field: "fuse_read", hint: "The carrier alone says little.", wide: true },
    ],
    meter: ["meter_number", "meter_seals"],
    isolator: [
      { field: "isolator", hint: "Between the meter and the boards, often the network operator's." },
      ...(isolated ? ["isolator_a"] : []),
    ],
    tails: [
      ...TAILS,
      { field: "maximum_demand_a", hint: "Left empty, it is estimated from the circuits." },
      { field: "neutral_mm2", hint: "Where it is seen; otherwise the size of the tails counts." },
    ],
    "switch-fuse": ["tails_protected", "switch_fuse_a"],
    earth: [
      "earthing_conductor_mm2",
      "bonding_mm2",
      { field: "bonding_to", hint: "What earlier papers say. It proves nothing: each bond has its own entry." },
      { field: "earth_by", hint: "Where the earthing conductor goes.", wide: true },
      ...(tt ? [{ field: "electrode", hint: "Rod, plate or tape; where it is and how it is reached." }] : []),
    ],
  };
  return (
    <Section title={TITLES[key]} first>
      <Fields kind="inspection" id={id} fields={fields[key].map(noted)} />
    </Section>
  );
}

const TAILS: Named[] = ["tails_mm2", { field: "tails_length_m", hint: "From the meter to the board." }];

const PARALLEL: Named = {
  field: "ze_parallel_removed",
  label: "Was the earthing conductor off everything parallel when Ze was measured?",
  hint: "Supply off, earthing conductor disconnected from bonding; reconnect it before anything is switched on.",
  wide: true,
};
