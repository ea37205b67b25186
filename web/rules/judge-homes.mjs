/** Judges with what is shipped to devices, in Node: each line of the input is a list of questions about one home,
 * [what, text]; each line of the output the digests of the answers. For the tests that hold it against the server. */
import { createHash } from "node:crypto";
import { createInterface } from "node:readline";
import { packedPython } from "./packed.mjs";

const answer = (await packedPython()).globals.get("answer");
const digest = (text) => createHash("sha256").update(text).digest("hex");
// What Python says of an error, without the source of everything that it went through.
process.on("uncaughtException", (error) => {
  process.stderr.write(String(error.message ?? error));
  process.exit(1);
});
for await (const line of createInterface({ input: process.stdin }))
  process.stdout.write(`${JSON.stringify(JSON.parse(line).map(([what, text]) => digest(answer(what, text))))}\n`);
process.exit(0);
