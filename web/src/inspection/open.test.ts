import { describe, expect, it, vi } from "vitest";
import {
  anewForEach,
  device,
  IDRIS,
  lastOpened,
  model,
  onDevice,
  outbox,
  waiting,
  place,
  RUTH,
  server,
  settled,
  soon,
  start,
  sync,
  transport,
} from "./tablet.testing";

anewForEach();

describe("an entry on its way", () => {
  it("is shown at once, kept on the device, and let go when the server has it", async () => {
    sync.begin(RUTH, { reference: "K-1" });
    expect(model().entities[model().id]?.values.reference).toBe("K-1");
    await settled();
    expect(server.kept.map((c) => c.field)).toEqual(["firm", "reference"]);
    await soon(async () => expect(await onDevice()).toEqual([]));
  });

  it("keeps the order in which things were entered", async () => {
    sync.begin(RUTH, {});
    for (let n = 0; n < 30; n++) sync.setField(place("condition"), `entry ${n}`);
    await settled();
    expect(server.kept.slice(1).map((c) => c.value)).toEqual(Array.from({ length: 30 }, (_, n) => `entry ${n}`));
  });

  it("can be waited for, and is said not to have come where there is no server", async () => {
    sync.begin(RUTH, { reference: "K-1" });
    expect(await sync.settled()).toBe(true);
    expect(server.kept).toHaveLength(2);
    server.down = true;
    sync.setField(place("reference"), "K-2");
    expect(await sync.settled(200)).toBe(false);
  });

  it("that moves a circuit is undone by moving it back", async () => {
    sync.begin(RUTH, {});
    const [one, other] = [sync.add("board", model().id, {}), sync.add("board", model().id, {})];
    const circuit = sync.add("circuit", one, { way: "1" });
    const board = { kind: "circuit" as const, id: circuit, field: "board" as const };
    sync.setField(board, one);
    expect(model().pending.filter((p) => p.change.field === "board" && p.change.entity_id === circuit)).toHaveLength(1);
    sync.setField(board, other);
    expect(model().entities[circuit]?.parentId).toBe(other);
    expect(sync.undo()).toBeNull();
    expect(model().entities[circuit]?.parentId).toBe(one);
    await settled();
  });

  it("that changes nothing is not sent", async () => {
    sync.begin(RUTH, { reference: "K-1" });
    await settled();
    sync.setField(place("reference"), "K-1");
    expect(model().pending).toEqual([]);
  });

  it("that is refused stays on the device with its reason, and gives way to its correction", async () => {
    sync.begin(RUTH, {});
    sync.setField(place("ze_ohm"), "1..4");
    await settled();
    expect(model().pending.map((p) => p.refused)).toEqual(["No figure."]);
    await soon(async () => expect((await onDevice()).map((p) => p.refused)).toEqual(["No figure."]));
    sync.setField(place("ze_ohm"), "1.4");
    await settled();
    expect(model().pending).toEqual([]);
    await soon(async () => expect(await onDevice()).toEqual([]));
  });

  it("too long to be sent is set aside at once and holds up nothing", async () => {
    sync.begin(RUTH, {});
    sync.setField(place("extent"), "x".repeat(200_000));
    sync.setField(place("condition"), "Worn");
    await settled();
    expect(model().pending[0]?.refused).toContain("cannot be sent");
    expect(server.kept.map((c) => c.field)).toEqual(["firm", "condition"]);
  });
});

