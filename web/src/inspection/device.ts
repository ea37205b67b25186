/** What is kept on this device: what the server does not have yet, and who this device is. */
import Dexie, { type EntityTable } from "dexie";
import { v7 as uuidv7 } from "uuid";
import type { Pending } from "./types";

/** A photo that the server does not have yet. */
export interface WaitingPhoto {
  sha256: string;
  inspectionId: string;
  content: ArrayBuffer;
  /** Who took it: it is sent under no other name. Photos of before this was kept have none. */
  author?: string;
  /** Why the server will not have it. */
  refused?: string;
}

class DeviceDatabase extends Dexie {
  pending!: EntityTable<Required<Pick<Pending, "n">> & Pending, "n">;
  photos!: EntityTable<WaitingPhoto, "sha256">;

  constructor() {
    super("dorrik");
    this.version(1).stores({ pending: "++n, inspectionId" });
    this.version(2).stores({ photos: "sha256, inspectionId" });
  }
}

export const device = new DeviceDatabase();

/** The device's own id, made once. */
export function deviceId(): string {
  const known = localStorage.getItem("dorrik.device");
  if (known) return known;
  const made = uuidv7();
  localStorage.setItem("dorrik.device", made);
  return made;
}
