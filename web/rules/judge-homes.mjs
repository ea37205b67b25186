/** Judges with what is shipped to devices, in Node: each line of the input is a list of questions about one home,
 * [what, text]; each line of the output the digests of the answers. For the tests that hold it against the server. */
import { createHash } from "node:crypto";
import { readFileSync } from "node:fs";
import { createInterface } from "node:readline";
import { pathToFileURL } from "node:url";

const OUT = new URL("../dist-rules/", import.meta.url);
const { folder } = JSON.parse(readFileSync(new URL("current.json", OUT), "utf8"));
const place = new URL(`${folder}/`, OUT);
const { loadPyodide } = await import(new URL("pyodide.mjs", place));
const python = await loadPyodide({ _loadSnapshot: new Uint8Array(readFileSync(new URL("rules.memory", place))) });
const answer = python.globals.get("answer");
const digest = (text) => createHash("sha256").update(text).digest("hex");
for await (const line of createInterface({ input: process.stdin }))
  process.stdout.write(`${JSON.stringify(JSON.parse(line).map(([what, text]) => digest(answer(what, text))))}\n`);
process.exit(0);
