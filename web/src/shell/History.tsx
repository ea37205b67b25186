/** Who changed one figure from what to what, and when. */
import { useQuery } from "@tanstack/react-query";
import { api, answer } from "../api/client";
import { shown } from "../inspection/model";
import { setField, useInspection } from "../inspection/sync";
import type { Place, Value } from "../inspection/types";
import css from "./History.module.css";

export function HistoryList({ place, close }: { place: Place; close: () => void }) {
  const id = useInspection((s) => s.model?.id) ?? "";
  const seq = useInspection((s) => s.model?.seq);
  const history = useQuery({
    queryKey: ["history", id, place.id, place.field, seq],
    queryFn: () =>
      answer(
        api.GET("/api/inspections/{inspection_id}/history", {
          params: { path: { inspection_id: id }, query: { entity_id: place.id, field: place.field } },
        }),
      ),
  });
  return (
    <div className={css.list} role="dialog" aria-label="History of this figure">
      {history.isPending && "Asking the server …"}
      {history.isError && "The server cannot be reached; the history stands there."}
      {history.data?.length === 0 && "Nothing was written here yet."}
      <ol>
        {history.data?.map((entry) => (
          <li key={entry.id}>
            <span>
              <b>{shown(entry.value)}</b> before {shown(entry.before)}
              <br />
              {entry.author}, {new Date(entry.made_at).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" })}
            </span>
            <button
              type="button"
              onClick={() => {
                setField(place, (entry.before ?? null) as Value);
                close();
              }}
            >
              put {shown(entry.before)} back
            </button>
          </li>
        ))}
      </ol>
    </div>
  );
}
