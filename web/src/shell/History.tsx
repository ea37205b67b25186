/** Who changed one figure from what to what, and when. */
import { useQuery } from "@tanstack/react-query";
import { api, answer } from "../api/client";
import { useReference } from "../api/reference";
import { shown } from "../inspection/model";
import { setField, useInspection } from "../inspection/sync";
import type { Place, Value } from "../inspection/types";
import css from "./History.module.css";

interface Props {
  /** One field, or the whole entity where no field is named. */
  place: Omit<Place, "field"> & { field?: string };
  close: () => void;
  /** Stands in the page where it is opened, instead of over what is above it. */
  inline?: boolean;
}

export function HistoryList({ place, close, inline }: Props) {
  const specs = useReference()?.fields[place.kind];
  const id = useInspection((s) => s.model?.id) ?? "";
  const seq = useInspection((s) => s.model?.seq);
  const history = useQuery({
    queryKey: ["history", id, place.id, place.field, seq],
    queryFn: () =>
      answer(
        api.GET("/api/inspections/{inspection_id}/history", {
          params: { path: { inspection_id: id }, query: { entity_id: place.id, ...(place.field && { field: place.field }) } },
        }),
      ),
  });
  return (
    <div className={inline ? `${css.list} ${css.inline}` : css.list} role="dialog" aria-label={place.field ? "History of this figure" : "History of all its fields"}>
      {history.isPending && "Asking the server …"}
      {history.isError && "The server cannot be reached; the history stands there."}
      {history.data?.length === 0 && "Nothing was written here yet."}
      <ol>
        {history.data?.map((entry) => (
          <li key={entry.id}>
            <span>
              {!place.field && `${specs?.[entry.field]?.label ?? "Made, or moved"}: `}
              <b>{specs?.[entry.field] ? shown(entry.value) : "here"}</b> before {specs?.[entry.field] ? shown(entry.before) : "elsewhere"}
              <br />
              {entry.author}, {new Date(entry.made_at).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" })}
            </span>
            {specs?.[entry.field] && (
              <button
                type="button"
                onClick={() => {
                  setField({ kind: place.kind, id: place.id, field: entry.field }, (entry.before ?? null) as Value);
                  close();
                }}
              >
                put {shown(entry.before)} back
              </button>
            )}
          </li>
        ))}
      </ol>
    </div>
  );
}
