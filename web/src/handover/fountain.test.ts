import { describe, expect, it } from "vitest";
import { Basin, fountain, LONGEST } from "./fountain";

/** Numbers of a test, the same each time. */
function chance(seed: number): () => number {
  let state = seed;
  return () => (state = (Math.imul(state, 48_271) >>> 0) % 2_147_483_647) / 2_147_483_647;
}

function bytesOf(length: number, random: () => number): Uint8Array {
  return Uint8Array.from({ length }, () => Math.floor(random() * 256));
}

describe("codes of a stream", () => {
  it("give the bytes back from any beginning, in any order, with any of them missed", () => {
    for (let seed = 1; seed <= 120; seed++) {
      const random = chance(seed * 7919);
      const bytes = bytesOf(1 + Math.floor(random() * 20_000), random);
      const { blocks, code } = fountain(bytes, 60 + Math.floor(random() * 340));
      const basin = new Basin();
      const start = Math.floor(random() * 3 * blocks);
      const lost = random() * 0.5;
      let found: Uint8Array | null = null;
      let shown = 0;
      // Shown one after the other; some are not read, and some are read late.
      const late: Uint8Array[] = [];
      while (!found) {
        expect(shown).toBeLessThan(40 + 12 * blocks);
        const next = code(start + shown++);
        if (random() < lost) continue;
        if (random() < 0.3) late.push(next);
        else found = basin.take(next);
        if (!found && late.length && random() < 0.4)
          found = basin.take(late.splice(Math.floor(random() * late.length), 1)[0]!);
      }
      expect(found).toEqual(bytes);
      // Little more is read than there is.
      expect(basin.read).toBeLessThan(12 + 1.6 * blocks);
    }
  });

  it("read from their beginning are whole after as many as there are blocks", () => {
    const bytes = bytesOf(5_000, chance(3));
    const { blocks, code } = fountain(bytes, 400);
    const basin = new Basin();
    for (let number = 0; number < blocks - 1; number++) expect(basin.take(code(number))).toBeNull();
    expect(basin.share).toBeLessThan(1);
    expect(basin.take(code(blocks - 1))).toEqual(bytes);
  });

  it("count once, whatever else is held before the camera", () => {
    const random = chance(5);
    const bytes = bytesOf(3_000, random);
    const { blocks, code } = fountain(bytes, 300);
    const other = fountain(bytesOf(3_000, random), 300);
    const basin = new Basin();
    expect(basin.take(new Uint8Array())).toBeNull();
    expect(basin.take(bytesOf(400, random))).toBeNull();
    let found: Uint8Array | null = null;
    for (let number = 0; number < blocks; number++) {
      basin.take(code(number).subarray(0, 100));
      found = basin.take(code(number)) ?? found;
      basin.take(code(number));
      basin.take(other.code(number));
    }
    expect(found).toEqual(bytes);
    expect(basin.read).toBe(blocks);
  });

  it("that one was read wrongly is found out, and all is read anew", () => {
    const bytes = bytesOf(2_000, chance(9));
    const { blocks, code } = fountain(bytes, 200);
    const basin = new Basin();
    const wrong = code(0);
    wrong[40]! ^= 4;
    basin.take(wrong);
    for (let number = 1; number < blocks; number++) expect(basin.take(code(number))).toBeNull();
    let found: Uint8Array | null = null;
    for (let number = 0; number < blocks; number++) found = basin.take(code(number)) ?? found;
    expect(found).toEqual(bytes);
  });

  it("are not made of nothing, nor of what would take minutes", () => {
    expect(() => fountain(new Uint8Array(), 300)).toThrow(RangeError);
    expect(() => fountain(new Uint8Array(LONGEST + 1), 300)).toThrow(RangeError);
  });
});
