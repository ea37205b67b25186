import { ChakraProvider } from "@chakra-ui/react";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, render, screen } from "@testing-library/react";
import { MemoryRouter, Route, Routes } from "react-router";
import { afterEach, expect, it, vi } from "vitest";
import type { Judgement, Me } from "../api/client";
import { open } from "../inspection/model";
import { useInspection } from "../inspection/open";
import { system } from "../theme/system";
import InspectionScreen from "./InspectionScreen";

const drawn = vi.hoisted(() => ({ times: 0 }));

// Parts of the frame: each watches what it shows, and has tests of its own.
vi.mock("./RunSheet", () => ({
  RunSheet: ({ stage }: { stage: string }) => {
    drawn.times++;
    return <p>stages, at {stage}</p>;
  },
}));
vi.mock("./TopBar", () => ({ TopBar: () => null }));
vi.mock("./Margin", () => ({ Margin: () => null }));
vi.mock("./ReadingPad", () => ({ ReadingPad: () => null }));
vi.mock("./SpokenVerdict", () => ({ SpokenVerdict: () => null }));
vi.mock("../observations/Observations", () => ({ default: () => <p>observations</p>, Observations: () => null }));
vi.mock("../api/reference", () => ({ useReference: () => ({}), useObservable: () => [], useParkable: () => [] }));
// The way to the server has its own tests; here an inspection is open already.
vi.mock("../inspection/open", async (original) => ({
  ...(await original<typeof import("../inspection/open")>()),
  load: () => Promise.resolve(),
}));

const me = { id: "ruth", firm_id: "firm", email: "ruth@breakwater.example", may: [] } as unknown as Me;

const home = (id: string) =>
  open(
    {
      id,
      seq: 1,
      state: "in hand",
      may: ["write"],
      entities: [{ kind: "inspection", id, parent_id: "f", values: {} }],
      judgement: { notes: [], stages: [] } as unknown as Judgement,
    } as never,
    [],
  );

const shown = () =>
  render(
    <ChakraProvider value={system}>
      <QueryClientProvider client={new QueryClient()}>
        <MemoryRouter initialEntries={["/inspection/i/observations"]}>
          <Routes>
            <Route path="/inspection/:id/:stage" element={<InspectionScreen me={me} />} />
          </Routes>
        </MemoryRouter>
      </QueryClientProvider>
    </ChakraProvider>,
  );

afterEach(() => {
  cleanup();
  drawn.times = 0;
  useInspection.setState({ model: null, error: null });
});

it("an entry draws what shows it, not the whole screen", () => {
  const before = home("i");
  useInspection.setState({ model: before });
  shown();
  expect(screen.getByText("stages, at observations")).toBeTruthy();
  const times = drawn.times;
  const inspection = before.entities.i!;
  const entities = { i: { ...inspection, values: { condition: "Worn" } } };
  act(() => useInspection.setState({ model: { ...before, entities } }));
  act(() => useInspection.setState({ model: { ...before, entities, seq: 2, judgedSeq: 2 } }));
  expect(drawn.times).toBe(times);
});

it("another inspection than the one asked for is never shown as it", () => {
  useInspection.setState({ model: home("other") });
  shown();
  expect(screen.queryByText(/stages, at/)).toBeNull();
  expect(screen.getByText(/Opening the inspection/)).toBeTruthy();
});

it("what stands on screen stays there when the server answers with trouble", () => {
  useInspection.setState({ model: home("i"), error: "The server cannot be reached." });
  shown();
  expect(screen.getByText("stages, at observations")).toBeTruthy();
  expect(screen.getByRole("alert").textContent).toContain("The server cannot be reached.");
});

it("where nothing can be shown, it says why and offers to try again", () => {
  useInspection.setState({ model: null, error: "There is no such inspection." });
  shown();
  expect(screen.getByText(/There is no such inspection/)).toBeTruthy();
  expect(screen.getByRole("button", { name: /again/i })).toBeTruthy();
});
