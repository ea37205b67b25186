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
export function coreFiles() {
  const paths = [join(ROOT, "dorrik/__init__.py"), ...walk(join(ROOT, "dorrik/core"))];
  const files = paths.map((path) => ({
    name: relative(ROOT, path).split(sep).join("/"),
    content: readFileSync(path),
  }));
  return files.sort((a, b) => (a.name < b.name ? -1 : a.name > b.name ? 1 : 0));
}

export function edition(files = coreFiles()) {
  const hash = createHash("sha256");
  for (const { name, content } of files) hash.update(`${name}\0${content.length}\0`).update(content);
  return hash.digest("hex").slice(0, 16);
}
