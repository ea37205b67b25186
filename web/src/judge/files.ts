/** The files of the rules: which there are, and whether they are kept on this device. */
import { clearShelf, filesHere, takeFiles } from "../api/shelf";

/** The folder they lie in, their edition, and what each file weighs, bytes (web/rules/pack.mjs). */
export interface Packed {
  folder: string;
  edition: string;
  files: Record<string, number>;
}

const CURRENT = "/rules/current.json";
const SHELF = "rules";
/** The rules that started last here, whatever the server has by now. */
const LAST = "dorrik.rules";

const addresses = ({ folder, files }: Packed): string[] => Object.keys(files).map((name) => `/rules/${folder}/${name}`);

/** What the server has now; without a server, what it had. */
const current = (): Promise<Packed | null> =>
  fetch(CURRENT)
    .then((response) => (response.ok ? (response.json() as Promise<Packed>) : null))
    .catch(() => null);

const startedLast = (): Packed | null => JSON.parse(localStorage.getItem(LAST) ?? "null") as Packed | null;

/** Which can be started: the newest, then those that started here last. */
export async function packedRules(): Promise<Packed[]> {
  const [now, last] = [await current(), startedLast()];
  return [now, last?.folder === now?.folder ? null : last].filter((packed) => packed !== null);
}

/** They started: the next start may take them, and those of other editions leave the device. */
export async function keepStarted(packed: Packed): Promise<void> {
  localStorage.setItem(LAST, JSON.stringify(packed));
  await clearShelf(SHELF, (path) => path === CURRENT || path.startsWith(`/rules/${packed.folder}/`));
}

/** The newest come onto the device, for a day without a server. Fails where one cannot be had. */
export async function takeRulesAlong(): Promise<void> {
  const now = await current();
  if (!now) throw new Error("The rules cannot be had.");
  await takeFiles(SHELF, [CURRENT, ...addresses(now)]);
}

/** Whether the next start finds all of them on this device. */
export async function rulesHere(): Promise<boolean> {
  const packed = startedLast();
  return packed !== null && (await filesHere(SHELF, addresses(packed))).whole;
}
