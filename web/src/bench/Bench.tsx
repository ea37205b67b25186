/** The bench of one circuit: its ends, its points in the order of the walk, and where the readings put them. */
import { Flex } from "@chakra-ui/react";
import { useCallback } from "react";
import { useSearchParams } from "react-router";
import { useFieldSpec, useReference } from "../api/reference";
import { Drawing } from "../drawings/Drawing";
import { LineDrawing } from "../drawings/LineDrawing";
import { ReadingsChart } from "../drawings/ReadingsChart";
import { ReadingCell } from "../fields/ReadingCell";
import { focusOn, useDesk } from "../inspection/desk";
import { add, setField, useInspection } from "../inspection/open";
import { useEntity } from "../inspection/select";
import { type FieldOf, type Entity, placeOf, valueIn } from "../inspection/types";
import { cableAndDevice, nameOf } from "../inspection/words";
import { NullBar } from "../measurements/NullBar";
import { Reminder } from "../measurements/Reminder";
import { markAt } from "../measurements/verdicts";
import { Apart } from "../putback/Apart";
import { Button } from "../ui/Button";
import { SelectField } from "../ui/SelectField";
import { StageHead, StageLines } from "../ui/StageHead";
import { Empty } from "../ui/States";
import { Highest } from "./Highest";
import { LiveBench } from "./LiveBench";
import { OpenRing } from "./OpenRing";
import { PointTable } from "./PointTable";
import { type Bench as Served, type Figures, useBench, useFigures, useTwoGangs } from "./useBench";
import { useFinish } from "./useFinish";
import css from "./bench.module.css";

export default function Bench({ circuitId, live }: { circuitId: string; live: boolean }) {
  const circuit = useEntity(circuitId);
  const [, setSearch] = useSearchParams();
  const go = useCallback((to: string | null) => setSearch(to ? { circuit: to } : {}), [setSearch]);
  if (!circuit)
    return (
      <Empty title="This circuit was removed" act={<Back to={() => go(null)} />}>
        Its readings are in the history of the inspection.
      </Empty>
    );
  return live ? <LiveBench circuit={circuit} go={go} /> : <OfCircuit circuit={circuit} go={go} />;
}

function Back({ to }: { to: () => void }) {
  return <Button onClick={to}>All circuits</Button>;
}

function OfCircuit({ circuit, go }: { circuit: Entity; go: (circuitId: string | null) => void }) {
  const board = useEntity(circuit.parentId);
  const bench = useBench(circuit.id);
  const figures = useFigures(circuit, bench);
  useFinish(circuit, bench, false, go);
  const way = String(circuit.values.way ?? "");
  const focused = useDesk((s) => s.focus?.id);
  const ring = useInspection((s) => s.model?.judgement?.ring_drawings?.[circuit.id]);
  const choose = (id: string) => {
    const field = bench?.fields[0];
    if (field) focusOn(placeOf("point", id, field));
  };
  return (
    <div className={css.screen}>
      <StageHead title={nameOf(circuit)} line={cableAndDevice(circuit.values)}>
        {bench && <Method circuit={circuit} bench={bench} />}
        {bench && bench.sockets.length > 0 && <EndsAt circuit={circuit} bench={bench} />}
        <Back to={() => go(null)} />
      </StageHead>
      {board && <Reminder live={false} board={board} />}
      <StageLines>
        {board && <Apart board={board} />}
        <NullBar />
      </StageLines>
      {!bench?.points.length ? (
        <>
          {figures.ends.length > 0 && <Ends circuit={circuit} ends={figures.ends} />}
          <Empty
            title="No points on this circuit"
            act={<Button onClick={() => add("point", circuit.id, { kind: "socket" })}>Add a socket</Button>}
          >
            Points assigned under Walk-round are listed here, in the order of the walk.
          </Empty>
        </>
      ) : (
        <div className={css.bench}>
          <div className={css.drawings}>
            {figures.ends.length > 0 && <Ends circuit={circuit} ends={figures.ends} />}
            {circuit.values.form === "ring" ? (
              ring && <Drawing drawing={ring} chosen={focused} choose={choose} />
            ) : (
              <LineDrawing bench={bench} way={way} choose={choose} />
            )}
            <ReadingsChart bench={bench} />
            <Highest circuit={circuit} points={bench.points} highest={bench.highest} />
            {bench.gap && <p className={css.gap}>{bench.gap.says}</p>}
            {bench.open && <OpenRing circuit={circuit} bench={bench} />}
            <Said circuit={circuit} bench={bench} />
          </div>
          <div>
            <PointTable bench={bench} fields={bench.fields} radial={circuit.values.form !== "ring"} />
            <p className={css.more}>
              <Button size="sm" onClick={() => add("point", circuit.id, { kind: "socket" })}>
                Add a socket
              </Button>
            </p>
          </div>
        </div>
      )}
    </div>
  );
}

