import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { courier } from "./courier";

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

it("carries one thing after the other, never two at once, until nothing is left", async () => {
  const left = ["a", "b", "c"];
  let at = 0;
  let most = 0;
  const carried: string[] = [];
  const { wake } = courier(async () => {
    most = Math.max(most, ++at);
    await Promise.resolve();
    at--;
    const next = left.shift();
    if (!next) return "nothing";
    carried.push(next);
    return "sent";
  });
  wake();
  wake();
  await vi.advanceTimersByTimeAsync(120_000);
  expect(carried).toEqual(["a", "b", "c"]);
  expect(most).toBe(1);
});

it("sees what came while it found nothing", async () => {
  const left: string[] = [];
  const carried: string[] = [];
  const one = courier(async () => {
    const next = left.shift();
    if (next) carried.push(next);
    else if (!carried.length) {
      left.push("late");
      one.wake();
    }
    return next ? "sent" : "nothing";
  });
  one.wake();
  await vi.advanceTimersByTimeAsync(120_000);
  expect(carried).toEqual(["late"]);
});

it("waits longer after each failure, up to ten seconds, and anew after it got through", async () => {
  const tries: number[] = [];
  let broken = true;
  const { wake } = courier(async () => {
    tries.push(Date.now());
    return broken ? "later" : "nothing";
  });
  wake();
  await vi.advanceTimersByTimeAsync(30_000);
  const pauses = () => tries.slice(1).map((time, at) => time - tries[at]!);
  expect(pauses()).toEqual([500, 1000, 2000, 5000, 10_000, 10_000]);
  broken = false;
  await vi.advanceTimersByTimeAsync(10_000);
  broken = true;
  tries.length = 0;
  wake();
  await vi.advanceTimersByTimeAsync(1600);
  expect(pauses()).toEqual([500, 1000]);
});

it("goes on after a step that threw", async () => {
  let threw = false;
  const carried: string[] = [];
  const { wake } = courier(async () => {
    if (!threw) {
      threw = true;
      throw new Error("the device is full");
    }
    if (carried.length) return "nothing";
    carried.push("a");
    return "sent";
  });
  wake();
  await vi.advanceTimersByTimeAsync(120_000);
  expect(carried).toEqual(["a"]);
});
