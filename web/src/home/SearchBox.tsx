/** Finds clients, properties, jobs and inspections by any part of a name, an address or a number. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { api, answer, type Schemas } from "../api/client";
import css from "./SearchBox.module.css";

type Hit = Schemas["HitOut"];

const TO: Record<Hit["kind"], (id: string) => string> = {
  client: (id) => `/client/${id}`,
  property: (id) => `/property/${id}`,
  job: (id) => `/job/${id}`,
  inspection: (id) => `/inspection/${id}/brief`,
};

export function SearchBox() {
  const navigate = useNavigate();
  const [text, setText] = useState("");
  const [at, setAt] = useState(0);
  const box = useRef<HTMLInputElement>(null);
  const asked = text.trim();
  const found = useQuery({
    queryKey: ["search", asked],
    queryFn: () => answer(api.GET("/api/search", { params: { query: { text: asked } } })),
    enabled: asked.length > 0,
    placeholderData: keepPreviousData,
    staleTime: 10_000,
  });
  useEffect(() => {
    const slash = (event: KeyboardEvent) => {
      if (event.key !== "/" || (event.target as HTMLElement).matches("input, textarea, select")) return;
      event.preventDefault();
      box.current?.focus();
    };
    document.addEventListener("keydown", slash);
    return () => document.removeEventListener("keydown", slash);
  }, []);
  const hits = asked ? (found.data ?? []) : [];
  const open = (hit: Hit) => navigate(TO[hit.kind](hit.id));
  const key = (event: React.KeyboardEvent) => {
    if (event.key === "ArrowDown") setAt(Math.min(at + 1, hits.length - 1));
    else if (event.key === "ArrowUp") setAt(Math.max(at - 1, 0));
    else if (event.key === "Escape") setText("");
    else if (event.key === "Enter" && hits[at]) open(hits[at]);
    else return;
    event.preventDefault();
  };
  return (
    <div className={css.search}>
      <input
        ref={box}
        type="search"
        role="combobox"
        aria-label="Find"
        aria-expanded={hits.length > 0}
        aria-controls="found"
        aria-activedescendant={hits[at] ? `hit-${hits[at].id}` : undefined}
        placeholder="Find an address, a client, a job number"
        value={text}
        autoComplete="off"
        onChange={(event) => {
          setText(event.target.value);
          setAt(0);
        }}
        onKeyDown={key}
      />
      {asked && found.isError && <p role="alert">The search did not answer. Try again in a moment.</p>}
      {asked && found.isSuccess && hits.length === 0 && !found.isFetching && <p role="status">Nothing holds “{asked}”.</p>}
      {hits.length > 0 && (
        <ul id="found" role="listbox" aria-label="Found">
          {hits.map((hit, i) => (
            <li key={hit.id} id={`hit-${hit.id}`} role="option" aria-selected={i === at} onMouseDown={(event) => event.preventDefault()} onClick={() => open(hit)}>
              <span className={css.kind}>{hit.kind}</span>
              <b>{hit.title}</b>
              <span className={css.line}>{hit.line}</span>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
