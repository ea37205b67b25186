/** Clause and rule of a verdict; each rule opens in our own words with its formula and limits. */
import { useState } from "react";
import { Button } from "../ui/Button";
import { loaded } from "../ui/Loaded";
import { withLooks } from "../ui/withLooks";
import css from "./SourceLine.module.css";

const RuleDialog = loaded(
  null,
  withLooks(() => import("./RuleDialog").then((m) => m.RuleDialog)),
);

export function SourceLine({ source }: { source: string }) {
  const [rule, setRule] = useState<string | null>(null);
  const at = source.search(/rules? \d/);
  const clause = at < 0 ? source : source.slice(0, at);
  const parts = at < 0 ? [] : source.slice(at).split(/(\d+(?:\.\d+)?)/);
  return (
    <p className={css.source}>
      {clause}
      {parts.map((part, i) =>
        /^\d/.test(part) ? (
          <Button key={i} variant="quiet" size="bare" label={`Rule ${part}`} onClick={() => setRule(part)}>
            {part}
          </Button>
        ) : (
          part
        ),
      )}
      {rule && <RuleDialog number={rule} close={() => setRule(null)} />}
    </p>
  );
}