describe("a device that is slow to keep", () => {
  /** From here on the device's database answers nothing more, as when the page goes in the middle of it. */
  const stuck = () => {
    device.pendings.add = () => new Promise(() => undefined);
  };

  it("holds up nothing: what was entered is on its way", async () => {
    sync.begin(RUTH, {});
    await settled();
    stuck();
    sync.setField(place("condition"), "Worn");
    await soon(() => expect(server.kept.at(-1)?.value).toBe("Worn"));
  });

  it("loses nothing when the page goes meanwhile", async () => {
    const id = sync.begin(RUTH, {});
    await settled();
    stuck();
    server.down = true;
    sync.setField(place("condition"), "Worn");
    sync.setField(place("extent"), "All");
    await start();
    server.down = false;
    let free = () => {};
    server.busy = new Promise<void>((done) => (free = done));
    await sync.load(id, RUTH);
    expect(model().entities[id]?.values).toMatchObject({ condition: "Worn", extent: "All" });
    // The database has them now, and the server once it answers; in the order in which they were entered.
    const here = async () => (await onDevice()).map((p) => p.change.value);
    await soon(async () => expect(await here()).toEqual(expect.arrayContaining(["Worn", "All"])));
    free();
    await settled();
    expect(server.kept.slice(-2).map((c) => c.value)).toEqual(["Worn", "All"]);
    await soon(async () => expect(await onDevice()).toEqual([]));
    // Nothing is left of the slips: the next start finds nothing to send.
    const batches = server.batches.length;
    await start();
    await sync.load(id, RUTH);
    await new Promise((done) => setTimeout(done, 100));
    expect(server.batches.length).toBe(batches);
  });

  it("does not bring back what was refused over its correction", async () => {
    const id = sync.begin(RUTH, {});
    await settled();
    stuck();
    sync.setField(place("ze_ohm"), "1..4");
    await soon(() => expect(model().pending.map((p) => p.refused)).toEqual(["No figure."]));
    server.down = true;
    sync.setField(place("ze_ohm"), "1.4");
    await start();
    server.down = false;
    await sync.load(id, RUTH);
    await settled();
    expect(model().pending).toEqual([]);
    expect(model().entities[id]?.values.ze_ohm).toBe("1.4");
    expect(server.kept.at(-1)?.value).toBe("1.4");
    await soon(async () => expect(await onDevice()).toEqual([]));
  });

  it("is waited for where an entry is too long for a slip", async () => {
    sync.begin(RUTH, {});
    await settled();
    stuck();
    sync.setField(place("extent"), "x".repeat(30_000));
    await new Promise((done) => setTimeout(done, 100));
    expect(server.kept.at(-1)?.field).toBe("firm");
  });
});

describe("trouble on the line", () => {
  it("makes entries wait, and they go when it is over", async () => {
    sync.begin(RUTH, {});
    await settled();
    server.down = true;
    sync.setField(place("condition"), "Worn");
    await soon(() => expect(transport.reach()).toBe("unreachable"));
    expect(model().pending).toHaveLength(1);
    server.down = false;
    await settled();
    expect(transport.reach()).toBe("ok");
  });

  it("asks about all that was entered before it got through again, where the report was issued meanwhile", async () => {
    const id = sync.begin(RUTH, {});
    await settled();
    server.down = true;
    sync.setField(place("condition"), "Worn");
    await soon(() => expect(transport.reach()).toBe("unreachable"));
    // Another answer comes through, and before anything was sent again somebody goes on.
    server.down = false;
    server.issued = 1;
    await transport.fetchInspection(id);
    expect(transport.reach()).toBe("ok");
    sync.setField(place("extent"), "All");
    await soon(() => expect(waiting.changesOf(id).map((p) => p.waits)).toEqual([true, true]));
    await new Promise((done) => setTimeout(done, 50));
    expect(server.kept.map((c) => c.field)).toEqual(["firm"]);
    // Who is in touch as it happens is told, and goes on.
    await outbox.letGoOfWaiting(id);
    await sync.load(id, RUTH);
    server.issued = 2;
    sync.setField(place("condition"), "Cracked");
    await soon(() => expect(server.kept.at(-1)?.value).toBe("Cracked"));
  });

  it("and a battery that dies meanwhile lose nothing", async () => {
    const id = sync.begin(RUTH, {});
    await settled();
    server.down = true;
    sync.setField(place("condition"), "Worn");
    await soon(async () => expect(await onDevice()).toHaveLength(1));
    await start();
    server.down = false;
    await sync.load(id, RUTH);
    expect(model().entities[id]?.values.condition).toBe("Worn");
    await settled();
    expect(server.kept.at(-1)?.value).toBe("Worn");
  });

  it("on an answer that was lost resends without doubling", async () => {
    sync.begin(RUTH, {});
    await settled();
    const honest = server.fetch;
    server.fetch = async (request) => {
      await honest(request);
      server.fetch = honest;
      throw new TypeError("The answer was lost");
    };
    sync.setField(place("condition"), "Worn");
    await settled();
    // A tablet of an earlier test that was switched off may still be trying: only this inspection counts.
    expect(server.kept.filter((c) => c.value === "Worn" && c.entity_id === model().id)).toHaveLength(1);
  });

  it("as an ended session asks for signing in and sends nothing until then", async () => {
    sync.begin(RUTH, {});
    await settled();
    server.status = 401;
    sync.setField(place("condition"), "Worn");
    await soon(() => expect(transport.reach()).toBe("signed-out"));
    server.status = 200;
    sync.setField(place("extent"), "All");
    expect(server.kept).toHaveLength(1);
    sync.resume();
    await settled();
    expect(server.kept.map((c) => c.value)).toEqual(["firm", "Worn", "All"]);
  });

  it("over one entry sets that aside after three failures and lets the rest go on", async () => {
    sync.begin(RUTH, {});
    await settled();
    server.status = (changes) => (changes.some((c) => c.value === "poison") ? 500 : 200);
    sync.setField(place("condition"), "poison");
    sync.setField(place("extent"), "All");
    await vi.waitFor(() => expect(server.kept.map((c) => c.value)).toEqual(["firm", "All"]), { timeout: 12_000 });
    // The server has it a moment before its answer is taken in here.
    await vi.waitFor(() => expect(model().pending.map((p) => p.change.value)).toEqual(["poison"]));
    expect(model().pending[0]?.refused).toContain("The rest goes on");
  }, 15_000);
});

