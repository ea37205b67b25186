import { ChakraProvider } from "@chakra-ui/react";
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import type { Judgement } from "../api/client";
import { open } from "../inspection/model";
import { useInspection } from "../inspection/open";
import { system } from "../theme/system";
import { BoardTree } from "./BoardTree";

const entity = (kind: string, id: string, parent_id: string, values: Record<string, unknown>) => ({
  kind,
  id,
  parent_id,
  values,
});
const note = (id: string, standing: string, because_of: unknown = null) => ({ id, field: "x", standing, because_of });

beforeEach(() => {
  const entities = [
    entity("inspection", "i", "f", {}),
    // The one that is fed stands first: the drawing puts it behind the way that feeds it all the same.
    entity("board", "shed", "i", { name: "Pump shed", position: 1, fed_by: "c9", earthing: "own electrode" }),
    entity("board", "main", "i", { name: "Board 1", position: 2 }),
    entity("circuit", "c8", "main", { way: "8", designation: "Lights" }),
    entity("circuit", "c9", "main", { way: "9", designation: "Pump shed" }),
    entity("circuit", "s1", "shed", { way: "1", designation: "Pump" }),
  ];
  const notes = [note("main", "attention"), note("main", "fail"), note("shed", "fail", { id: "main", field: "x" })];
  const judgement = { notes } as unknown as Judgement;
  useInspection.setState({
    model: open({ id: "i", seq: 1, may: ["write"], entities: entities as never, judgement }, []),
  });
});
afterEach(cleanup);

const drawn = (choose = vi.fn()) => {
  render(
    <ChakraProvider value={system}>
      <BoardTree chosen="main" choose={choose} />
    </ChakraProvider>,
  );
  return choose;
};
const box = (name: string) => screen.getByRole("button", { name: new RegExp(`^${name},`) });
const left = (name: string) => Number(box(name).querySelector("rect")?.getAttribute("x"));

it("a board stands behind the way that feeds it, and says which", () => {
  drawn();
  expect(screen.getAllByRole("button").map((one) => one.getAttribute("aria-label"))).toEqual([
    "Board 1, 2 circuits",
    "Pump shed, from way 9 Pump shed · 1 circuit",
  ]);
  expect(left("Pump shed")).toBeGreaterThan(left("Board 1"));
});

it("the worst of what is said of a board marks it; what follows from another marks nothing", () => {
  drawn();
  const discs = (name: string) => box(name).querySelectorAll("circle").length;
  expect([discs("Board 1"), discs("Pump shed")]).toEqual([1, 0]);
  expect(box("Board 1").querySelector("circle")?.getAttribute("fill")).not.toBe("none");
});

it("an electrode of its own is drawn under the board that has it, and no other", () => {
  drawn();
  const earths = (name: string) => box(name).querySelectorAll("path").length;
  expect([earths("Board 1"), earths("Pump shed")]).toEqual([0, 1]);
});

it("a board is taken up by a tap and by keyboard", async () => {
  const choose = drawn();
  await userEvent.click(box("Pump shed"));
  box("Pump shed").focus();
  await userEvent.keyboard("{Enter}");
  await userEvent.keyboard(" ");
  expect(choose.mock.calls).toEqual([["shed"], ["shed"], ["shed"]]);
  expect(box("Board 1").getAttribute("aria-pressed")).toBe("true");
});
