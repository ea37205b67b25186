import { describe, expect, it } from "vitest";
import type { CatalogueEntry } from "../api/client";
import { matching } from "./catalogue";

const entry = (key: string, title: string, words = ""): CatalogueEntry =>
  ({ key, title, words, group: "", plain: "" }) as CatalogueEntry;
const ALL = [entry("a", "Cracked plate", "broken faceplate"), entry("b", "Heat marks"), entry("c", "Loose plate")];

describe("finding an entry", () => {
  it("by words of its title, and by what people call it", () => {
    expect(matching(ALL, "plate", []).map((e) => e.key)).toEqual(["a", "c"]);
    expect(matching(ALL, "faceplate", []).map((e) => e.key)).toEqual(["a"]);
    expect(matching(ALL, "loose  PLATE ", []).map((e) => e.key)).toEqual(["c"]);
    expect(matching(ALL, "ladder", [])).toEqual([]);
  });
  it("with what is close at hand first, in its order, and the rest as it stood", () => {
    expect(matching(ALL, "", ["c", "b"]).map((e) => e.key)).toEqual(["c", "b", "a"]);
  });
});
