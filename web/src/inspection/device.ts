/** What is kept on this device: what the server does not have yet, and who this device is. */
import Dexie, { type EntityTable } from "dexie";
import { v7 as uuidv7 } from "uuid";
import { create } from "zustand";
import type { Schemas } from "../api/client";
import { seal, type Sealed, sealBytes, unseal, unsealBytes } from "../api/vault";
import type { Pending } from "./types";

/** A photo that the server does not have yet. */
export interface WaitingPhoto {
  sha256: string;
  inspectionId: string;
  content: Uint8Array<ArrayBuffer>;
  /** Who took it: it is sent under no other name. Photos of before this was kept have none. */
  author?: string;
  /** Why the server will not have it. */
  refused?: string;
  /** It came from another device, and goes once what that handed over with it has arrived: the id of that. */
  after?: string;
}

/** What another device handed over, until the server has it. */
export interface TakenAlong {
  id: string;
  /** Who wrote it, and how many entries there are. */
  author: string;
  entries: number;
  /** Signed by the other device: goes to the server as it is. */
  bundle: string;
  signature: string;
  takenAt: string;
  /** Why the server did not take it, or what became of it. */
  refused?: string;
  arrived?: { kept: number; already: number; refused: { reason: string }[] };
}

/** A signature that was given without a server: for what, and what became of it. */
export interface Signed {
  inspectionId: string;
  author: string;
  signature: Schemas["SignatureIn"];
  /** What stood here as it was given: the sequence number, and the changes that waited beside it, by their ids. */
  seq: number;
  changes: string[];
  at: string;
  /** Why it does not count. */
  refused?: string;
}

/** A change as it lies in the database; one of a version before this one lies there unsealed. */
type PendingRow = { n: number; sealed: Sealed } | (Pending & { n: number; sealed?: undefined });
/** A photo as it lies there; content of a version before this one, or where nothing can be sealed, lies there unsealed. */
type TakenRow = { id: string; sealed: Sealed };
type SignedRow = { inspectionId: string; sealed: Sealed };
type PhotoRow = Omit<WaitingPhoto, "content"> & { sealed?: Uint8Array<ArrayBuffer>; content?: ArrayBuffer };

class DeviceDatabase extends Dexie {
  pending!: EntityTable<PendingRow, "n">;
  photos!: EntityTable<PhotoRow, "sha256">;
  taken!: EntityTable<TakenRow, "id">;
  signed!: EntityTable<SignedRow, "inspectionId">;

  constructor() {
    super("dorrik");
    this.version(1).stores({ pending: "++n, inspectionId" });
    this.version(2).stores({ photos: "sha256, inspectionId" });
    this.version(3).stores({ taken: "id" });
    this.version(4).stores({ signed: "inspectionId" });
  }
}

const database = new DeviceDatabase();

/** Entries on this device that cannot be read any more: their key is gone. */
export const useUnreadable = create<{ entries: number }>(() => ({ entries: 0 }));

/** The change before has its place. */
let before: Promise<unknown> = Promise.resolve();

/** Changes on this device, sealed, in the order in which they were made. */
export const pendings = {
  async all(): Promise<Pending[]> {
    const rows = await database.pending.orderBy("n").toArray();
    const read = await Promise.all(
      rows.map(async (row) => {
        if (row.sealed === undefined) {
          await pendings.put(row);
          return row;
        }
        const pending = await unseal<Pending>(row.sealed);
        return pending && { ...pending, n: row.n };
      }),
    );
    // What cannot be read any more, as after the vault was lost, stays where it is and is said.
    useUnreadable.setState({ entries: read.filter((pending) => pending === undefined).length });
    return read.filter((pending) => pending !== undefined);
  },
  /** Keep a change, and let go of what it replaces; returns where it is. They lie here in the order in which they were
   * given, however long each takes to be sealed: in that order they are sent. */
  add(pending: Pending, replaced: number[]): Promise<number> {
    const sealing = seal(pending);
    const added = before.then(async () => {
      const sealed = await sealing;
      return database.transaction("rw", database.pending, async () => {
        const n = await database.pending.add({ sealed } as never);
        await database.pending.bulkDelete(replaced);
        return n;
      });
    });
    before = added.catch(() => undefined);
    return added;
  },
  async put(pending: Pending & { n: number }): Promise<void> {
    const { n, ...rest } = pending;
    await database.pending.put({ n, sealed: await seal(rest) });
  },
  remove: (places: number[]): Promise<void> => database.pending.bulkDelete(places),
};

/** Photos on this device that the server does not have, sealed, by the digest of their content. */
export const photoStore = {
  /** Who took each, and why the server will not have it: without the pictures themselves. */
  async all(): Promise<Omit<WaitingPhoto, "content">[]> {
    const photos: Omit<WaitingPhoto, "content">[] = [];
    await database.photos.each(({ sha256, inspectionId, author, refused, after }) => {
      const more = { ...(author && { author }), ...(refused && { refused }), ...(after && { after }) };
      photos.push({ sha256, inspectionId, ...more });
    });
    return photos;
  },
  async get(sha256: string): Promise<WaitingPhoto | undefined> {
    const row = await database.photos.get(sha256);
    if (!row) return undefined;
    const { sealed, content: bare, ...photo } = row;
    const content = sealed ? await unsealBytes(sealed) : bare && new Uint8Array(bare);
    return content && { ...photo, content };
  },
  /** Does it lie here, readable or not? */
  isHere: async (sha256: string): Promise<boolean> => (await database.photos.get(sha256)) !== undefined,
  async put({ content, ...photo }: WaitingPhoto): Promise<void> {
    const sealed = await sealBytes(content);
    await database.photos.put(sealed ? { ...photo, sealed } : { ...photo, content: content.slice().buffer });
  },
  refuse: async (sha256: string, refused: string): Promise<void> => {
    await database.photos.update(sha256, { refused });
  },
  /** What they came with has arrived: they go next. */
  release: async (after: string): Promise<void> => {
    await database.photos.filter((photo) => photo.after === after).modify((photo) => delete photo.after);
  },
  remove: (sha256: string): Promise<void> => database.photos.delete(sha256),
};

/** What other devices handed over, sealed. */
export const takenAlong = {
  async all(): Promise<TakenAlong[]> {
    const rows = await database.taken.toArray();
    const read = await Promise.all(rows.map(({ sealed }) => unseal<TakenAlong>(sealed)));
    return read.filter((taken) => taken !== undefined);
  },
  async put(taken: TakenAlong): Promise<void> {
    await database.taken.put({ id: taken.id, sealed: await seal(taken) });
  },
  remove: (id: string): Promise<void> => database.taken.delete(id),
};

/** Signatures that wait for the server, sealed; one for an inspection. */
export const signatures = {
  async all(): Promise<Signed[]> {
    const rows = await database.signed.toArray();
    const read = await Promise.all(rows.map(({ sealed }) => unseal<Signed>(sealed)));
    return read.filter((signed) => signed !== undefined);
  },
  async put(signed: Signed): Promise<void> {
    await database.signed.put({ inspectionId: signed.inspectionId, sealed: await seal(signed) });
  },
  remove: (inspectionId: string): Promise<void> => database.signed.delete(inspectionId),
};

/** The device's own id, made once. */
export function deviceId(): string {
  const known = localStorage.getItem("dorrik.device");
  if (known) return known;
  const made = uuidv7();
  localStorage.setItem("dorrik.device", made);
  return made;
}
