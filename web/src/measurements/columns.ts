/** How tests are laid out in the grid. What they are is served; which of them apply to what comes with the judgement. */
import type { Judgement, Schemas, Stage } from "../api/client";
import { type Entity, type Kind, type Place, placeOf, valueIn } from "../inspection/types";

export type Tests = "dead" | "live";

export interface Column {
  field: string;
  head: readonly [string, string];
  check: boolean;
  width: number;
}

/** How wide a column is drawn: a figure, and what is only correct or not. */
const WIDTH = { dead: { figure: 86, check: 72 }, live: { figure: 104, check: 92 } };

const known = new WeakMap<Schemas["ColumnOut"][], Record<Tests, readonly Column[]>>();

/** Every test of a kind that has a column in a stage, in the order of the work; the same list each time. */
export function columnsOf(reference: Reference, kind: "circuit" | "rcd", tests: Tests): readonly Column[] {
  const declared = reference.columns[kind] ?? [];
  const before = known.get(declared);
  if (before) return before[tests];
  const inStage = (stage: Tests): Column[] =>
    declared
      .filter((column) => column.stage === stage)
      .map(({ key, head, check }) => ({
        field: key,
        head: [head[0] ?? "", head[1] ?? ""] as const,
        check,
        width: WIDTH[stage][check ? "check" : "figure"],
      }));
  const made = { dead: inStage("dead"), live: inStage("live") };
  known.set(declared, made);
  return made[tests];
}

type Reference = Pick<Schemas["Reference"], "columns">;
export type Asked = Schemas["AskedView"];

/** What is asked in a stage, by entity. */
export function askedIn(judgement: Judgement | null | undefined, stage: Stage): Map<string, Asked> {
  return new Map(
    (judgement?.asked ?? []).filter((question) => question.stage === stage).map((question) => [question.id, question]),
  );
}

/** Does a test apply to an entity? What was not judged yet, since the server has not answered, takes any figure. */
export function applies(column: Column, entity: Entity, asked: Map<string, Asked>): boolean {
  if (entity.values.spare) return false;
  const question = asked.get(entity.id);
  return (
    !question ||
    question.fields.includes(column.field) ||
    question.more.includes(column.field) ||
    valueIn(entity, column.field) != null
  );
}

/** The columns that any of the entities has a use for. */
export function columnsFor(
  columns: readonly Column[],
  entities: Entity[],
  asked: Map<string, Asked>,
): readonly Column[] {
  const known = entities.filter((entity) => asked.has(entity.id));
  return known.length ? columns.filter((column) => known.some((entity) => applies(column, entity, asked))) : columns;
}

/** The figures in the order of the work: one after another, or test by test. */
export function order(
  kind: Kind,
  columns: readonly Column[],
  entities: Entity[],
  asked: Map<string, Asked>,
  byTest: boolean,
): Place[] {
  const place = (entity: Entity, column: Column): Place[] =>
    applies(column, entity, asked) ? [placeOf(kind, entity.id, column.field)] : [];
  return byTest
    ? columns.flatMap((column) => entities.flatMap((entity) => place(entity, column)))
    : entities.flatMap((entity) => columns.flatMap((column) => place(entity, column)));
}
