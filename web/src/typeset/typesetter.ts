/** Typesets papers on this device, in a thread that begins when it is first asked and ends when nothing more comes. */
import type { Asked, Job, Told } from "./messages";
import { type Page, pagesOf } from "./pages";

/** A paper that takes longer is not set any more, milliseconds. */
const PATIENCE = 60_000;
/** So long without a job, and the thread ends: it keeps some hundred megabytes. */
const IDLE = 60_000;

let worker: Worker | undefined;
let next = 1;
let idle: ReturnType<typeof setTimeout> | undefined;
const waiting = new Map<number, { done(svg: string): void; fail(error: Error): void }>();

/** The pages of a paper, as drawings. Fails where the typesetter is not on this device, or cannot set it. */
export async function typeset(job: Job): Promise<Page[]> {
  return pagesOf(await ask(job));
}

function ask(job: Job): Promise<string> {
  clearTimeout(idle);
  worker ??= begin();
  const n = next++;
  const mine = worker;
  return new Promise<string>((done, fail) => {
    const clock = setTimeout(() => end(new Error("The paper was not set in time.")), PATIENCE);
    const over = (then: () => void) => {
      clearTimeout(clock);
      waiting.delete(n);
      if (!waiting.size) idle = setTimeout(() => end(new Error("Ended.")), IDLE);
      then();
    };
    waiting.set(n, {
      done: (svg) => over(() => done(svg)),
      fail: (error) => over(() => fail(error)),
    });
    mine.postMessage({ n, job } satisfies Asked);
  });
}

function begin(): Worker {
  const thread = new Worker(new URL("./worker.ts", import.meta.url), { type: "module" });
  thread.onmessage = ({ data }: MessageEvent<Told>) => {
    const asked = waiting.get(data.n);
    if ("error" in data) asked?.fail(new Error(data.error));
    else asked?.done(data.svg);
  };
  thread.onerror = (event) => end(new Error(event.message || "The typesetter stopped."));
  return thread;
}

function end(why: Error): void {
  clearTimeout(idle);
  worker?.terminate();
  worker = undefined;
  for (const { fail } of [...waiting.values()]) fail(why);
}
