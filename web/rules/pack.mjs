/** Packs the rules for devices: Python for the browser, and its memory as it is once the rules are imported.
 *
 * A device that takes the memory over has the rules at once; importing them there takes some ten times as long. What is
 * made lies in dist-rules/, in a folder named after the edition; current.json says which that is.
 */
import { createHash } from "node:crypto";
import { copyFileSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { brotliCompressSync, constants, gzipSync } from "node:zlib";
import { digest, edition, paperFiles } from "./core-files.mjs";
import { pythonWithRules } from "./python.mjs";

const OUT = fileURLToPath(new URL("../dist-rules", import.meta.url));
const PYODIDE = fileURLToPath(new URL("../node_modules/pyodide", import.meta.url));
/** What starting Python in a browser fetches. */
const FILES = ["pyodide.mjs", "pyodide.asm.mjs", "pyodide.asm.wasm", "python_stdlib.zip", "pyodide-lock.json"];
const { version } = JSON.parse(readFileSync(`${PYODIDE}/package.json`, "utf8"));

const rules = edition();
const how = createHash("sha256").update(digest(paperFiles()));
for (const name of ["pack.mjs", "python.mjs", "rehearsal.py", "room.mjs", "warm-up.json"])
  how.update(readFileSync(new URL(name, import.meta.url)));
const name = `${rules}-${version}-${how.digest("hex").slice(0, 8)}`;
const folder = `${OUT}/${name}`;

rmSync(OUT, { recursive: true, force: true });
mkdirSync(folder, { recursive: true });
for (const file of FILES) copyFileSync(`${PYODIDE}/${file}`, `${folder}/${file}`);
copyFileSync(new URL("room.mjs", import.meta.url), `${folder}/room.mjs`);
const python = await pythonWithRules({ _makeSnapshot: true });
writeFileSync(`${folder}/rules.memory`, python.makeMemorySnapshot());

/** As small as it gets in a few seconds: it is made anew whenever a rule changes. */
const params = { [constants.BROTLI_PARAM_QUALITY]: 7, [constants.BROTLI_PARAM_LGWIN]: 24 };
const files = {};
for (const file of readdirSync(folder)) {
  const path = `${folder}/${file}`;
  files[file] = statSync(path).size;
  if (file.endsWith(".zip")) continue;
  const plain = readFileSync(path);
  writeFileSync(`${path}.br`, brotliCompressSync(plain, { params }));
  writeFileSync(`${path}.gz`, gzipSync(plain, { level: 6 }));
}
writeFileSync(`${OUT}/current.json`, JSON.stringify({ folder: name, edition: rules, files }));
// Python in Node holds the process open.
process.exit(0);
