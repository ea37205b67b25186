/** Carries one thing after the other until nothing is left; after a failure it waits, longer each time. */

const PAUSES = [500, 1000, 2000, 5000, 10_000];

/** step: takes the next thing; "later" asks for a pause first. */
export function courier(step: () => Promise<"sent" | "nothing" | "later">): { wake(): void } {
  let running = false;
  let again = false;
  let failed = 0;
  let pause: ReturnType<typeof setTimeout> | undefined;

  async function run(): Promise<void> {
    running = true;
    clearTimeout(pause);
    let done: "sent" | "nothing" | "later" = "sent";
    while (done === "sent") {
      again = false;
      // Whatever goes wrong in one step, the next one is tried: what waits is never stuck behind it.
      done = await step().catch(() => "later" as const);
      if (done !== "later") failed = 0;
      // Something came while it looked and found nothing.
      if (done === "nothing" && again) done = "sent";
    }
    running = false;
    if (done === "later") pause = setTimeout(wake, PAUSES[Math.min(failed++, PAUSES.length - 1)]);
  }

  function wake(): void {
    again = true;
    if (!running) void run();
  }

  return { wake };
}
