/** Instruments used at the inspection that is open: taken from the firm's register as it is today, or as a link names them. */
import type { Schemas } from "../api/client";
import type { Instrument } from "./instrumentLink";
import { children } from "./model";
import { add, useInspection } from "./open";
import type { Value } from "./types";

type Registered = Pick<Schemas["InstrumentOut"]["entry"], "id" | "values">;

const ACCURACY = ["continuity", "insulation", "loop", "trip"].flatMap((test) => [`${test}_percent`, `${test}_digits`]);
const TAKEN = ["name", "kind", "serial", "calibration_due", ...ACCURACY];

/** Take an entry of the register; returns its id at this inspection. */
export function takeInstrument(inspection: string, entry: Registered): string {
  const fields: Record<string, Value> = { register_id: entry.id };
  for (const field of TAKEN) if (entry.values[field]) fields[field] = entry.values[field] as Value;
  return add("instrument_used", inspection, fields);
}

/** The instrument of a link at this inspection, by its serial: used already, of the register, or new. */
export function linkedInstrument(instrument: Instrument, register: readonly Registered[]): string {
  const { model } = useInspection.getState();
  if (!model) return "";
  const same = (values: Record<string, unknown>) => !!instrument.serial && values.serial === instrument.serial;
  const used = children(model, "instrument_used", model.id).find((instrumentUsed) => same(instrumentUsed.values));
  if (used) return used.id;
  const known = register.find(({ values }) => !values.retired && same(values));
  if (known) return takeInstrument(model.id, known);
  const { name, kind, serial } = instrument;
  return add("instrument_used", model.id, { name, ...(kind && { kind }), ...(serial && { serial }) });
}
