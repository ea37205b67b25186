import "fake-indexeddb/auto";
import { ChakraProvider } from "@chakra-ui/react";
import { act, cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Judgement } from "../api/client";
import { begin, leave, setField, useInspection } from "../inspection/open";
import { system } from "../theme/system";
import { Dock, usualKinds } from "./Dock";
import { pointsOf } from "./points";
import { RoomPlan, RoomStrip } from "./RoomPlan";
import { addRoom, openRoom, roomsOf, useWalking } from "./walking";

// There is no server: what is entered waits on the device.
vi.hoisted(() => {
  globalThis.fetch = () => Promise.reject(new TypeError("Failed to fetch"));
});
const USUAL = vi.hoisted(() => [
  { name: "Hall", kind: "hall, landing or stairs", floor: "ground", points: ["light", "switch", "socket", "alarm"] },
  { name: "Kitchen", kind: "kitchen", floor: "ground", points: ["socket", "light", "cooker outlet"] },
]);
vi.mock("../api/reference", () => ({
  useReference: () => ({ usual_rooms: USUAL, fields: {} }),
  useFieldSpec: () => ({ choices: ["socket", "light", "shower", "pull cord"] }),
}));

const model = () => useInspection.getState().model!;
const here = () => openRoom(model(), useWalking.getState().room)!;

/** The dock follows the room that is open. */
function Walked() {
  const room = useInspection((s) => (s.model ? openRoom(s.model, useWalking.getState().room) : undefined));
  useWalking((s) => s.room);
  return room ? <Dock key={room.id} room={room} /> : null;
}

const shown = (what: React.ReactNode = <Walked />) => render(<ChakraProvider value={system}>{what}</ChakraProvider>);
const press = (name: string | RegExp) => userEvent.click(screen.getByRole("button", { name }));

beforeEach(() => {
  begin({ id: "ruth", firm_id: "firm" }, { reference: "K-1" });
  addRoom({ name: "Hall", kind: "hall, landing or stairs", floor: "ground" });
});
afterEach(() => {
  cleanup();
  leave();
});

describe("counters", () => {
  it("begin with what such a room has, then what hangs anywhere, none twice, seven in all", () => {
    const kinds = usualKinds(here(), USUAL);
    expect(kinds.slice(0, 4)).toEqual(["light", "switch", "socket", "alarm"]);
    expect(new Set(kinds).size).toBe(7);
  });

  it("a room with a name of its own goes by its kind, and one of no kind by what hangs anywhere", () => {
    act(() => setField({ kind: "room", id: here().id, field: "name" }, "Galley"));
    act(() => setField({ kind: "room", id: here().id, field: "kind" }, "kitchen"));
    expect(usualKinds(here(), USUAL).slice(0, 3)).toEqual(["socket", "light", "cooker outlet"]);
    act(() => setField({ kind: "room", id: here().id, field: "kind" }, null));
    expect(usualKinds(here(), USUAL)[0]).toBe("socket");
  });

  it("count at each tap, and say so to who does not see them", async () => {
    shown();
    await press("One more socket, 0 so far");
    await press("One more socket, 1 so far");
    expect(screen.getByRole("button", { name: "One more socket, 2 so far" })).toBeTruthy();
    expect(pointsOf(model(), here().id).map((point) => point.values.kind)).toEqual(["socket", "socket"]);
  });

  it("every other kind is one tap further", async () => {
    shown();
    await press("other …");
    await press("shower");
    expect(pointsOf(model(), here().id).map((point) => point.values.kind)).toEqual(["shower"]);
    expect(screen.queryByRole("dialog")).toBeNull();
  });
});

describe("onward", () => {
  it("says what it will do: the rest is fine, and which room comes", async () => {
    shown();
    expect(screen.getByRole("button", { name: /Next: new Kitchen/ })).toBeTruthy();
    await press(/One more light/);
    await press(/Rest OK, next: new Kitchen/);
    const [hall, kitchen] = roomsOf(model());
    expect(pointsOf(model(), hall!.id)[0]!.values.looked).toBe("fine");
    expect(kitchen!.values).toMatchObject({ name: "Kitchen", kind: "kitchen", floor: "ground" });
    expect(here().id).toBe(kitchen!.id);
  });

  it("goes to the room that is there before it makes one", async () => {
    addRoom({ name: "Kitchen" });
    useWalking.setState({ room: roomsOf(model())[0]!.id });
    shown();
    await press(/Next: Kitchen/);
    expect(roomsOf(model())).toHaveLength(2);
    expect(here().values.name).toBe("Kitchen");
  });

  it("what is looked at once in the room counts as left", () => {
    const checks = [{ key: "cables-seen", label: "Cables", state: null, check_id: null, observation: null }];
    const judgement = { rooms: [{ id: here().id, checks }], points: [], notes: [] } as unknown as Judgement;
    useInspection.setState({ model: { ...model(), judgement } });
    shown();
    expect(screen.getByRole("button", { name: /Rest OK/ })).toBeTruthy();
  });
});

describe("rooms beside each other", () => {
  const judged = (...rooms: object[]) => {
    const judgement = { rooms, points: [], notes: [] } as unknown as Judgement;
    useInspection.setState({ model: { ...model(), judgement } });
  };

  it("on a phone say how far each is", () => {
    shown(<RoomStrip room={here()} add={() => undefined} />);
    expect(screen.getByRole("button", { name: "Hall, 0 left" })).toBeTruthy();
    act(() => judged({ id: here().id, checks: [], left: 0, unopened: 0, seen: true }));
    expect(screen.getByRole("button", { name: "Hall, seen" })).toBeTruthy();
  });

  it("stand on their floors from the roof down, one that was not reached with its reason", () => {
    addRoom({ name: "Loft", floor: "roof space" });
    const loft = here().id;
    addRoom({ name: "Landing", floor: "first" });
    judged({ id: loft, checks: [], unopened: 2 });
    act(() => setField({ kind: "room", id: loft, field: "not_reached" }, "locked"));
    shown(<RoomPlan room={here()} add={() => undefined} />);
    const names = screen.getAllByRole("button").map((one) => one.textContent);
    expect(names.map((name) => /Loft|Landing|Hall|room/.exec(name)?.[0])).toEqual(["Loft", "Landing", "Hall", "room"]);
    expect(screen.getByRole("button", { name: /2\. Loft: locked, 0 points/ })).toBeTruthy();
    expect(screen.getByText(/open 2/)).toBeTruthy();
  });
});
