import { describe, expect, it } from "vitest";
import { hours, localeOf, readDay, readTime } from "./when";

const now = new Date(2026, 10, 26);

describe("a day that is typed", () => {
  it.each([
    ["25 11 26", "2026-11-25"],
    ["25/11/2026", "2026-11-25"],
    ["25.11.", "2026-11-25"],
    ["5-3-2024", "2024-03-05"],
    ["25 nov", "2026-11-25"],
    ["25 November 2026", "2026-11-25"],
    ["1 Sept 26", "2026-09-01"],
    ["29 2 2024", "2024-02-29"],
    ["2026-11-25", "2026-11-25"],
  ])("day first: %s", (text, iso) => {
    expect(readDay(text, "en-GB", now)).toBe(iso);
  });

  it.each([
    ["3. März 2026", "2026-03-03"],
    ["3.3.26", "2026-03-03"],
    ["24 Dez", "2026-12-24"],
    ["24 dec", "2026-12-24"],
  ])("in the words of another language: %s", (text, iso) => {
    expect(readDay(text, "de-DE", now)).toBe(iso);
  });

  it.each(["", "soon", "31 2 2026", "29 2 2026", "13 13 26", "25", "25 11 26 1", "0 1 26", "11 25 2026", "ja 3"])(
    "is none: %s",
    (text) => {
      expect(readDay(text, "en-GB", now)).toBeNull();
    },
  );
});

it("English is written as where the rule books are, whatever the browser was set to", () => {
  expect(localeOf("en-US")).toBe("en-GB");
  expect(localeOf("en-IE")).toBe("en-IE");
  expect(localeOf("de-DE")).toBe("de-DE");
});

it.each([
  ["905", "09:05"],
  ["9.05", "09:05"],
  ["09:05", "09:05"],
  ["9", "09:00"],
  ["2359", "23:59"],
  ["24:00", null],
  ["9:60", null],
  ["noon", null],
])("a time that is typed: %s", (text, time) => {
  expect(readTime(text)).toBe(time);
});

it("a length of time as people say it", () => {
  expect(hours(388)).toBe("6 h 28");
  expect(hours(60)).toBe("1 h 00");
});
