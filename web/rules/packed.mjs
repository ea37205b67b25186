/** Python in Node as a device has it: what was packed last, with its memory and no files. */
import { readFileSync } from "node:fs";

const OUT = new URL("../dist-rules/", import.meta.url);

export async function packedPython() {
  const { folder } = JSON.parse(readFileSync(new URL("current.json", OUT), "utf8"));
  const place = new URL(`${folder}/`, OUT);
  const { loadPyodide } = await import(new URL("pyodide.mjs", place));
  const { withRoomFor } = await import(new URL("room.mjs", place));
  const memory = new Uint8Array(readFileSync(new URL("rules.memory", place)));
  return loadPyodide({ _loadSnapshot: memory, createPyodideModule: await withRoomFor(memory.length) });
}
