/** This device, known to the server: by a key of its own, and by what waits here, so that a lost one can be named. */
import { api, answer, type Me, Refused } from "../api/client";
import { makeSigningKey, signFor } from "../api/vault";
import { program } from "../ui/agent";
import { deviceId, photoStore } from "./device";
import { useGone } from "./gone";
import { reach } from "./transport";
import { useOutbox } from "./waiting";

/** So long after what waits has changed it is told, and so often at most, milliseconds. */
const CALM = 3000;
/** So much of it is named. */
const MOST = 2000;

/** Tell the server of this device from now on; returns what ends it. */
export function tellOfDevice(me: Me): () => void {
  let toldKey = "";
  let clock: ReturnType<typeof setTimeout> | undefined;
  const soon = () => {
    clearTimeout(clock);
    clock = setTimeout(() => void tell(), CALM);
  };
  async function tell(): Promise<void> {
    if (reach() !== "ok") return;
    const waits = await waitsFor(me.id);
    const text = JSON.stringify(waits);
    if (text === toldKey) return;
    try {
      await hear(me, waits);
      toldKey = text;
    } catch {
      // Told with the next change, or at the next start.
    }
  }
  const stop = useOutbox.subscribe(soon);
  soon();
  return () => {
    clearTimeout(clock);
    stop();
  };
}

async function waitsFor(person: string) {
  const { changes } = useOutbox.getState();
  const photos = (await photoStore.all().catch(() => [])).filter((photo) => photo.author === person && !photo.after);
  const mine = changes.filter((p) => p.author === person);
  return {
    entries: mine.slice(0, MOST).map(({ inspectionId, change: { id, entity, entity_id, field, made_at } }) => ({
      id,
      inspection_id: inspectionId,
      entity,
      entity_id,
      field,
      made_at,
    })),
    photos: photos.slice(0, MOST).map(({ sha256, inspectionId }) => ({ sha256, inspection_id: inspectionId })),
  };
}

async function hear(me: Me, waits: Awaited<ReturnType<typeof waitsFor>>): Promise<void> {
  const params = { path: { device_id: deviceId() } };
  const tell = () => answer(api.PUT("/api/devices/{device_id}/waiting", { params, body: waits }));
  const known = await signFor(me.id, new Uint8Array(1)).catch(() => undefined);
  try {
    if (known) return void (await tell());
  } catch (error) {
    // Not known, or ended as lost: from now on it has another key.
    if (!(error instanceof Refused) || error.status !== 404) throw error;
  }
  const key = await makeSigningKey(me.id);
  if (!key) return;
  const { gone, heard_at } = await answer(
    api.PUT("/api/devices/{device_id}", { params, body: { name: program(navigator.userAgent).slice(0, 80), key } }),
  );
  if (gone) useGone.setState({ gone, since: heard_at });
  await tell();
}
