/** A ring that is open: its legs' insulation, whether its ends are another ring's, and what it is lowered to for today. */
import { Flex } from "@chakra-ui/react";
import { useFieldSpec } from "../api/reference";
import { FieldInput } from "../fields/FieldInput";
import { ReadingCell } from "../fields/ReadingCell";
import { observe } from "../inspection/desk";
import { setField, useInspection } from "../inspection/open";
import { type FieldOf, type Entity, placeOf } from "../inspection/types";
import { nameOf } from "../inspection/words";
import { markAt } from "../measurements/verdicts";
import { Button } from "../ui/Button";
import { Fold } from "../ui/Fold";
import { SelectField } from "../ui/SelectField";
import type { Bench } from "./useBench";
import css from "./bench.module.css";

export function OpenRing({ circuit, bench }: { circuit: Entity; bench: Bench }) {
  const at = (field: FieldOf<"circuit">) => ({ kind: "circuit", id: circuit.id, field }) as const;
  const { values } = circuit;
  const other = bench.swap_with.find(({ id }) => id === values.swap_with);
  const through = useInspection((s) => markAt(s.model?.judgement, circuit.id, "swap_line_ohm"));
  const exchanged = () => {
    setField(at("joined_with"), other?.name ?? null);
    setField(at("joined_by"), "exchanged ends");
  };
  return (
    <div className={css.open}>
      <div className={css.ends} role="group" aria-label="Insulation of its legs">
        {bench.legs_insulation.map((field) => (
          <Reading key={field} circuit={circuit} field={field} />
        ))}
      </div>
      {bench.swap_with.length > 0 && (
        <Fold title="Are its ends another ring’s?" opened={!!values.swap_with}>
          <SelectField
            label="Its first ends to the second ends of"
            value={String(values.swap_with ?? "")}
            choices={[["", "not tried"], ...bench.swap_with.map(({ id, name }): [string, string] => [id, name])]}
            change={(to) => setField(at("swap_with"), to || null)}
          />
          {other && (
            <div className={css.ends} role="group" aria-label={`To the second ends of ${other.name}`}>
              {bench.swap.map((field) => (
                <Reading key={field} circuit={circuit} field={field} />
              ))}
            </div>
          )}
          {through === "attention" && values.joined_by == null && (
            <Button size="sm" onClick={exchanged}>
              Record: ends exchanged with {other?.name}
            </Button>
          )}
        </Fold>
      )}
      <Flex wrap="wrap" gap="3" align="flex-end">
        {values.lowered_to_a == null ? (
          bench.lower_to_a !== null && (
            <Button onClick={() => setField(at("lowered_to_a"), bench.lower_to_a)}>
              Lower it to {bench.lower_to_a} A for today
            </Button>
          )
        ) : (
          <>
            <FieldInput place={at("lowered_to_a")} />
            <FieldInput place={at("lowered_agreed_with")} />
          </>
        )}
        <Button onClick={() => observe({ ...at("r1_ohm"), raise: "ring-open" })}>Observation</Button>
      </Flex>
    </div>
  );
}

function Reading({ circuit, field }: { circuit: Entity; field: string }) {
  const spec = useFieldSpec("circuit", field);
  const status = useInspection((s) => markAt(s.model?.judgement, circuit.id, field));
  if (!spec) return null;
  return (
    <div>
      <span>
        {spec.label}, {spec.unit}
      </span>
      <ReadingCell
        place={placeOf("circuit", circuit.id, field)}
        label={`${nameOf(circuit)}, ${spec.label}`}
        status={status}
        boxed
      />
    </div>
  );
}
