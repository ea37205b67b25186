/** Finds clients, properties, jobs and inspections by any part of a name, an address or a number. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { api, answer, type Schemas } from "../api/client";
import { loaded } from "../ui/Loaded";
import { withLooks } from "../ui/withLooks";
import { FindField, type FindProps } from "./FindField";
import css from "./SearchBox.module.css";

type Hit = Schemas["HitOut"];

const TO: Record<Hit["kind"], (id: string) => string> = {
  client: (id) => `/client/${id}`,
  property: (id) => `/property/${id}`,
  job: (id) => `/job/${id}`,
  inspection: (id) => `/inspection/${id}/brief`,
};

/** So long after the first picture, unless somebody is about to search before, milliseconds. */
const CALM = 4000;

/** The list that opens comes after the first picture; what is typed before stands in its field. */
const Finding = loaded<FindProps>(
  null,
  withLooks(() => import("./Finding").then((m) => m.default)),
  { meanwhile: FindField, calm: CALM },
);

export function SearchBox() {
  const navigate = useNavigate();
  const [text, setText] = useState("");
  const box = useRef<HTMLInputElement>(null);
  const inHand = useRef(false);
  const asked = text.trim();
  const results = useQuery({
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
  useEffect(() => {
    if (asked) Finding.fetch().catch(() => undefined);
  }, [asked]);
  const hits = asked ? results.data : undefined;
  const options = useMemo(
    () =>
      (hits ?? []).map((hit) => ({
        key: `${hit.kind} ${hit.id}`,
        title: hit.title,
        line: hit.line,
        before: <span className={css.kind}>{hit.kind}</span>,
      })),
    [hits],
  );
  const empty = asked && results.isSuccess && !results.isFetching ? `Nothing holds “${asked}”.` : undefined;
  return (
    <div className={css.box}>
      <Finding
        boxRef={box}
        inHandRef={inHand}
        text={text}
        type={setText}
        options={options}
        empty={empty}
        refused={asked && results.isError ? "The search did not answer. Try again in a moment." : undefined}
        choose={(key) => {
          const [kind, id] = key.split(" ") as [Hit["kind"], string];
          navigate(TO[kind](id));
        }}
      />
    </div>
  );
}