/** What is said of the test as a whole, and polarity where the readings have shown it. */
function Said({ circuit, bench }: { circuit: Entity; bench: Served }) {
  const specs = useReference()?.fields.circuit;
  const at = (field: FieldOf<"circuit">) => ({ kind: "circuit", id: circuit.id, field }) as const;
  const sockets = useSockets(bench);
  const gangs = useTwoGangs(bench.points);
  const both = sockets.every((id) => gangs.has(id));
  return (
    <Flex wrap="wrap" gap="2" pt="2">
      {bench.flags.map((field) => (
        <Button
          key={field}
          size="sm"
          variant="choice"
          pressed={!!valueIn(circuit, field)}
          onClick={() => setField(placeOf("circuit", circuit.id, field), valueIn(circuit, field) ? null : true)}
        >
          {specs?.[field]?.label ?? field}
        </Button>
      ))}
      {sockets.length > 0 && (
        <Button
          size="sm"
          variant="choice"
          pressed={both}
          onClick={() =>
            sockets.forEach((id) => setField({ kind: "point", id, field: "two_gangs" }, both ? null : true))
          }
        >
          Both gangs at every socket
        </Button>
      )}
      {bench.works_offered.length > 0 && (
        <Button
          size="sm"
          onClick={() =>
            bench.works_offered.forEach((id) => setField({ kind: "point", id, field: "functional" }, "correct"))
          }
        >
          {bench.works_offered.length === 1 ? "Its switch opens" : `Its ${bench.works_offered.length} switches open`}{" "}
          and closes: works
        </Button>
      )}
      {bench.polarity_offered && (
        <Button size="sm" onClick={() => setField(at("polarity"), "correct")}>
          Every point read right: polarity correct
        </Button>
      )}
    </Flex>
  );
}

/** Ids of the sockets among its points. */
function useSockets(bench: Served): string[] {
  const ids = useInspection((s) =>
    bench.points
      .filter(({ id }) => s.model?.entities[id]?.values.kind === "socket")
      .map(({ id }) => id)
      .join(),
  );
  return ids ? ids.split(",") : [];
}

/** How this circuit's points are tested; not set, it is as the firm usually does. */
function Method({ circuit, bench }: { circuit: Entity; bench: Served }) {
  const spec = useFieldSpec("circuit", "continuity_method");
  if (!spec) return null;
  return (
    <div className={css.method}>
      <SelectField
        label={spec.label}
        quiet
        value={bench.method}
        choices={bench.methods.map((method) => [method.method, method.says])}
        change={(to) => setField({ kind: "circuit", id: circuit.id, field: "continuity_method" }, to)}
      />
    </div>
  );
}

/** Where the ends of a ring were opened: its places are counted from there. */
function EndsAt({ circuit, bench }: { circuit: Entity; bench: Served }) {
  const spec = useFieldSpec("circuit", "ends_at");
  const [board = "", socket = ""] = spec?.choices ?? [];
  const at = (field: FieldOf<"circuit">) => ({ kind: "circuit", id: circuit.id, field }) as const;
  const opened = circuit.values.ends_at === socket ? String(circuit.values.ends_at_point ?? "") : "";
  const change = (id: string) => {
    setField(at("ends_at"), id ? socket : null);
    setField(at("ends_at_point"), id || null);
  };
  return (
    <div className={css.method}>
      <SelectField
        label={spec?.label ?? ""}
        quiet
        value={opened}
        choices={[["", board], ...bench.sockets.map(({ id, name }): [string, string] => [id, name])]}
        change={change}
      />
    </div>
  );
}

function Ends({ circuit, ends }: { circuit: Entity; ends: Figures["ends"] }) {
  return (
    <div className={css.ends} role="group" aria-label="End to end">
      {ends.map(({ field, label }) => (
        <End key={field} circuit={circuit} field={field} label={label} />
      ))}
    </div>
  );
}

function End({ circuit, field, label }: { circuit: Entity; field: string; label: string }) {
  const unit = useFieldSpec("circuit", field)?.unit;
  const status = useInspection((s) => markAt(s.model?.judgement, circuit.id, field));
  const says = useInspection((s) =>
    valueIn(circuit, field) == null
      ? s.model?.judgement?.expected.find((expected) => expected.id === circuit.id && expected.field === field)?.says
      : undefined,
  );
  return (
    <div>
      <span>
        {label}, {unit}
      </span>
      <ReadingCell
        place={placeOf("circuit", circuit.id, field)}
        label={`${nameOf(circuit)}, ${label} end to end`}
        status={status}
        boxed
      />
      <small>{says}</small>
    </div>
  );
}
