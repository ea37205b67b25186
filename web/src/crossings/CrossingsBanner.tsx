/** Two devices met: said on every stage until somebody has decided what stands. */
import { useState } from "react";
import { Banner } from "../ui/Banner";
import { Button } from "../ui/Button";
import { loaded } from "../ui/Loaded";
import { withLooks } from "../ui/withLooks";
import { countOf, type Entry, useCrossings, useDecide } from "./useCrossings";
import { byWhom, useInWords } from "./words";

const Decide = loaded(
  null,
  withLooks(() => import("./Decide").then((m) => m.default)),
);

export function CrossingsBanner() {
  const crossings = useCrossings();
  const [open, setOpen] = useState(false);
  if (!crossings) return null;
  const count = countOf(crossings);
  const [only] = crossings.fields;
  const [other] = only?.others ?? [];
  if (!count) return null;
  if (count === 1 && only && other && only.others.length === 1)
    return <One stands={only.stands} other={other} seq={crossings.seq} />;
  return (
    <>
      <Banner
        edge
        role="status"
        acts={
          <Button size="sm" variant="action" onClick={() => setOpen(true)}>
            Choose what to keep
          </Button>
        }
      >
        <b>
          {count === 1
            ? "At one place two devices entered different things."
            : `At ${count} places two devices entered different things.`}
        </b>{" "}
        Neither saw the other. The last to arrive is used until you choose.
      </Banner>
      {open && <Decide crossings={crossings} close={() => setOpen(false)} />}
    </>
  );
}

/** A single figure: both are said, and either is one tap away. */
function One({ stands, other, seq }: { stands: Entry; other: Entry; seq: number }) {
  const decide = useDecide();
  const words = useInWords();
  const { entity, entity_id, field } = stands;
  const take = ({ value }: Entry) => decide([{ entity, entity_id, field, value }], seq);
  return (
    <Banner
      edge
      role="status"
      acts={
        <>
          <Button size="sm" variant="action" onClick={() => take(other)}>
            Take {words.value(other.value)}
          </Button>
          <Button size="sm" onClick={() => take(stands)}>
            Keep {words.value(stands.value)}
          </Button>
        </>
      }
    >
      <b>
        {words.where(entity_id)}, {words.label(entity, field)}: {words.value(stands.value)} or{" "}
        {words.value(other.value)}?
      </b>{" "}
      {words.value(stands.value)} is used ({byWhom(stands)}); {words.value(other.value)} was entered without seeing it (
      {byWhom(other)}).
    </Banner>
  );
}
