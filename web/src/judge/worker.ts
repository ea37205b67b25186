/** The rules, which are Python, in a thread of their own: nothing that a person does waits for them. */
import type { Asked, Told } from "./messages";

interface Python {
  globals: { get(name: string): unknown };
  _module: { HEAPU8: Uint8Array };
}
interface Pyodide {
  loadPyodide(options: { indexURL: string; _loadSnapshot: ArrayBuffer; createPyodideModule: unknown }): Promise<Python>;
}
/** web/rules/room.mjs */
interface Room {
  withRoomFor(bytes: number): Promise<unknown>;
}

const thread = self as unknown as { onmessage: (event: { data: Asked }) => void; postMessage(told: Told): void };
let python: Python;
let answer: (what: string, text: string) => string;

/** Python, with its memory as it was once the rules were imported (web/rules/pack.mjs). */
async function start(folder: string): Promise<void> {
  const place = `/rules/${folder}/`;
  const memory = fetch(`${place}rules.memory`).then((response) => {
    if (!response.ok) throw new Error(`The rules are not there (${response.status}).`);
    return response.arrayBuffer();
  });
  const [{ loadPyodide }, { withRoomFor }, there] = await Promise.all([
    import(/* @vite-ignore */ `${place}pyodide.mjs`) as Promise<Pyodide>,
    import(/* @vite-ignore */ `${place}room.mjs`) as Promise<Room>,
    memory,
  ]);
  const createPyodideModule = await withRoomFor(there.byteLength);
  python = await loadPyodide({ indexURL: place, _loadSnapshot: there, createPyodideModule });
  answer = python.globals.get("answer") as typeof answer;
  // The first figures are then judged as quickly as those that follow (web/rules/rehearsal.py).
  (python.globals.get("rehearse") as () => void)();
}

/** Python goes on after what it raised itself. Anything else, and memory that is not to be had, has broken it. */
function goesOn(error: unknown): boolean {
  const { name, type } = error as { name?: string; type?: string };
  return name === "PythonError" && type !== "MemoryError";
}

// In their order: a question that comes while the rules start waits for them.
let before: Promise<unknown> = Promise.resolve();
thread.onmessage = ({ data }) => {
  before = before.then(async () => {
    try {
      const began = performance.now();
      let text = "";
      if ("start" in data) await start(data.start);
      else text = answer(data.what, data.text);
      thread.postMessage({ n: data.n, text, took: performance.now() - began, heap: python._module.HEAPU8.length });
    } catch (error) {
      thread.postMessage({ n: data.n, error: String(error), goesOn: goesOn(error) });
    }
  });
};
