/** What the server says, kept on this device for the next time. The first picture does not wait for what keeps it. */
import { isNew, useAsKept } from "./asKept";
import { Refused } from "./client";
import { sinceForgotten } from "./forgotten";

/** So long an answer may take where an earlier one is at hand, milliseconds. */
const PATIENCE = 4000;

const onDevice = () => import("./kept");

/** What the server says; what it said last where it cannot be reached, or not in good time.
 *
 * name: what it is kept under. Throws what `ask` throws where nothing is kept, and where the server refused.
 */
export async function remembered<T>(name: string, ask: () => Promise<T>): Promise<T> {
  const stillHere = sinceForgotten();
  const asked = ask().then((value) => {
    // Whoever signed out while it was on its way leaves nothing behind.
    void onDevice()
      .then(({ keepAnswer }) => (stillHere() ? keepAnswer(name, value) : undefined))
      .catch(() => undefined);
    isNew(name);
    return value;
  });
  const earlier = onDevice()
    .then(({ keptAnswer }) => keptAnswer<T>(name))
    .catch(() => undefined);
  let over: ReturnType<typeof setTimeout> | undefined;
  const asKept = async (): Promise<T> => {
    const kept = await earlier;
    if (!kept) return asked;
    useAsKept.setState({ [name]: kept.at });
    return kept.value;
  };
  const late = new Promise<T>((done, fail) => {
    over = setTimeout(() => asKept().then(done, fail), PATIENCE);
  });
  return Promise.race([asked, late])
    .catch((error: unknown) => {
      // It answered, and it said no: that counts.
      if (error instanceof Refused && error.status < 500) throw error;
      return asKept();
    })
    .finally(() => clearTimeout(over));
}