describe("several inspections on one device", () => {
  it("one that the server will take nothing for holds up no other, and is said where it is open", async () => {
    const barred = sync.begin(RUTH, {});
    server.status = (changes) => (changes[0]?.entity_id === barred ? 403 : 200);
    sync.setField(place("condition"), "Kept here");
    await soon(() => expect(waiting.useOutbox.getState().barred[barred]).toContain("kept on this device"));
    const other = sync.begin(RUTH, { reference: "K-2" });
    await soon(() => expect(server.kept.map((c) => c.entity_id)).toEqual([other, other]));
    expect((await onDevice()).filter((p) => p.inspectionId === barred)).not.toEqual([]);
  });

  it("what waits of one that is not open goes all the same", async () => {
    const first = sync.begin(RUTH, {});
    await settled();
    server.down = true;
    sync.setField(place("condition"), "Worn");
    await soon(async () => expect(await onDevice()).toHaveLength(1));
    sync.begin(RUTH, {});
    server.down = false;
    outbox.wake();
    await soon(() => expect(server.kept.find((c) => c.entity_id === first && c.value === "Worn")).toBeTruthy());
  });
});

describe("an answer that was overtaken on its way", () => {
  /** Hold back batches, and what the server says of the whole once it has looked; returns what lets each go. */
  function held(): { keep: () => void; tell: () => void } {
    const go = { keep: (): void => undefined, tell: (): void => undefined };
    server.busy = new Promise((done) => (go.keep = done));
    server.slow = new Promise((done) => (go.tell = done));
    return go;
  }

  /** Load; the server looks, then keeps what waited, and its answer of before comes last. */
  async function overtaken(id: string, meanwhile: () => void = () => undefined): Promise<void> {
    const go = held();
    const looked = server.looked;
    const loading = sync.load(id, RUTH);
    await soon(() => expect(server.looked).toBeGreaterThan(looked));
    meanwhile();
    go.keep();
    await soon(() => expect(waiting.changesOf(id)).toEqual([]));
    go.tell();
    await loading;
  }

  it("takes nothing back that was entered and kept meanwhile", async () => {
    server.judged = true;
    const id = sync.begin(RUTH, { reference: "K-1" });
    await settled();
    await overtaken(id, () => sync.setField(place("condition"), "Worn"));
    expect(model().entities[id]?.values).toMatchObject({ reference: "K-1", condition: "Worn" });
  });

  it("shows what waited here and arrived after the server had looked", async () => {
    const id = sync.begin(RUTH, { reference: "K-1" });
    await settled();
    server.down = true;
    sync.setField(place("condition"), "Worn");
    await soon(async () => expect(await onDevice()).toHaveLength(1));
    server.down = false;
    await start();
    await overtaken(id);
    expect(model().entities[id]?.values).toMatchObject({ reference: "K-1", condition: "Worn" });
  });

  it("does not say that there is no such inspection when it has just been made", async () => {
    server.down = true;
    const id = sync.begin(RUTH, { reference: "K-1" });
    await soon(async () => expect(await onDevice()).toHaveLength(2));
    server.down = false;
    await start();
    await overtaken(id);
    expect(sync.useInspection.getState().error).toBeNull();
    expect(model().entities[id]?.values.reference).toBe("K-1");
  });
});

