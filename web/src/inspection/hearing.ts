/** News of the open inspection: the server says when there is something, and where it does not say it is asked. */

/** So often it is asked while nothing is heard of it, and while the stream is there, milliseconds. */
const OFTEN = 3_000;
const SELDOM = 60_000;
/** The server says so often that it lives; after so long without a word its stream counts as lost. */
const SILENCE = 40_000;
/** What was sent from here is told by its own answer: news wait so long for that. */
const OWN = 250;
/** A stream that the server refused is asked for again after so long. */
const AGAIN = 15_000;

interface Heard {
  /** The last sequence number that is known here. */
  seq: () => number;
  /** Ask the server what is new. */
  ask: () => void;
}

const visible = () => document.visibilityState === "visible";

/** Begin to listen; returns how to stop. A page that nobody looks at listens to nothing. */
export function hear(inspectionId: string, { seq, ask }: Heard): () => void {
  let source: EventSource | undefined;
  let poll: ReturnType<typeof setInterval> | undefined;
  let silent: ReturnType<typeof setTimeout> | undefined;
  let again: ReturnType<typeof setTimeout> | undefined;

  const every = (milliseconds: number) => {
    clearInterval(poll);
    poll = setInterval(() => visible() && ask(), milliseconds);
  };
  const onAnswer = () => {
    clearTimeout(silent);
    silent = setTimeout(lost, SILENCE);
  };
  const close = () => {
    source?.close();
    source = undefined;
    clearTimeout(silent);
    clearTimeout(again);
  };
  function lost() {
    close();
    every(OFTEN);
    again = setTimeout(open, AGAIN);
    if (visible()) ask();
  }
  function open() {
    if (source || !visible() || typeof EventSource === "undefined") return;
    source = new EventSource(`/api/inspections/${inspectionId}/stream?since=${seq()}`);
    source.onopen = () => {
      every(SELDOM);
      onAnswer();
    };
    source.addEventListener("beat", onAnswer);
    source.onmessage = ({ data }) => {
      onAnswer();
      setTimeout(() => Number(data) > seq() && ask(), OWN);
    };
    // The browser begins it anew by itself; where the server refused it, we do, more slowly.
    source.onerror = () => {
      if (source?.readyState === EventSource.CLOSED) return lost();
      every(OFTEN);
      if (visible()) ask();
    };
  }
  const look = () => {
    if (!visible()) return close();
    open();
    ask();
  };
  every(OFTEN);
  open();
  document.addEventListener("visibilitychange", look);
  window.addEventListener("offline", ask);
  return () => {
    close();
    clearInterval(poll);
    document.removeEventListener("visibilitychange", look);
    window.removeEventListener("offline", ask);
  };
}
