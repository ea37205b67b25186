/** The typed client: paths and types come from the server's own contract (docs/openapi.json). */
import createClient from "openapi-fetch";
import { hearEdition } from "./rulesEdition";
import type { components, paths } from "./schema.gen";

export type Schemas = components["schemas"];
export type Me = Schemas["Me"];
export type Note = Schemas["NoteView"];
export type Judgement = Schemas["JudgementView"];
export type Stage = Schemas["StageProgress"]["stage"];
export type Status = Note["status"];
export type FieldSpec = Schemas["FieldOut"];
export type CatalogueEntry = Schemas["CatalogueView"];

export const api = createClient<paths>({ baseUrl: "/" });

/** Told when the server says that nobody is signed in: the session was ended elsewhere, or its time is over. */
export const sessionEnded = new EventTarget();
/** Where such an answer says something else: a wrong password, a link that is spent. */
const OF_STRANGERS = /^\/api\/(session|links|shared|account\/forgotten)\b/;

/** Whom this page shows as signed in: the server answers nobody else's page, as where another window has signed in
 * somebody else since. */
let shownAs = "";

export function showAs(me: Me | null): void {
  shownAs = me?.id ?? "";
}

/** What every request of this page says of it. */
export const ofThisPage = (): Record<string, string> => (shownAs ? { "Dorrik-Person": shownAs } : {});

api.use({
  onRequest({ request }) {
    if (OF_STRANGERS.test(new URL(request.url).pathname)) return;
    for (const [name, value] of Object.entries(ofThisPage())) request.headers.set(name, value);
  },
  async onResponse({ request, response }) {
    hearEdition(response.headers);
    const stranger = OF_STRANGERS.test(new URL(request.url).pathname);
    if (response.status !== 401 || stranger) return;
    const { code } = (await response
      .clone()
      .json()
      .catch(() => ({}))) as { code?: string };
    // Somebody else's session goes on: what their page keeps on this device stays.
    if (code !== "somebody-else") sessionEnded.dispatchEvent(new Event("ended"));
  },
});

/** The server answered, but not with what was asked for. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly body: unknown = null,
  ) {
    super(message);
  }
}

/** No answer came: no connection, or nobody at the other end. */
export class Unreachable extends Error {
  constructor(cause?: unknown) {
    super("The server cannot be reached.", { cause });
  }
}

/** No answer came in the time that was given it: the server may be busy, and have it yet. */
export class Late extends Unreachable {
  constructor(cause?: unknown) {
    super(cause);
    this.message = "The server is slow to answer.";
  }
}

const isLate = (cause: unknown) => cause instanceof DOMException && cause.name === "TimeoutError";

/** The data of an answer. Throws Refused with the server's own words, Unreachable where none came, Late where it did not
 * come in time. */
export async function answer<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  const { data, error, response } = await call.catch((cause: unknown) => {
    throw isLate(cause) ? new Late(cause) : new Unreachable(cause);
  });
  if (response.ok) return data as T;
  const message = (error as { message?: string } | undefined)?.message;
  throw new Refused(response.status, message ?? "The server did not answer as expected.", error);
}
