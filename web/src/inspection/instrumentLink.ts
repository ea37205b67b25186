/** An instrument that is linked over a WebSocket of this device (docs/instrument-link.md): pairs, listens, comes back after a drop-out. */
import { type Heard, listenTo, type ReadingSource, type Shown, TYPED, useReadingSource } from "./readingSource";

export interface Instrument {
  name: string;
  serial: string;
  kind: string;
}

/** Where the instrument's program listens, if nothing else is said. */
export const USUAL_ADDRESS = "ws://127.0.0.1:8787";
const VERSION = 1;
/** An instrument that says nothing for so long is out of reach, milliseconds. */
const SILENCE = 6000;
const AGAIN = [500, 1000, 2000, 4000];
/** So many readings are remembered, so that one that is sent twice counts once. */
const REMEMBERED = 500;
/** So long a display may lie behind or ahead of this device's clock, milliseconds. */
const ABOUT_NOW = 120_000;
const LONGEST = 4096;
/** What a display shows: a figure, a bound, or over range. */
const FIGURE = /^(?:[<>≤≥]?\d{1,6}(?:[.,]\d{1,4})?|OL)$/;

/** Pair with an instrument by the code on its screen. Rejects with words for the person. */
export async function pair(
  address: string,
  code: string,
  known: (instrument: Instrument) => string,
): Promise<Instrument> {
  const to = addressOf(address);
  if (!to) throw new Error(`${address} is no address of an instrument on this device, such as ${USUAL_ADDRESS}.`);
  const { socket, instrument, token } = await greet(to, { code });
  remember({ address: to, token });
  listenTo(linked(to, socket, instrument, token, () => known(instrument)));
  return instrument;
}

/** After a reload: the instrument that this tab was paired with, if it is still there. */
export async function pairAgain(known: (instrument: Instrument) => string): Promise<void> {
  const before = remembered();
  if (!before || useReadingSource.getState().source.kind === "linked") return;
  try {
    const { socket, instrument, token } = await greet(before.address, { token: before.token });
    listenTo(linked(before.address, socket, instrument, token, () => known(instrument)));
  } catch {
    remember(null);
  }
}

export function unlink(): void {
  remember(null);
  listenTo(TYPED);
}

const KEPT = "dorrik.instrument";

/** For this tab alone, as long as it is open. */
function remember(pairing: { address: string; token: string } | null): void {
  try {
    if (pairing) sessionStorage.setItem(KEPT, JSON.stringify(pairing));
    else sessionStorage.removeItem(KEPT);
  } catch {
    // Without a place to keep it the code is asked for again.
  }
}

function remembered(): { address: string; token: string } | null {
  try {
    const { address, token } = read(sessionStorage.getItem(KEPT));
    return words(address) && words(token) ? { address: words(address), token: words(token) } : null;
  } catch {
    return null;
  }
}

