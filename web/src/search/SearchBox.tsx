/** Finds clients, properties, jobs and inspections by any part of a name, an address or a number. */
import { Box } from "@chakra-ui/react";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { api, answer, type Schemas } from "../api/client";
import { loaded } from "../ui/Loaded";
import { FindField, type FindProps } from "./FindField";

type Hit = Schemas["HitOut"];

const TO: Record<Hit["kind"], (id: string) => string> = {
  client: (id) => `/client/${id}`,
  property: (id) => `/property/${id}`,
  job: (id) => `/job/${id}`,
  inspection: (id) => `/inspection/${id}/brief`,
};

/** The list that opens comes after the first picture; what is typed before stands in its field. */
const Finding = loaded<FindProps>(null, () => import("./Finding").then((m) => m.default), FindField);

export function SearchBox() {
  const navigate = useNavigate();
  const [text, setText] = useState("");
  const box = useRef<HTMLInputElement>(null);
  const inHand = useRef(false);
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
  const hits = asked ? found.data : undefined;
  const options = useMemo(
    () =>
      (hits ?? []).map((hit) => ({
        key: `${hit.kind} ${hit.id}`,
        title: hit.title,
        line: hit.line,
        before: (
          <Box as="span" width="5.6rem" flex="none" color="quiet" fontSize="sm">
            {hit.kind}
          </Box>
        ),
      })),
    [hits],
  );
  const empty = asked && found.isSuccess && !found.isFetching ? `Nothing holds “${asked}”.` : undefined;
  return (
    <Box mb="5" fontSize="lg">
      <Finding
        boxRef={box}
        inHandRef={inHand}
        text={text}
        type={setText}
        options={options}
        empty={empty}
        refused={asked && found.isError ? "The search did not answer. Try again in a moment." : undefined}
        choose={(key) => {
          const [kind, id] = key.split(" ") as [Hit["kind"], string];
          navigate(TO[kind](id));
        }}
      />
    </Box>
  );
}
