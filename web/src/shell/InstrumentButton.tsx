/** Which instrument readings come from: typed off one that is chosen, or by a link to one that is paired. */
import { useEffect, useRef, useState } from "react";
import { useReference } from "../api/reference";
import { useDesk } from "../inspection/desk";
import { pairAgain } from "../inspection/instrumentLink";
import { linkedInstrument } from "../inspection/instruments";
import { useInspection } from "../inspection/open";
import { knowFigures, useReadingSource } from "../inspection/readingSource";
import { useTranslate, whereOf } from "../inspection/words";
import { Button } from "../ui/Button";
import { OnWide } from "../ui/ByWidth";
import { Icon } from "../ui/Icon";
import { loaded } from "../ui/Loaded";
import { withLooks } from "../ui/withLooks";
import css from "./TopBar.module.css";
import { useRegister } from "./useRegister";

const InstrumentDialog = loaded(
  null,
  withLooks(() => import("./InstrumentDialog").then((m) => m.InstrumentDialog)),
);

export function InstrumentButton() {
  const [opened, setOpened] = useState(false);
  const link = useReadingSource((s) => s.link);
  const source = useReadingSource((s) => s.source);
  const typedWith = useDesk((s) => s.typedWith);
  const chosen = useInspection((s) => (typedWith ? s.model?.entities[typedWith]?.values.name : undefined));
  useFocusTold();
  const register = useRegister(link !== "none");
  // Asked when the first reading is kept, by then as the register says.
  const entries = useRef(register);
  useEffect(() => {
    entries.current = register;
  }, [register]);
  useEffect(() => void pairAgain((instrument) => linkedInstrument(instrument, entries.current)), []);
  const says =
    link === "linked" ? source.name : link === "away" ? "out of reach" : link === "ended" ? "link ended" : null;
  const words = says ?? (chosen ? `typed off ${String(chosen)}` : "Instrument");
  return (
    <>
      <Button
        size="sm"
        variant="choice"
        pressed={link === "linked"}
        label={says || chosen ? `Instrument: ${words}` : "Instrument"}
        onClick={() => setOpened(true)}
      >
        <Icon name="instrument" size={18} />
        <OnWide className={css.instrument}>{words}</OnWide>
      </Button>
      {opened && (
        <InstrumentDialog
          close={() => {
            setOpened(false);
            // Back to the figure that waits, rather than to this button.
            const { focus } = useDesk.getState();
            if (focus)
              setTimeout(() =>
                document.querySelector<HTMLElement>(`[data-cell="${focus.id}.${focus.field}"]`)?.focus(),
              );
          }}
        />
      )}
    </>
  );
}

/** What is linked knows which figure waits, and a figure what it takes. */
function useFocusTold(): void {
  const reference = useReference();
  const translate = useTranslate();
  const focus = useDesk((s) => s.focus);
  const source = useReadingSource((s) => s.source);
  useEffect(() => {
    const figure = (place: { kind: string; field: string }) => {
      const spec = reference?.fields[place.kind]?.[place.field];
      return spec ? { takes: spec.takes ?? null, unit: spec.unit, label: translate(spec.label) } : null;
    };
    knowFigures(figure);
    const waiting = focus && figure(focus);
    const entity = focus && useInspection.getState().model?.entities[focus.id];
    source.waits?.(
      waiting?.takes
        ? { says: `${whereOf(entity ?? undefined)} · ${waiting.label}`, function: waiting.takes.key }
        : null,
    );
  }, [reference, translate, focus, source]);
}
