import { cleanup, render, screen } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";
import { open } from "../inspection/model";
import { useInspection } from "../inspection/open";
import { ReadingPad } from "./ReadingPad";

vi.mock("../api/reference", () => ({ useFieldSpec: () => undefined, useReference: () => undefined }));

afterEach(() => {
  cleanup();
  useInspection.setState({ model: null });
});

function shown(circuit: Record<string, unknown> | null) {
  const entities = [
    { kind: "inspection", id: "i", parent_id: "f", values: {} },
    { kind: "board", id: "b", parent_id: "i", values: {} },
    ...(circuit ? [{ kind: "circuit", id: "c", parent_id: "b", values: circuit }] : []),
  ];
  const known = { id: "i", seq: 1, state: "in hand", may: ["write"], entities, judgement: { notes: [] } };
  useInspection.setState({ model: open(known as never, []) });
  render(<ReadingPad />);
  return screen.getByLabelText("Reading pad").children.length;
}

it("keeps room for its keys until the figures of the stage are there", () => {
  expect(shown({})).toBe(2);
});

it("keeps none where there will be no figure", () => {
  expect(shown(null)).toBe(1);
  cleanup();
  expect(shown({ removed: true })).toBe(1);
});
