/** Parts of the application that come with their own looks: whoever draws a part of the component library brings it. */
import { expect, it } from "vitest";

const SOURCES = import.meta.glob<string>("../**/*.{ts,tsx}", { query: "?raw", import: "default", eager: true });
const LIBRARY = "@chakra-ui/react";
/** What stands on its own, without a screen of the component library around it. */
const PLAIN = ["../main.tsx", "../App.tsx", "../shell/InspectionScreen.tsx", "../measurements/TestGrid.tsx"];
/** Drawn in the frame of a popover alone, which has its looks. */
const FRAMED = ["../shell/Positions.tsx", "../fields/History.tsx"];

const STATIC = /^(?:import|export)\s+(?!type\s)(?:[^;"]*?\sfrom\s+)?"([^"]+)"/gm;
/** A part that is fetched when it is shown, without `withLooks`. */
const BARE = /loaded\(\s*[^,]+,\s*\(\)\s*=>\s*import\("([^"]+)"\)/g;

function source(from: string, named: string): string | undefined {
  const url = new URL(named, `file:///src/ui/${from}`).pathname.replace("/src/", "../").replace("../ui/", "./");
  return [url, `${url}.ts`, `${url}.tsx`].find((path) => path in SOURCES);
}

/** The modules that these import, and how each was reached; the library by its own name. */
function reached(from: readonly string[]): Map<string, string> {
  const by = new Map<string, string>(from.map((path) => [path, ""]));
  for (const path of by.keys())
    for (const [, named = ""] of (SOURCES[path] ?? "").matchAll(STATIC)) {
      const next = named === LIBRARY ? named : named.startsWith(".") ? source(path, named) : undefined;
      if (next && !by.has(next)) by.set(next, path);
    }
  return by;
}

function way(by: Map<string, string>): string {
  const steps = [LIBRARY];
  for (let at = by.get(LIBRARY); at; at = by.get(at)) steps.push(at);
  return steps.join(" < ");
}

it("what is drawn first reaches all it names, and no component library", () => {
  const by = reached(PLAIN);
  expect(by.size).toBeGreaterThan(100);
  expect(by.has(LIBRARY) ? way(by) : "plain").toBe("plain");
  expect(reached(["./Looks.tsx"]).has(LIBRARY)).toBe(true);
});

it("what it fetches later without looks is plain as well", () => {
  const bare: string[] = [];
  const left = [...PLAIN];
  const seen = new Set<string>();
  for (let root = left.pop(); root; root = left.pop()) {
    if (seen.has(root)) continue;
    seen.add(root);
    const by = reached([root]);
    if (by.has(LIBRARY)) bare.push(way(by));
    else
      for (const path of by.keys())
        for (const [, named = ""] of (SOURCES[path] ?? "").matchAll(BARE)) {
          const part = source(path, named);
          expect(part, `${path} fetches ${named}`).toBeTruthy();
          if (part && !FRAMED.includes(part)) left.push(part);
        }
  }
  expect(bare).toEqual([]);
});
