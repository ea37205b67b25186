/** The points in the order of the walk, a reading at each; *as expected* is one tap, and a retest keeps the reading before it. */
import { Box } from "@chakra-ui/react";
import { type ClipboardEvent, Fragment, memo, useMemo } from "react";
import { useFieldSpec } from "../api/reference";
import { ReadingCell } from "../fields/ReadingCell";
import { focusOn, useDesk } from "../inspection/desk";
import { setField, useInspection } from "../inspection/open";
import { isBlock, paste } from "../inspection/paste";
import { useEntity, useOvertaken } from "../inspection/select";
import { placeOf, valueIn } from "../inspection/types";
import { useTranslate } from "../inspection/words";
import { Button } from "../ui/Button";
import { markAt } from "../measurements/verdicts";
import { type Bench, type BenchPoint, testAgain, useTwoGangs } from "./useBench";
import css from "./bench.module.css";

/** With more figures than these a point has its name above them on a phone. */
const FEW = 2;
/** Nothing here is ticked. */
const NONE: ReadonlySet<string> = new Set();

interface Props {
  bench: Bench;
  /** The figures of this stage. */
  fields: readonly string[];
  radial: boolean;
}

export function PointTable({ bench, fields, radial }: Props) {
  const take = (event: ClipboardEvent) => {
    const text = event.clipboardData.getData("text");
    const { focus } = useDesk.getState();
    if (focus?.kind !== "point" || !isBlock(text)) return;
    event.preventDefault();
    const rows = bench.points.map(({ id }) => fields.map((field) => placeOf("point", id, field)));
    paste(text, rows, focus, NONE);
  };
  const gangs = useTwoGangs(bench.points);
  return (
    <table className={css.points} data-many={fields.length > FEW || undefined} onPaste={take}>
      <thead>
        <tr>
          <th className={css.at}>#</th>
          <th className={css.point}>Point</th>
          {fields.map((field) => (
            <th key={field} className={css.head}>
              <Head field={field} radial={radial} />
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {bench.points.map((point, index) => (
          <Fragment key={point.id}>
            <Row bench={bench} fields={fields} point={point} number={index + 1} />
            {gangs.has(point.id) && <SecondGang bench={bench} fields={fields} point={point} />}
          </Fragment>
        ))}
      </tbody>
    </table>
  );
}

/** On a radial line to cpc is what the trade calls R1+R2. */
function Head({ field, radial }: { field: string; radial: boolean }) {
  const translate = useTranslate();
  const spec = useFieldSpec("point", field);
  const label = radial && field === "line_cpc_ohm" ? translate("R1+R2") : translate(spec?.label ?? field);
  return (
    <>
      {label} <br />
      {spec?.unit}
    </>
  );
}

interface RowProps extends Omit<Props, "radial"> {
  point: BenchPoint;
  number: number;
}

const Row = memo(function Row({ bench, fields, point, number }: RowProps) {
  const entity = useEntity(point.id);
  const here = useDesk((s) => s.focus?.id === point.id);
  if (!entity) return null;
  const twoGangs = () => setField({ kind: "point", id: point.id, field: "two_gangs" }, true);
  // What was found dead, and as expected, are of the dead tests.
  const dead = fields === bench.fields;
  const empty = fields.every((field) => valueIn(entity, field) == null);
  const asExpected = () =>
    setField({ kind: "point", id: point.id, field: "tested" }, entity.values.tested ? null : true);
  const again = () => {
    testAgain(entity, bench);
    focusOn(placeOf("point", point.id, bench.fields[0] ?? ""));
  };
  return (
    <tr data-here={here || undefined}>
      <td className={css.at}>{number}</td>
      <th scope="row" className={css.point} title={point.name}>
        <span>
          <span>
            {point.name}
            {dead && point.says && <small>{point.says}</small>}
          </span>
          {entity.values.kind === "socket" && here && !entity.values.two_gangs && (
            // On a phone the name needs the room: there it is said for all sockets at once, or at the point itself.
            <Box as="span" flex="none" hideBelow="md">
              <Button size="sm" variant="quiet" label={`${point.name}: two gangs, each tested`} onClick={twoGangs}>
                ×2
              </Button>
            </Box>
          )}
          {!dead ? null : point.again && !empty ? (
            <Button size="sm" label={`Retest ${point.name}`} onClick={again}>
              Retest
            </Button>
          ) : empty && !bench.open ? (
            <Button
              size="sm"
              variant={entity.values.tested ? "choice" : "quiet"}
              pressed={!!entity.values.tested}
              label={`${point.name}: as expected`}
              onClick={asExpected}
            >
              as expected
            </Button>
          ) : null}
        </span>
      </th>
      {fields.map((field) => (
        <td key={field} className={css.figure}>
          <span className={css.named} aria-hidden>
            <Head field={field} radial={false} />
          </span>
          <PointFigure id={point.id} field={field} of={point.name} first={bench.first[field]} />
        </td>
      ))}
    </tr>
  );
});

/** The second gang of a double socket, with its own contacts. */
function SecondGang({ bench, fields, point }: Omit<Props, "radial"> & { point: BenchPoint }) {
  const here = useDesk((s) => s.focus?.id === point.id);
  const twoGangs = useInspection((s) => s.model?.entities[point.id]?.values.two_gangs === true);
  const oneGang = () => setField({ kind: "point", id: point.id, field: "two_gangs" }, null);
  return (
    <tr data-here={here || undefined}>
      <td className={css.at} />
      <th scope="row" className={css.point}>
        <span>
          <span>second gang</span>
          {twoGangs && (
            <Button size="sm" variant="quiet" label={`${point.name}: one gang`} onClick={oneGang}>
              one gang
            </Button>
          )}
        </span>
      </th>
      {fields.map((field) => {
        const second = bench.second[field];
        return (
          <td key={field} className={css.figure}>
            <span className={css.named} aria-hidden>
              <Head field={field} radial={false} />
            </span>
            {second && <PointFigure id={point.id} field={second} of={point.name} />}
          </td>
        );
      })}
    </tr>
  );
}

interface FigureProps {
  id: string;
  field: string;
  of: string;
  /** Where its reading before the retest is kept. */
  first?: string;
}

const PointFigure = memo(function PointFigure({ id, field, of, first }: FigureProps) {
  const translate = useTranslate();
  const spec = useFieldSpec("point", field);
  const place = useMemo(() => placeOf("point", id, field), [id, field]);
  const overtaken = useOvertaken(id, field);
  const status = useInspection((s) => (overtaken ? undefined : markAt(s.model?.judgement, id, field)));
  const before = useInspection((s) => (first ? valueIn(s.model?.entities[id], first) : null));
  const label = translate(spec?.label ?? field);
  return (
    <>
      {before != null && (
        <s className={css.before} title={`${label}, before the retest`}>
          {String(before)}
        </s>
      )}
      <ReadingCell place={place} label={`${of}, ${label}`} status={status} />
    </>
  );
});
