/** Python in Node with the rules in it, as a device has it: for packing, and for holding both against each other. */
import { existsSync, readdirSync, readFileSync } from "node:fs";
import { loadPyodide } from "pyodide";
import { coreFiles, paperFiles, ROOT } from "./core-files.mjs";

const PLACE = "/rules";
/** What the worker calls (src/judge/worker.ts). A device has no files: every table is read before its memory is packed. The collector looks through everything again and again otherwise,
 * and finds nothing: what a judge lets go of it takes apart by itself. */
const START = `
import sys
sys.path.insert(0, "${PLACE}")
import gc
gc.set_threshold(200_000, 20, 1_000)
from dorrik.core.book import reference
from dorrik.core.judging.device_judge import DeviceJudge
import zoneinfo
zoneinfo.reset_tzpath([sys.path[0] + "/zones"])
from dorrik.report.device_papers import DevicePapers
reference.read_all()
`;
/** Judges what has everything in it once, so that all that is imported, read and compiled on the way is there. */
const WARM_UP = `
import json
def warm_up(text):
    from dorrik.core.inspection.document import parse
    from dorrik.core.judging.judgement import judge
    from dorrik.core.judging.lasting_judge import LastingJudge
    from dorrik.core.judging.wire.judgement import as_json
    for one in json.loads(text):
        home = parse(one)
        json.dumps(as_json(judge(home)), ensure_ascii=False, separators=(",", ":"))
        lasting = LastingJudge()
        as_json(lasting.judge(home), frozenset(), lasting.written)
        lasting.forget()
warm_up(WARM_UP_TEXT)
del warm_up, WARM_UP_TEXT
rehearse(2)
device = DeviceJudge()
papers = DevicePapers(device)
def answer(what, text):
    return papers.answer(text) if what == "paper" else device.answer(what, text)
import gc
gc.collect()
gc.freeze()
`;

/** The clock by which papers tell moments (dorrik/report/content/words.py). */
const CLOCK = "Europe/London";

/** As the server's Python has it, from the package that is installed with it; else as the system has it. */
function clockFile() {
  const libraries = `${ROOT}.venv/lib`;
  const packages = existsSync(libraries)
    ? readdirSync(libraries).map((python) => `${libraries}/${python}/site-packages/tzdata/zoneinfo/${CLOCK}`)
    : [];
  const clock = [...packages, `/usr/share/zoneinfo/${CLOCK}`].find((path) => existsSync(path));
  if (!clock) throw new Error(`There is no clock of ${CLOCK} here: install tzdata.`);
  return clock;
}

export async function pythonWithRules(options = {}) {
  const clock = { name: `zones/${CLOCK}`, content: readFileSync(clockFile()) };
  const python = await loadPyodide(options);
  for (const { name, content } of [...coreFiles(), ...paperFiles(), clock]) {
    const path = `${PLACE}/${name}`;
    python.FS.mkdirTree(path.slice(0, path.lastIndexOf("/")));
    python.FS.writeFile(path, new Uint8Array(content));
  }
  python.runPython(START);
  python.runPython(readFileSync(new URL("./rehearsal.py", import.meta.url), "utf8"));
  python.globals.set("WARM_UP_TEXT", readFileSync(new URL("./warm-up.json", import.meta.url), "utf8"));
  python.runPython(WARM_UP);
  return python;
}