describe("without a server", () => {
  it("an inspection opens as it was open here last, with what was typed since on top", async () => {
    const id = sync.begin(RUTH, { reference: "K-1" });
    await settled();
    server.judged = true;
    await start();
    await sync.load(id, RUTH);
    await soon(async () => expect(await lastOpened.opened(RUTH.id, id)).toBeTruthy());
    const at = (await lastOpened.opened(RUTH.id, id))?.at;
    server.down = true;
    sync.setField(place("condition"), "Worn");
    await soon(async () => expect(await onDevice()).toHaveLength(1));
    await start();
    await sync.load(id, RUTH);
    expect(model().entities[id]?.values).toMatchObject({ reference: "K-1", condition: "Worn" });
    expect(sync.useInspection.getState().asOf).toBe(at);
    // What is kept says when the server last spoke, not when it was looked at without it.
    sync.setField(place("extent"), "All");
    await new Promise((done) => setTimeout(done, 1200));
    expect((await lastOpened.opened(RUTH.id, id))?.at).toBe(at);
    // Nobody else is shown it.
    await start();
    await sync.load(id, IDRIS);
    expect(sync.useInspection.getState().model).toBeNull();
    expect(sync.useInspection.getState().error).toContain("cannot be reached");
  });
});

describe("photos", () => {
  const photo = { sha256: "ab".repeat(32), content: new Uint8Array(4) };

  it("wait for their inspection, then go, and are let go", async () => {
    server.down = true;
    const inspectionId = sync.begin(RUTH, {});
    await outbox.putPhoto({ ...photo, inspectionId });
    server.down = false;
    outbox.wake();
    await soon(() => expect(server.photos).toEqual([photo.sha256]));
    expect(server.kept).not.toEqual([]);
    await soon(async () => expect(await device.photoStore.all()).toEqual([]));
    expect(waiting.waiting(waiting.useOutbox.getState())).toBe(0);
  });

  it("that the server will not have stay, with its reason, and hold up nothing", async () => {
    const inspectionId = sync.begin(RUTH, {});
    await settled();
    server.status = 413;
    await outbox.putPhoto({ ...photo, inspectionId });
    await soon(() => expect(waiting.useOutbox.getState().photos[photo.sha256]).toContain("413"));
    expect((await device.photoStore.all())[0]?.refused).toContain("413");
    server.status = 200;
    sync.setField(place("condition"), "Worn");
    await settled();
  });
});

describe("a tablet in other hands", () => {
  it("does not send one person's entries under another's name", async () => {
    const id = sync.begin(RUTH, {});
    await settled();
    server.down = true;
    sync.setField(place("condition"), "Ruth's");
    await soon(async () => expect(await onDevice()).toHaveLength(1));
    await start();
    server.down = false;
    await sync.load(id, IDRIS);
    expect(model().pending).toEqual([]);
    expect(server.kept).toHaveLength(1);
    expect(await onDevice()).toHaveLength(1);
    // Back in her hands it goes, whichever screen is open.
    await outbox.open(RUTH.id);
    await soon(() => expect(server.kept.at(-1)?.value).toBe("Ruth's"));
    await soon(async () => expect(await onDevice()).toEqual([]));
  });
});

describe("undo", () => {
  it("puts back what stood before, entry by entry", async () => {
    sync.begin(RUTH, {});
    sync.setField(place("condition"), "one");
    sync.setField(place("condition"), "two");
    expect(sync.undo()).toEqual(place("condition"));
    expect(model().entities[model().id]?.values.condition).toBe("one");
    sync.undo();
    expect(model().entities[model().id]?.values.condition).toBeNull();
    expect(sync.undo()).toBeNull();
    await settled();
    expect(server.kept.slice(1).map((c) => c.value)).toEqual(["one", "two", "one", null]);
  });
});
