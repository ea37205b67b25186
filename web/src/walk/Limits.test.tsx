import "fake-indexeddb/auto";
import { ChakraProvider } from "@chakra-ui/react";
import { cleanup, render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { MemoryRouter } from "react-router";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import type { Judgement, Schemas } from "../api/client";
import { children } from "../inspection/model";
import { begin, leave, useInspection } from "../inspection/open";
import { system } from "../theme/system";
import { Limits } from "./Limits";

// There is no server: what is entered waits on the device.
vi.hoisted(() => {
  globalThis.fetch = () => Promise.reject(new TypeError("Failed to fetch"));
});

// What was agreed has a screen of its own.
vi.mock("../limits/Agreed", () => ({ Agreed: () => null }));

const model = () => useInspection.getState().model!;
const agreed = () => children(model(), "limitation", model().id).map((limitation) => limitation.values);

const limited = (what: string, whom: string, why: string, entity_id: string): Schemas["Limited"] =>
  ({ what, whom, why, entity: "circuit", entity_id, field: what, circuit_id: entity_id }) as Schemas["Limited"];

function shown(limits: Schemas["Limited"][], share: Partial<Schemas["LimitedShare"]> = {}): void {
  const whole = {
    tests: 20,
    limited_tests: 3,
    points: 0,
    limited_points: 0,
    share: 0.15,
    riskiest: "",
    says: "",
    warning: null,
  };
  const judgement = { limits, limited_share: { ...whole, ...share }, notes: [] } as unknown as Judgement;
  useInspection.setState({ model: { ...model(), judgement } });
  render(
    <ChakraProvider value={system}>
      <MemoryRouter>
        <Limits />
      </MemoryRouter>
    </ChakraProvider>,
  );
}

const line = (words: string) => screen.getAllByRole("listitem").find((one) => one.textContent.includes(words))!;
const agree = (words: string) => within(line(words)).queryByRole("button", { name: "Agreed with …" });

beforeEach(() => {
  begin({ id: "ruth", firm_id: "firm" }, { reference: "K-1" });
});
afterEach(() => {
  cleanup();
  leave();
});

it("the same with the same reason is one line, and is agreed for each it concerns", async () => {
  shown([
    limited("Zs", "1 Sockets", "RCD trips on the test", "c1"),
    limited("Zs", "2 Cooker", "RCD trips on the test", "c2"),
    limited("Zs", "3 Lights", "No reason was given", "c3"),
  ]);
  expect(screen.getAllByRole("listitem")).toHaveLength(2);
  await userEvent.click(agree("1 Sockets, 2 Cooker")!);
  expect(agreed()).toMatchObject([
    { about_entity: "circuit", about_id: "c1", what: "Zs: 1 Sockets", reason: "RCD trips on the test" },
    { about_entity: "circuit", about_id: "c2", what: "Zs: 2 Cooker", reason: "RCD trips on the test" },
  ]);
  expect(agree("1 Sockets, 2 Cooker")).toBeNull();
  expect(agree("3 Lights")).toBeTruthy();
});

it("a circuit limited in two ways is agreed in each, not in one for both", async () => {
  shown([
    limited("Zs", "1 Sockets", "RCD trips on the test", "c1"),
    limited("L+N–E", "1 Sockets", "Freezer may not go off", "c1"),
  ]);
  await userEvent.click(agree("RCD trips")!);
  expect(agree("RCD trips")).toBeNull();
  await userEvent.click(agree("Freezer")!);
  expect(agreed().map((one) => one.what)).toEqual(["Zs: 1 Sockets", "L+N–E: 1 Sockets"]);
});

it("the share stands large, with what it hides and what the report cannot claim", () => {
  shown([], {
    share: 0.3,
    points: 10,
    limited_points: 3,
    riskiest: "The one at most risk is 3 Lights.",
    warning: "3 of 10 points were not reached (30%).",
  });
  expect(screen.getByText("30 %")).toBeTruthy();
  expect(screen.getByText("3 of 20 tests and 3 of 10 points are limited.")).toBeTruthy();
  expect(screen.getByText("The one at most risk is 3 Lights.")).toBeTruthy();
  expect(screen.getByText("3 of 10 points were not reached (30%).")).toBeTruthy();
});
