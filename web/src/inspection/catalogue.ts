/** The catalogue as the open inspection has it: the built-in entries, with the firm's own laid over them. */
import { useMemo } from "react";
import type { CatalogueEntry } from "../api/client";
import { useReference } from "../api/reference";
import { useInspection } from "./open";

const NONE: CatalogueEntry[] = [];

export function useCatalogue(): readonly CatalogueEntry[] {
  const builtIn = useReference()?.catalogue ?? NONE;
  const own = useInspection((s) => s.model?.judgement?.own_entries) ?? NONE;
  return useMemo(() => {
    if (own.length === 0) return builtIn;
    const by = new Map(own.map((entry) => [entry.key, entry]));
    const changed = builtIn.map((entry) => by.get(entry.key) ?? entry);
    const known = new Set(builtIn.map((entry) => entry.key));
    return [...changed, ...own.filter((entry) => !known.has(entry.key))];
  }, [builtIn, own]);
}

/** Entries that every word typed is found in, those in `first` before the others, in that order. */
export function matching(
  catalogue: readonly CatalogueEntry[],
  text: string,
  first: readonly string[],
): readonly CatalogueEntry[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const says = (e: CatalogueEntry) => `${e.title} ${e.group} ${e.plain} ${e.words}`.toLowerCase();
  const place = new Map(first.map((key, at) => [key, at]));
  const rank = (e: CatalogueEntry) => place.get(e.key) ?? first.length;
  return catalogue
    .filter((entry) => words.every((word) => says(entry).includes(word)))
    .map((entry, at) => ({ entry, at }))
    .sort((a, b) => rank(a.entry) - rank(b.entry) || a.at - b.at)
    .map(({ entry }) => entry);
}
