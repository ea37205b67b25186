/** Photos of one thing: taken or chosen, shown small, opened large beside the work. */
import { useEffect, useState } from "react";
import { children } from "../inspection/model";
import { add, setField, useInspection } from "../inspection/sync";
import type { Entity, Kind } from "../inspection/types";
import form from "../ui/Form.module.css";
import css from "./Photos.module.css";
import { keep, send, shrink, source, Unusable } from "./photos";

interface Props {
  kind: Kind;
  id: string;
  /** What such a photo shows: a board's chart, a defect. */
  shows: string;
  label: string;
  /** Stands in a row of a list: no margin of its own, and standing back. */
  inline?: boolean;
}

export function Photos({ kind, id, shows, label, inline }: Props) {
  const model = useInspection((s) => s.model);
  const keptAt = useInspection((s) => s.keptAt);
  const [trouble, setTrouble] = useState("");
  const [busy, setBusy] = useState(false);
  const [open, setOpen] = useState<string | null>(null);
  const inspection = model?.id ?? "";
  useEffect(() => {
    if (inspection) void send(inspection);
  }, [inspection, keptAt]);
  if (!model) return null;
  const found = children(model, "photo", inspection).filter((one) => one.values.about_id === id);
  const take = async (files: FileList | null) => {
    setTrouble("");
    setBusy(true);
    for (const file of [...(files ?? [])]) {
      try {
        const sha256 = await keep(inspection, await shrink(file));
        add("photo", inspection, { about_entity: kind, about_id: id, shows, sha256, taken_at: new Date().toISOString() });
      } catch (error) {
        setTrouble(error instanceof Unusable ? error.message : "This device has no room to keep the photo.");
      }
    }
    setBusy(false);
  };
  const large = found.find((one) => one.id === open);
  return (
    <div className={css.photos} data-inline={inline || undefined}>
      {found.map((one) => (
        <button key={one.id} type="button" className={css.small} aria-label={`Open ${label.toLowerCase()}`} aria-pressed={one.id === open} onClick={() => setOpen(one.id === open ? null : one.id)}>
          <Picture photo={one} inspection={inspection} alt={String(one.values.caption ?? label)} />
        </button>
      ))}
      <label className={`${inline ? form.quiet : form.button} ${css.add}`}>
        {busy ? "Shrinking …" : `+ ${label}`}
        <input type="file" accept="image/*" multiple aria-label={label} onChange={(event) => take(event.target.files)} />
      </label>
      {trouble && (
        <p role="alert" className={css.trouble}>
          {trouble}
        </p>
      )}
      {large && (
        <figure className={css.large}>
          <Picture photo={large} inspection={inspection} alt={label} />
          <button type="button" className={form.quiet} onClick={() => setField({ kind: "photo", id: large.id, field: "removed" }, true)}>
            Take this photo out
          </button>
        </figure>
      )}
    </div>
  );
}

function Picture({ photo, inspection, alt }: { photo: Entity; inspection: string; alt: string }) {
  const sha256 = String(photo.values.sha256 ?? "");
  const [src, setSrc] = useState<string>();
  useEffect(() => {
    let made: string | undefined;
    void source(inspection, sha256).then((found) => {
      made = found;
      setSrc(found);
    });
    return () => {
      if (made?.startsWith("blob:")) URL.revokeObjectURL(made);
    };
  }, [inspection, sha256]);
  return src ? <img src={src} alt={alt} loading="lazy" /> : null;
}
