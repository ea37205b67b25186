import { ChakraProvider } from "@chakra-ui/react";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, render, screen } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import type { Me } from "../api/client";
import { standInForRequest } from "../api/standIns.testing";
import { open } from "../inspection/model";
import { noteState, useInspection } from "../inspection/open";
import { useSigned } from "../inspection/signatures";
import { system } from "../theme/system";
import { Review } from "./Review";

const me = { id: "ines", name: "Ines Pector", firm_id: "firm", may: [] } as unknown as Me;
const submitted = {
  number: 1, kind: "submitted", at: "2026-12-02T10:00:00Z", name: "Ines Pector", words: null, signed: "typed",
  signed_at: "2026-12-02T08:00:00Z",
}; // prettier-ignore

/** The server: the steps that it knows of, and how often it was asked. */
const server = vi.hoisted(() => {
  const known = { steps: [] as object[], asked: 0 };
  globalThis.fetch = () => {
    known.asked++;
    const { steps } = known;
    const review = { seq: 4, steps, in_review: steps.length > 0, reopened: [], since_look: null };
    return Promise.resolve(Response.json(review));
  };
  return known;
});

beforeEach(() => {
  standInForRequest();
  Object.assign(server, { steps: [], asked: 0 });
});

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
  useInspection.setState({ model: null });
  useSigned.setState({}, true);
});

function shown() {
  const inspection = { kind: "inspection", id: "i", parent_id: "f", values: {} };
  const opened = {
    id: "i",
    seq: 4,
    state: "in hand",
    may: ["submit"],
    entities: [inspection],
    judgement: { notes: [] },
  };
  useInspection.setState({ model: open(opened as never, []) });
  return render(
    <ChakraProvider value={system}>
      <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
        <MemoryRouter>
          <Review me={me} seq={4} hindered={false} hinderedHere={false} issued={0} unchanged={false} />
        </MemoryRouter>
      </QueryClientProvider>
    </ChakraProvider>,
  );
}

it("a signature that waited here and went through is shown, though nothing else of the inspection changed", async () => {
  shown();
  await screen.findByRole("button", { name: "Sign and submit for review" });
  const signed = { inspectionId: "i", author: "ines", signature: {}, seq: 4, changes: [], at: "2026-12-02T08:00:00Z" };
  act(() => useSigned.setState({ i: signed as never }));
  await screen.findByText(/on this device/);
  // It goes: the server has the step, this device lets go of it.
  server.steps = [submitted];
  act(() => {
    useSigned.setState({}, true);
    noteState("in review");
  });
  await screen.findByText(/on a device that was away/);
});

it("what was asked before somebody submitted elsewhere is asked again", async () => {
  shown();
  await screen.findByRole("button", { name: "Sign and submit for review" });
  server.steps = [submitted];
  act(() => noteState("in review"));
  await screen.findByText(/on a device that was away/);
  expect(server.asked).toBe(2);
});
