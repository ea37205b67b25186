import { ChakraProvider } from "@chakra-ui/react";
import { act, cleanup, render, screen } from "@testing-library/react";
import type { ReactNode } from "react";
import { afterEach, expect, it, vi } from "vitest";
import type { Judgement } from "../api/client";
import { open } from "../inspection/model";
import { useInspection } from "../inspection/open";
import { system } from "../theme/system";
import { PointRow } from "./PointRow";
import { shortNames, usePoints } from "./points";
import { select } from "./walking";

vi.mock("./PointDetails", () => ({ PointDetails: ({ name }: { name: string }) => <p>details of {name}</p> }));

const drawn = vi.hoisted(() => [] as string[]);

interface Plain {
  label?: string;
  pressed?: boolean;
  expanded?: boolean;
  children: ReactNode;
}

vi.mock("../ui/Button", () => ({
  Button: ({ label, pressed, expanded, children }: Plain) => {
    if (label?.endsWith(": more")) drawn.push(label);
    return (
      <button aria-label={label} aria-pressed={pressed} aria-expanded={expanded}>
        {children}
      </button>
    );
  },
}));

const SOCKETS = 40;

const home = (values: Record<string, object> = {}, observed: object[] = []) => {
  const points = Array.from({ length: SOCKETS }, (_, at) => ({
    kind: "point",
    id: `p${at + 1}`,
    parent_id: "i",
    values: { kind: "socket", room_id: "r", position: at + 1, ...values[`p${at + 1}`] },
  }));
  const entities = [
    { kind: "inspection", id: "i", parent_id: "f", values: {} },
    { kind: "room", id: "r", parent_id: "i", values: { name: "Hall", position: 1 } },
    ...points,
    ...observed,
  ];
  const judgement = { points: [], rooms: [], notes: [], looks: {} } as unknown as Judgement;
  return open({ id: "i", seq: 1, state: "in hand", may: ["write"], entities, judgement } as never, []);
};

function Hall() {
  const points = usePoints("r");
  const names = shortNames(points);
  return points.map((point, at) => <PointRow key={point.id} point={point} name={names[at] ?? "point"} />);
}

const shown = () =>
  render(
    <ChakraProvider value={system}>
      <Hall />
    </ChakraProvider>,
  );

afterEach(() => {
  cleanup();
  drawn.length = 0;
  select(null);
});

it("one tap in a room of forty sockets draws that one anew, and no other", () => {
  const before = home();
  useInspection.setState({ model: before });
  shown();
  drawn.length = 0;
  const tapped = before.entities.p7!;
  const entities = { ...before.entities, p7: { ...tapped, values: { ...tapped.values, looked: "fine" } } };
  act(() => useInspection.setState({ model: { ...before, entities } }));
  expect(drawn).toEqual(["socket 7: more"]);
  expect(screen.getAllByRole("button", { name: "OK", pressed: true })).toHaveLength(1);
});

it("the chosen one unfolds, and the one chosen before folds up", async () => {
  useInspection.setState({ model: home() });
  shown();
  act(() => select("p3"));
  expect(await screen.findByText("details of socket 3")).toBeTruthy();
  act(() => select("p4"));
  expect(await screen.findByText("details of socket 4")).toBeTruthy();
  expect(screen.queryByText("details of socket 3")).toBeNull();
});

it("what was recorded at a point stands there by its codes, and what was taken out does not", () => {
  const seen = (id: string, code: string, removed = false) => ({
    kind: "observation",
    id,
    parent_id: "i",
    values: { about_entity: "point", about_id: "p2", code, removed },
  });
  useInspection.setState({ model: home({}, [seen("a", "C3"), seen("b", "C2"), seen("c", "C1", true)]) });
  shown();
  expect(screen.getAllByRole("button", { name: /^Defect: / }).map((one) => one.textContent)).toEqual(["C3 C2"]);
});
