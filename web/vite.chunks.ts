/** Which modules come in one file. A screen of many small files is slow on a slow phone, where each of them is a link in
 * the page and a question to the cache; one large file brings what nobody needs yet. */
import { join } from "node:path";

/** What the bundler knows of a module. */
interface Graph {
  getModuleInfo(id: string): { importedIds: readonly string[] } | null;
}

const OURS = join(import.meta.dirname, "src/");
/** Libraries that every screen needs: a new version of ours leaves them as they are. */
const BASE =
  /node_modules\/(react|react-dom|scheduler|react-router|@tanstack\/(react-query|query-core)|openapi-fetch|zustand)\//;
/** Files by name, with the modules of ours that they begin from. Each has all that these import statically, libraries
 * too, and that no earlier file has. */
const FILES: readonly (readonly [name: string, from: readonly string[]])[] = [
  // What keeps things on the device, for home and for every inspection.
  ["device", ["api/kept.ts", "inspection/signed.ts", "inspection/desk.ts", "handover/taken.ts"]],
  ["looks", ["ui/Looks.tsx"]],
  ["inspection", ["shell/InspectionScreen.tsx"]],
  ["readings", ["measurements/TestGrid.tsx"]],
];

/** For the bundler: what a group has taken is left to no group of lower priority. */
export const groups = [
  { name: "base", test: BASE, priority: FILES.length + 1 },
  // What comes with the page has a file of its own, so that nothing else is drawn into it.
  { name: "first", tags: ["$initial" as const], priority: FILES.length },
  ...FILES.map(([name, from], at) => {
    let modules: Set<string> | null = null;
    return {
      name: (id: string, graph: Graph) => ((modules ??= reachable(from, graph)).has(id) ? name : null),
      priority: FILES.length - 1 - at,
    };
  }),
];

/** What is asked for together with a file that is fetched later. For an inspection that is all it needs: it may be the
 * first thing that is opened. Anything else mostly lies on the device already, where a link in the page for each file
 * costs a slow phone more than to ask for one after another. */
export const resolveDependencies = (
  file: string,
  needed: string[],
  { hostType }: { hostType: "html" | "js" },
): string[] => (hostType === "html" || /\/(inspection|readings)-/.test(file) ? needed : []);

/** The modules of ours that these import, directly or not. Libraries are not followed: their index names all they have,
 * and the bundler itself adds what is used of them. */
function reachable(from: readonly string[], graph: Graph): Set<string> {
  const there = new Set<string>();
  const left = from.map((path) => join(OURS, path));
  for (let id = left.pop(); id !== undefined; id = left.pop()) {
    if (there.has(id) || !id.startsWith(OURS)) continue;
    const module = graph.getModuleInfo(id);
    if (!module) throw new Error(`There is no module ${id} (vite.chunks.ts).`);
    there.add(id);
    left.push(...module.importedIds);
  }
  return there;
}
