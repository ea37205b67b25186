import "fake-indexeddb/auto";
import { ChakraProvider } from "@chakra-ui/react";
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import type { Judgement, Schemas } from "../api/client";
import { useDesk } from "../inspection/desk";
import { children } from "../inspection/model";
import { add, begin, leave, useInspection } from "../inspection/open";
import { system } from "../theme/system";
import { Suggested } from "./Suggested";

// There is no server: what is entered waits on the device.
vi.hoisted(() => {
  globalThis.fetch = () => Promise.reject(new TypeError("Failed to fetch"));
});

const told = vi.hoisted(() => [] as { said: string; undo: (() => void) | undefined }[]);
vi.mock("../api/reference", () => ({ useFieldSpec: () => undefined }));
vi.mock("../ui/tell", () => ({ tell: (said: string, undo?: () => void) => told.push({ said, undo }) }));

const model = () => useInspection.getState().model!;
const of = (kind: "observation" | "declined") => children(model(), kind, model().id).map((child) => child.values);
let cooker = "";

function shown(more: Partial<Schemas["Suggestion"]> = {}, may = ["write", "decide"]): void {
  const one = {
    key: "zs-high",
    title: "Zs above its limit",
    code: "C2",
    why: "A fault may not be cleared in time.",
    moved: "",
    questions: [],
    entity: "circuit",
    entity_id: cooker,
    touches: [],
    because: ["2 Cooker: Zs 1.62 Ω, limit 1.09 Ω."],
    recorded: null,
    declined: "",
    ...more,
  };
  const judgement = { suggested: [one], notes: [] } as unknown as Judgement;
  useInspection.setState({ model: { ...model(), judgement, may: may as never } });
  render(
    <ChakraProvider value={system}>
      <Suggested weight={() => 0} />
    </ChakraProvider>,
  );
}

beforeEach(() => {
  told.length = 0;
  begin({ id: "ruth", firm_id: "firm" }, { reference: "K-1" });
  const board = add("board", model().id, { name: "Board 1", position: 1 });
  cooker = add("circuit", board, { way: "2", designation: "Cooker", position: 2 });
});
afterEach(() => {
  cleanup();
  leave();
});

const press = (name: string) => userEvent.click(screen.getByRole("button", { name }));

it("taken as it is, it stands where its cause is, with its code, and can be taken back", async () => {
  shown({ moved: "C3, since an RCD gives fault protection.", code: "C3" });
  await press("Record: Zs above its limit");
  expect(of("observation")).toMatchObject([
    {
      about_entity: "circuit",
      about_id: cooker,
      text: "Zs above its limit",
      catalogue_key: "zs-high",
      code: "C3",
      code_reason: "C3, since an RCD gives fault protection.",
    },
  ]);
  expect(told[0]!.said).toBe("C3: Zs above its limit.");
  told[0]!.undo!();
  expect(of("observation")).toEqual([]);
});

it("who does not decide records it without a code, and refuses nothing", async () => {
  shown({}, ["write"]);
  expect(screen.queryByRole("button", { name: "Dismiss: Zs above its limit" })).toBeNull();
  await press("Record: Zs above its limit");
  expect(of("observation")).toHaveLength(1);
  expect(of("observation")[0]).not.toHaveProperty("code");
});

it("is refused with a reason and not without one", async () => {
  shown();
  await press("Dismiss: Zs above its limit");
  const refuse = screen.getByRole("button", { name: "Dismiss" });
  expect(refuse).toHaveProperty("disabled", true);
  await userEvent.type(screen.getByLabelText("Why it is not raised"), "   {Enter}");
  expect(of("declined")).toEqual([]);
  await userEvent.type(screen.getByLabelText("Why it is not raised"), "Wrong end of line");
  await userEvent.click(refuse);
  expect(of("declined")).toMatchObject([{ about_id: cooker, catalogue_key: "zs-high", reason: "Wrong end of line" }]);
  expect(of("observation")).toEqual([]);
});

it("what was refused stands with its reason, and can be thought of again", async () => {
  const declined = { about_id: cooker, catalogue_key: "zs-high", reason: "Wrong end of line" };
  add("declined", model().id, declined);
  shown({ declined: "Wrong end of line" });
  expect(screen.queryByRole("button", { name: "Record: Zs above its limit" })).toBeNull();
  await userEvent.click(screen.getByText("1 refused, with the reason"));
  expect(screen.getByText("Wrong end of line")).toBeTruthy();
  await press("Reopen");
  expect(of("declined")).toEqual([]);
});

it("a question answered opens it with the code that follows, for somebody to decide", async () => {
  shown({
    questions: [
      { fact: "rcd", ask: "Does an RCD give fault protection?", code: "C3", says: "an RCD gives it" },
    ] as never,
  });
  await press("Yes: C3");
  expect(useDesk.getState().observing).toMatchObject({ id: cooker, raise: "zs-high", code: "C3" });
  expect(of("observation")).toEqual([]);
});
