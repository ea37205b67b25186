import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { hear } from "./hearing";

/** A stream of the browser, told by the test what the server sends. */
class Stream {
  static opened: Stream[] = [];
  static CLOSED = 2;
  readyState = 0;
  onopen?: () => void;
  onerror?: () => void;
  onmessage?: (event: { data: string }) => void;
  beat?: () => void;
  constructor(readonly url: string) {
    Stream.opened.push(this);
  }
  addEventListener(_: string, beat: () => void) {
    this.beat = beat;
  }
  close() {
    this.readyState = Stream.CLOSED;
  }
  begins() {
    this.readyState = 1;
    this.onopen?.();
  }
  says(seq: number) {
    this.onmessage?.({ data: String(seq) });
  }
}

const page = new EventTarget() as EventTarget & { visibilityState: string };
const asked = vi.fn();
let seq: number;
let stop: () => void;
const now = () => Stream.opened.at(-1)!;
const wait = (milliseconds: number) => vi.advanceTimersByTime(milliseconds);

function look(state: "visible" | "hidden") {
  page.visibilityState = state;
  page.dispatchEvent(new Event("visibilitychange"));
}

beforeEach(() => {
  vi.useFakeTimers();
  vi.stubGlobal("EventSource", Stream);
  vi.stubGlobal("document", page);
  vi.stubGlobal("window", new EventTarget());
  Stream.opened = [];
  page.visibilityState = "visible";
  seq = 7;
  asked.mockClear();
  stop = hear("i", { seq: () => seq, ask: asked });
});

afterEach(() => {
  stop();
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe("while the server says what is new", () => {
  beforeEach(() => now().begins());

  it("nothing is asked by itself for a minute", () => {
    for (let beats = 0; beats < 3; beats++) {
      wait(15_000);
      now().beat?.();
    }
    expect([asked.mock.calls.length, now().url]).toEqual([0, "/api/inspections/i/stream?since=7"]);
  });

  it("it is asked at once what it was", () => {
    now().says(8);
    wait(300);
    expect(asked).toHaveBeenCalledOnce();
  });

  it("what was sent from here meanwhile is not asked for", () => {
    now().says(8);
    seq = 8;
    wait(300);
    expect(asked).not.toHaveBeenCalled();
  });

  it("a stream that says nothing any more is asked beside, and begun anew", () => {
    wait(40_000);
    expect(asked).toHaveBeenCalled();
    asked.mockClear();
    wait(9_000);
    expect(asked).toHaveBeenCalledTimes(3);
    wait(15_000);
    expect(Stream.opened).toHaveLength(2);
  });

  it("a page that nobody looks at listens to nothing, and hears all once it is looked at", () => {
    look("hidden");
    expect(now().readyState).toBe(Stream.CLOSED);
    wait(120_000);
    expect([asked.mock.calls.length, Stream.opened.length]).toEqual([0, 1]);
    look("visible");
    expect([asked.mock.calls.length, Stream.opened.length]).toEqual([1, 2]);
  });
});

describe("where there is no stream", () => {
  it("the server is asked every three seconds", () => {
    wait(9_000);
    expect(asked).toHaveBeenCalledTimes(3);
  });

  it("that it broke off is found out at once", () => {
    now().begins();
    now().onerror?.();
    expect(asked).toHaveBeenCalledOnce();
    wait(6_000);
    expect(asked).toHaveBeenCalledTimes(3);
  });

  it("one that the server refuses is asked for again, not at once", () => {
    now().close();
    now().onerror?.();
    wait(14_000);
    expect(Stream.opened).toHaveLength(1);
    wait(2_000);
    expect(Stream.opened).toHaveLength(2);
  });

  it("nothing goes on once it is left", () => {
    stop();
    wait(120_000);
    expect(asked).not.toHaveBeenCalled();
  });
});
