/** The files of the rules (dorrik/core), and a digest that names their edition: the same on the server
 * (dorrik/api/rules_edition.py), so that it is known whether a device judges by the same. */
import { createHash } from "node:crypto";
import { readdirSync, readFileSync } from "node:fs";
import { join, relative, sep } from "node:path";
import { fileURLToPath } from "node:url";

export const ROOT = fileURLToPath(new URL("../..", import.meta.url));
const KINDS = /\.(py|csv|toml)$/;
/** A folder of what Python or a checker keeps for itself. */
const ASIDE = /^(__pycache__|\..*)$/;

function* walk(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    if (ASIDE.test(entry.name)) continue;
    const path = join(folder, entry.name);
    if (entry.isDirectory()) yield* walk(path);
    else if (KINDS.test(entry.name)) yield path;
  }
}

/** Name (as in the package) and content of each file, in the order of their names. */
function read(paths) {
  const files = paths.map((path) => ({
    name: relative(ROOT, path).split(sep).join("/"),
    content: readFileSync(path),
  }));
  return files.sort((a, b) => (a.name < b.name ? -1 : a.name > b.name ? 1 : 0));
}

export const coreFiles = () => read([join(ROOT, "dorrik/__init__.py"), ...walk(join(ROOT, "dorrik/core"))]);

/** What words drafts of papers on a device. It judges nothing, so that it makes no other edition. */
const PAPERS = ["report/__init__.py", "report/device_papers.py", "report/drawn.py", "report/qr_code.py"];
const PICTURES = ["pictures/__init__.py", "pictures/drawn_marks.py"];
const ROOMS = ["report/content", "report/letters"];

export const paperFiles = () =>
  read([
    ...[...PAPERS, ...PICTURES].map((name) => join(ROOT, "dorrik", name)),
    ...ROOMS.flatMap((room) => [...walk(join(ROOT, "dorrik", room))]),
  ]);

export function edition(files = coreFiles()) {
  return digest(files).slice(0, 16);
}

export function digest(files) {
  const hash = createHash("sha256");
  for (const { name, content } of files) hash.update(`${name}\0${content.length}\0`).update(content);
  return hash.digest("hex");
}