/** The address with its path; null where it is none, or not of this device: no other can be linked. */
export function addressOf(typed: string): string | null {
  try {
    const url = new URL(/^wss?:\/\//.test(typed.trim()) ? typed.trim() : `ws://${typed.trim()}`);
    return ["127.0.0.1", "localhost"].includes(url.hostname) ? `ws://${url.host}/link` : null;
  } catch {
    return null;
  }
}

interface Greeted {
  socket: WebSocket;
  instrument: Instrument;
  token: string;
}

/** Open a connection and be let in. */
function greet(address: string, proof: { code: string } | { token: string }): Promise<Greeted> {
  return new Promise((resolve, reject) => {
    const gone = "No instrument answers there. Is its program running on this device?";
    const socket = new WebSocket(address);
    const patience = setTimeout(() => socket.close(), SILENCE);
    const fail = (says: string) => {
      clearTimeout(patience);
      socket.onclose = socket.onerror = socket.onmessage = null;
      socket.close();
      reject(new Error(says));
    };
    socket.onopen = () => socket.send(JSON.stringify({ type: "pair", version: VERSION, ...proof }));
    socket.onclose = socket.onerror = () => fail(gone);
    socket.onmessage = ({ data }) => {
      const message = read(data);
      if (message.type === "refused") return fail(`Not paired: ${words(message.says) || "the instrument refused."}`);
      const token = words(message.token);
      if (message.type !== "paired" || message.version !== VERSION || !token)
        return fail("What answers there is no instrument of this kind.");
      clearTimeout(patience);
      socket.onclose = socket.onerror = null;
      const { name, serial, kind } = (message.instrument ?? {}) as Record<string, unknown>;
      resolve({
        socket,
        token,
        instrument: { name: words(name) || "Instrument", serial: words(serial), kind: words(kind) },
      });
    };
  });
}

function linked(
  address: string,
  first: WebSocket,
  { name }: Instrument,
  token: string,
  instrumentId: () => string,
): ReadingSource {
  let socket = first;
  let waits: Parameters<NonNullable<ReadingSource["waits"]>>[0] = null;
  const tell = () => {
    if (socket.readyState === WebSocket.OPEN)
      socket.send(JSON.stringify({ type: "focus", says: waits?.says ?? "", function: waits?.function ?? "" }));
  };
  return {
    kind: "linked",
    name,
    instrumentId,
    waits(focus) {
      waits = focus;
      tell();
    },
    listen(heard) {
      let over = false;
      let tries = 0;
      let silence: ReturnType<typeof setTimeout> | undefined;
      let again: ReturnType<typeof setTimeout> | undefined;
      const seen: string[] = [];
      const hear = (on: WebSocket) => {
        socket = on;
        tries = 0;
        const alive = () => {
          clearTimeout(silence);
          silence = setTimeout(() => on.close(), SILENCE);
        };
        alive();
        on.onmessage = ({ data }) => {
          alive();
          take(read(data), seen, heard, finish, name);
        };
        on.onclose = () => {
          clearTimeout(silence);
          if (over) return;
          heard.told("away", `${name} is out of reach; it is looked for.`);
          later();
        };
        heard.told("linked");
        tell();
      };
      const later = () => {
        again = setTimeout(
          async () => {
            try {
              const back = await greet(address, { token });
              if (over) back.socket.close();
              else hear(back.socket);
            } catch (error) {
              const says = error instanceof Error ? error.message : "";
              if (over) return;
              if (says.startsWith("Not paired")) finish(says);
              else later();
            }
          },
          AGAIN[Math.min(tries++, AGAIN.length - 1)],
        );
      };
      const stop = () => {
        over = true;
        clearTimeout(silence);
        clearTimeout(again);
        socket.close();
      };
      const finish = (says: string) => {
        stop();
        heard.told("ended", says);
      };
      hear(socket);
      return stop;
    },
  };
}

/** One message of the instrument. What is no reading is told, and nothing of it is taken. */
function take(
  message: Record<string, unknown>,
  seen: string[],
  heard: Heard,
  finish: (says: string) => void,
  name: string,
): void {
  switch (message.type) {
    case "alive":
      return;
    case "measuring":
      return heard.measuring(true);
    case "nothing":
      heard.measuring(false);
      if (words(message.says)) heard.told("linked", `${name}: ${words(message.says)}`);
      return;
    case "next":
      return heard.next();
    case "refused":
      return finish(words(message.says) || `${name} has ended the link.`);
    case "reading": {
      const id = words(message.id);
      const shown = shownIn(message);
      if (!id || !shown) break;
      if (seen.includes(id)) return;
      seen.push(id);
      if (seen.length > REMEMBERED) seen.shift();
      return heard.give(shown);
    }
  }
  heard.told("linked", `${name} sent something that is no reading. Nothing was entered.`);
}

function shownIn(message: Record<string, unknown>): Shown | null {
  const text = words(message.value).trim();
  const unit = words(message.unit);
  const key = words(message.function);
  if (!FIGURE.test(text) || !key || !unit) return null;
  const at = new Date(words(message.at));
  const now = new Date();
  const lost = Number.isNaN(at.getTime()) || Math.abs(at.getTime() - now.getTime()) > ABOUT_NOW;
  const volts = typeof message.volts === "number" ? message.volts : undefined;
  return { text, unit, function: key, volts, at: (lost ? now : at).toISOString() };
}

function read(data: unknown): Record<string, unknown> {
  if (typeof data !== "string" || data.length > LONGEST) return {};
  try {
    const message: unknown = JSON.parse(data);
    return message !== null && typeof message === "object" && !Array.isArray(message)
      ? (message as Record<string, unknown>)
      : {};
  } catch {
    return {};
  }
}

/** Words of at most so many letters, without what steers a terminal; nothing where it is no text. */
function words(value: unknown): string {
  return typeof value === "string" ? value.replace(/\p{C}/gu, "").slice(0, 200) : "";
}
