/** Bytes as a stream of codes that may be read in any order, from any one on, with any of them missed.
 *
 * A fountain code (Luby transform): each code carries the exclusive or of a few blocks, chosen by a number that it names.
 * A little more than as many codes as there are blocks are enough, whichever they are.
 */

/** Each code: a mark, which stream it is of, how long that is, the size of a block, the number, and the block. */
const MARK = 0xd0;
const HEAD = 1 + 4 + 4 + 2 + 4;
/** A stream is at most so long, bytes: longer ones take minutes to show. */
export const LONGEST = 400_000;

/** A generator of numbers that both devices know by its seed (mulberry32). */
function randomOf(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}

const sums = new Map<number, number[]>();

/** How many blocks a code of so many carries, summed up: the robust soliton distribution. */
function degrees(blocks: number): number[] {
  const known = sums.get(blocks);
  if (known) return known;
  const r = 0.1 * Math.log(blocks / 0.05) * Math.sqrt(blocks);
  const spike = Math.max(1, Math.min(blocks, Math.round(blocks / Math.max(r, 1))));
  const weights = Array.from({ length: blocks }, (_, at) => {
    const d = at + 1;
    const ideal = d === 1 ? 1 / blocks : 1 / (d * (d - 1));
    const robust = d < spike ? r / (d * blocks) : d === spike ? (r * Math.log(Math.max(r / 0.05, 1.01))) / blocks : 0;
    return ideal + robust;
  });
  const whole = weights.reduce((sum, weight) => sum + weight, 0);
  let sum = 0;
  const made = weights.map((weight) => (sum += weight / whole));
  sums.set(blocks, made);
  return made;
}

/** Which blocks the code of a number carries. The first so many each carry one, so that a stream read from its beginning
 * is there at once. */
function blocksOf(number: number, blocks: number): number[] {
  if (number < blocks) return [number];
  const random = randomOf(number);
  const drawn = random();
  const degree = degrees(blocks).findIndex((sum) => drawn < sum) + 1 || 1;
  const chosen = new Set<number>();
  while (chosen.size < Math.min(degree, blocks)) chosen.add(Math.floor(random() * blocks));
  return [...chosen];
}

function mix(into: Uint8Array, block: Uint8Array): void {
  for (let at = 0; at < into.length; at++) into[at]! ^= block[at]!;
}

/** The check sum of a stream, by which its codes know each other (FNV-1a). */
function nameOf(bytes: Uint8Array): number {
  let name = 0x811c9dc5;
  for (const byte of bytes) name = Math.imul(name ^ byte, 0x01000193);
  return name >>> 0;
}

/** Codes of bytes, by their number; size: of a block. Throws RangeError where it is too long, or nothing. */
export function fountain(bytes: Uint8Array, size: number): { blocks: number; code(number: number): Uint8Array } {
  if (!bytes.length || bytes.length > LONGEST) throw new RangeError("Nothing that can be shown as codes.");
  const blocks = Math.ceil(bytes.length / size);
  const name = nameOf(bytes);
  const block = (at: number) => {
    const part = new Uint8Array(size);
    part.set(bytes.subarray(at * size, (at + 1) * size));
    return part;
  };
  return {
    blocks,
    code(number) {
      const made = new Uint8Array(HEAD + size);
      const view = new DataView(made.buffer);
      view.setUint8(0, MARK);
      view.setUint32(1, name);
      view.setUint32(5, bytes.length);
      view.setUint16(9, size);
      view.setUint32(11, number);
      const body = made.subarray(HEAD);
      for (const at of blocksOf(number, blocks)) mix(body, block(at));
      return made;
    },
  };
}

interface Unsolved {
  open: Set<number>;
  body: Uint8Array;
}

/** Takes codes as they come. done: the bytes, once there are enough. */
export class Basin {
  private name: number | null = null;
  private length = 0;
  private size = 0;
  private seen = new Set<number>();
  private solved = new Map<number, Uint8Array>();
  private unsolved: Unsolved[] = [];

  /** Blocks of the stream in hand, 0 before the first; and how many codes of it were read. */
  blocks = 0;
  read = 0;

  /** How far it is, 0 to 1. */
  get share(): number {
    return this.blocks ? Math.min(1, this.solved.size / this.blocks) : 0;
  }

  /** Take what was read; the bytes once they are whole, else null. What is no code, or of another stream, counts for
   * nothing: of another stream the first that was begun is gone on with. */
  take(code: Uint8Array): Uint8Array | null {
    if (code.length <= HEAD || code[0] !== MARK) return null;
    const view = new DataView(code.buffer, code.byteOffset, code.byteLength);
    const [name, length, size, number] = [view.getUint32(1), view.getUint32(5), view.getUint16(9), view.getUint32(11)];
    if (!size || !length || length > LONGEST || code.length !== HEAD + size) return null;
    if (this.name === null) {
      this.name = name;
      this.length = length;
      this.size = size;
      this.blocks = Math.ceil(length / size);
    }
    if (this.name !== name || this.length !== length || this.size !== size || this.seen.has(number)) return null;
    this.seen.add(number);
    this.read++;
    this.add({ open: new Set(blocksOf(number, this.blocks)), body: code.slice(HEAD) });
    if (this.solved.size < this.blocks && this.read >= this.blocks) this.eliminate();
    return this.solved.size === this.blocks ? this.whole() : null;
  }

  private add(code: Unsolved): void {
    const next = [code];
    for (let row = next.pop(); row; row = next.pop()) {
      for (const at of row.open) {
        const known = this.solved.get(at);
        if (!known) continue;
        mix(row.body, known);
        row.open.delete(at);
      }
      if (row.open.size > 1) this.unsolved.push(row);
      if (row.open.size !== 1) continue;
      const at = [...row.open][0]!;
      this.solved.set(at, row.body);
      const touched = this.unsolved.filter(({ open }) => open.has(at));
      this.unsolved = this.unsolved.filter(({ open }) => !open.has(at));
      next.push(...touched);
    }
  }

  /** Where no code carries a single block any more, what is there is solved as equations. */
  private eliminate(): void {
    const rows = this.unsolved.map(({ open, body }) => ({ open: new Set(open), body: body.slice() }));
    const solved = new Map<number, Unsolved>();
    for (const row of rows) {
      for (let at = least(row.open); at !== undefined; at = least(row.open)) {
        const pivot = solved.get(at);
        if (!pivot) {
          solved.set(at, row);
          break;
        }
        for (const piece of pivot.open) if (!row.open.delete(piece)) row.open.add(piece);
        mix(row.body, pivot.body);
      }
    }
    if (solved.size < this.blocks - this.solved.size) return;
    // From the last block back: what stands behind each is known by then.
    for (const at of [...solved.keys()].sort((a, b) => b - a)) {
      const { open, body } = solved.get(at)!;
      for (const block of open) if (block !== at) mix(body, this.solved.get(block)!);
      this.solved.set(at, body);
    }
  }

  private whole(): Uint8Array | null {
    const all = new Uint8Array(this.blocks * this.size);
    for (const [at, block] of this.solved) all.set(block, at * this.size);
    const bytes = all.subarray(0, this.length);
    if (nameOf(bytes) === this.name) return bytes;
    // One was read wrongly: all of it is read anew.
    Object.assign(this, { seen: new Set(), solved: new Map(), unsolved: [], read: 0 });
    return null;
  }
}

function least(of: Set<number>): number | undefined {
  let lowest: number | undefined;
  for (const piece of of) if (lowest === undefined || piece < lowest) lowest = piece;
  return lowest;
}
