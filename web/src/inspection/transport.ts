/** The server as an inspection knows it: what is asked of it, and whether it answers this person at all. */
import { create } from "zustand";
import { api, answer, Late, Refused, type Schemas } from "../api/client";
import type { Change } from "./types";

/** ok: it answers; slow: it takes its time; failing: it answers that something is wrong with it; unreachable: it does not;
 * signed-out: not to us. */
export type Reach = "ok" | "slow" | "failing" | "unreachable" | "signed-out";

/** An answer that takes longer is late: that is said, and waited for, milliseconds. */
const SLOW = 4_000;

export const useReach = create<{ reach: Reach }>(() => ({ reach: "ok" }));

export const reach = (): Reach => useReach.getState().reach;

/** Does the server not answer this person, so that what is here has to do? */
export const isAway = (now: Reach): boolean => now === "unreachable" || now === "failing" || now === "signed-out";

const reached = (now: Reach) => reach() !== now && useReach.setState({ reach: now });

/** How often somebody here stopped or began to be signed in: an answer to what was asked before that says nothing of now. */
let turns = 0;

/** Signed in again: what was asked before may be asked once more. */
export function signedIn(): void {
  turns++;
  reached("ok");
}

/** What an answer to something asked at that turn says. Only an answer of its own ends being signed out: while somebody
 * types a password, a server that is slow or away does not take the form from under it. */
function says(now: Reach, asked: number): void {
  if (asked !== turns || (reach() === "signed-out" && now !== "ok")) return;
  if (now === "signed-out") turns++;
  reached(now);
}

/** Whatever comes back says something of the server itself, too. */
async function heard<T>(call: Promise<T>): Promise<T> {
  const asked = turns;
  const late = setTimeout(() => says("slow", asked), SLOW);
  try {
    const result = await call;
    says("ok", asked);
    return result;
  } catch (error) {
    const status = error instanceof Refused ? error.status : 0;
    if (status === 401) says("signed-out", asked);
    else if (status === 0) says(error instanceof Late ? "slow" : "unreachable", asked);
    else if (status >= 500 || status === 429) says("failing", asked);
    else says("ok", asked);
    throw error;
  } finally {
    clearTimeout(late);
  }
}

/** An inspection whole. milliseconds: as long as the answer may take. */
export const fetchInspection = (id: string, milliseconds?: number): Promise<Schemas["InspectionOut"]> =>
  heard(
    answer(
      api.GET("/api/inspections/{inspection_id}", {
        params: { path: { inspection_id: id } },
        ...(milliseconds && { signal: AbortSignal.timeout(milliseconds) }),
      }),
    ),
  );

/** What was kept since a sequence number. */
export const fetchNews = (id: string, since: number): Promise<Schemas["News"]> =>
  heard(
    answer(
      api.GET("/api/inspections/{inspection_id}/changes", {
        params: { path: { inspection_id: id }, query: { since } },
      }),
    ),
  );

/** A batch of changes. judged: the sequence number that the verdicts on this device are of, so that only what differs comes. */
export const sendChanges = (id: string, changes: Change[], judged: number | null): Promise<Schemas["Receipt"]> =>
  heard(
    answer(
      api.POST("/api/inspections/{inspection_id}/changes", {
        params: { path: { inspection_id: id } },
        body: { changes, judged },
      }),
    ),
  );

/** A photo, under the name of its content. */
export const sendPhoto = (id: string, sha256: string, content: Uint8Array<ArrayBuffer>): Promise<unknown> =>
  heard(
    answer(
      api.PUT("/api/inspections/{inspection_id}/photos/{sha256}", {
        params: { path: { inspection_id: id, sha256 } },
        body: content as never,
        bodySerializer: (body: unknown) => body as Uint8Array<ArrayBuffer>,
        headers: { "Content-Type": "application/octet-stream" },
      }),
    ),
  );

/** A signature for an inspection as it stood on a device. */
export const sendSigned = (id: string, signed: Schemas["SubmitIn"]): Promise<Schemas["ReviewOut"]> =>
  heard(
    answer(
      api.POST("/api/inspections/{inspection_id}/review/submit", {
        params: { path: { inspection_id: id } },
        body: signed,
      }),
    ),
  );

/** This device judged otherwise than the server, of the same state: written down there. */
export const tellDifference = (id: string, seq: number, parts: string[]): Promise<unknown> =>
  heard(
    answer(
      api.POST("/api/inspections/{inspection_id}/rule-differences", {
        params: { path: { inspection_id: id } },
        body: { seq, parts },
      }),
    ),
  );
