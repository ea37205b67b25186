import "fake-indexeddb/auto";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { Refused, Unreachable } from "./client";
import { useAsKept } from "./asKept";
import { forgetAnswers, keepAnswer, keptAnswer, keptAnswers } from "./kept";
import { remembered } from "./remembered";

beforeEach(() => forgetAnswers());

describe("what the server says", () => {
  it("is given as it comes, and kept for the next time", async () => {
    expect(await remembered("session", async () => "Ruth")).toBe("Ruth");
    await vi.waitFor(async () => expect((await keptAnswer("session"))?.value).toBe("Ruth"));
    expect(await remembered("session", async () => "Idris")).toBe("Idris");
  });

  it("is what it said last where it cannot be reached, or fails", async () => {
    await keepAnswer("reference", { fields: 3 });
    const lost = () => Promise.reject(new Unreachable());
    expect(await remembered("reference", lost)).toEqual({ fields: 3 });
    expect(await remembered("reference", () => Promise.reject(new Refused(502, "Bad gateway.")))).toEqual({
      fields: 3,
    });
  });

  it("is marked as of before until the server answers again", async () => {
    await keepAnswer("home", "as it was");
    await remembered("home", () => Promise.reject(new Unreachable()));
    expect(useAsKept.getState().home).toBeLessThanOrEqual(Date.now());
    await remembered("home", async () => "as it is");
    expect("home" in useAsKept.getState()).toBe(false);
  });

  it("counts where it says no: nobody is shown what they may not see any more", async () => {
    await keepAnswer("session", "Ruth");
    await expect(remembered("session", () => Promise.reject(new Refused(403, "No.")))).rejects.toThrow("No.");
  });

  it("is not waited for longer than a moment where an earlier answer is at hand", async () => {
    await keepAnswer("session", "Ruth");
    const start = performance.now();
    expect(await remembered("session", () => new Promise<string>(() => undefined))).toBe("Ruth");
    expect(performance.now() - start).toBeLessThan(6000);
  });

  it("is not kept where everything was forgotten while it was on its way", async () => {
    let arrive: (said: string) => void = () => undefined;
    const late = remembered("session", () => new Promise<string>((done) => (arrive = done)));
    await forgetAnswers();
    arrive("Ruth");
    expect(await late).toBe("Ruth");
    await new Promise((done) => setTimeout(done, 30));
    expect(await keptAnswer("session")).toBeUndefined();
  });

  it("is an error where nothing was ever said", async () => {
    await expect(remembered("session", () => Promise.reject(new Unreachable()))).rejects.toThrow("cannot be reached");
  });

  it("is listed by what its name begins with, the latest first, and forgotten when asked", async () => {
    const clock = vi.spyOn(Date, "now");
    for (const [at, name] of [
      [1, "inspection/a"],
      [3, "inspection/b"],
      [2, "session"],
    ] as const) {
      clock.mockReturnValue(at);
      await keepAnswer(name, at);
    }
    clock.mockRestore();
    expect((await keptAnswers("inspection/")).map((one) => one.name)).toEqual(["inspection/b", "inspection/a"]);
    await forgetAnswers(["inspection/a"]);
    expect((await keptAnswers("inspection/")).map((one) => one.value)).toEqual([3]);
    await forgetAnswers();
    expect(await keptAnswers("")).toEqual([]);
  });
});
